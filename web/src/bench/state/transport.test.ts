import { describe, expect, it } from "vitest";
import { Transport } from "./transport";

describe("playing", () => {
  it("moves the frame and lets all else rest where it began", () => {
    const transport = new Transport({ frames: 100, rate: "25" });
    const rests: number[] = [];
    transport.store.subscribe(({ rest }) => rests.push(rest));
    transport.toggle();
    for (let picture = 0; picture < 10; picture++) transport.advance(0.04);
    expect(transport.frame).toBe(60);
    expect(new Set(rests)).toEqual(new Set([50]));
    transport.stop();
    expect(transport.store.getState()).toMatchObject({ frame: 60, rest: 60, speed: 0 });
  });

  it("goes round, either way", () => {
    const transport = new Transport({ frames: 10, rate: "1" });
    transport.faster(1);
    transport.advance(7);
    expect(transport.frame).toBe(2);
    transport.faster(-1);
    transport.advance(5);
    expect(transport.frame).toBe(7);
  });

  it("stops when it is stepped, and stays within the clip", () => {
    const transport = new Transport({ frames: 10, rate: "25" });
    transport.toggle();
    transport.step(1);
    expect(transport.store.getState()).toMatchObject({ frame: 6, rest: 6, speed: 0 });
    transport.go(99);
    expect(transport.frame).toBe(9);
  });

  it("follows a player that drives it, and tells it when the playhead is moved meanwhile", () => {
    const transport = new Transport({ frames: 100, rate: "25" });
    transport.toggle();
    transport.drive(true);
    transport.follow(70);
    expect(transport.store.getState()).toMatchObject({ frame: 70, rest: 50, sought: 0 });
    transport.go(20);
    expect(transport.store.getState()).toMatchObject({ frame: 20, speed: 1, sought: 1 });
    transport.stop();
    transport.go(30);
    expect(transport.store.getState()).toMatchObject({ frame: 30, rest: 30, sought: 1 });
  });
});
