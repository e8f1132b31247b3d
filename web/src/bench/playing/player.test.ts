import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { Player, type Wanted } from "./player";

type Question = { turn: number; time: string; signal: AbortSignal; answer: () => void };

const wanted = (lines: number): Wanted => ({
  framingId: 1,
  designs: [],
  lines,
  source: false,
  alone: false,
  stamp: "",
});

let questions: Question[];

/** A server that answers on command, with a stream that never gets past its header. */
function asked(_: string, init: RequestInit): Promise<Response> {
  const signal = init.signal as AbortSignal;
  const { turn, time } = JSON.parse(String(init.body));
  return new Promise((answered, refused) => {
    signal.addEventListener("abort", () => refused(signal.reason));
    const answer = () => {
      const body = new ReadableStream({
        start: (stream) => signal.addEventListener("abort", () => stream.error(signal.reason)),
      });
      const head = { picture: "a", sound: null, width: 2, height: 2, across: 1, down: 1, start: 0 };
      answered(
        new Response(body, {
          headers: { "Cadrage-Play": JSON.stringify({ ...head, loop_start: 0, loop_length: 9, speed: 1 }) },
        }),
      );
    };
    questions.push({ turn, time, signal, answer });
  });
}

class Source extends EventTarget {
  updating = false;
  buffered = { length: 0 };
  act = () => queueMicrotask(() => this.dispatchEvent(new Event("updateend")));
  abort() {}
  remove = this.act;
  appendBuffer = this.act;
}

class Media extends EventTarget {
  constructor() {
    super();
    setTimeout(() => this.dispatchEvent(new Event("sourceopen")));
  }
  addSourceBuffer = () => new Source();
  static isTypeSupported = () => true;
}

beforeEach(() => {
  questions = [];
  const video = Object.assign(new EventTarget(), {
    pause() {},
    requestVideoFrameCallback() {},
    currentTime: 0,
    readyState: 4,
    HAVE_FUTURE_DATA: 3,
    paused: true,
  });
  vi.stubGlobal("document", { createElement: () => video, cookie: "" });
  vi.stubGlobal("localStorage", { getItem: () => null });
  vi.stubGlobal("window", { MediaSource: Media });
  vi.stubGlobal("MediaSource", Media);
  vi.stubGlobal("fetch", asked);
  vi.spyOn(URL, "createObjectURL").mockReturnValue("blob:");
  vi.spyOn(URL, "revokeObjectURL").mockReturnValue();
});

afterEach(() => {
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

const open = () => questions.filter(({ signal }) => !signal.aborted);
const rests = () => new Promise((rested) => setTimeout(rested, 160));

function playing() {
  const player = new Player(() => {});
  player.want(wanted(540));
  player.start("0", 1);
  return player;
}

test("while the server makes ready nothing else is asked, and then only the newest", async () => {
  const player = playing();
  questions[0]?.answer();
  await rests();
  for (const lines of [541, 542, 543]) {
    player.want(wanted(lines));
    await rests();
  }
  expect(questions).toHaveLength(2);
  questions[1]?.answer();
  await vi.waitFor(() => expect(questions).toHaveLength(3));
  await rests();
  expect(questions).toHaveLength(3);
  expect(open()).toHaveLength(1);
});

test("who stops and starts again asks in a later turn", async () => {
  const player = playing();
  player.stop();
  player.start("2", 1);
  await rests();
  expect(questions.map(({ turn }) => turn)).toEqual([1, 2]);
  expect(open().map(({ time }) => time)).toEqual(["2"]);
  player.want(wanted(541));
  await rests();
  expect(questions).toHaveLength(2);
});
