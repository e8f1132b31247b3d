import { describe, expect, it } from "vitest";
import { problemFrom, unwrap } from "./client";

describe("errors of a call", () => {
  it("are the server's, also where a file was sent", async () => {
    const refused = problemFrom({ title: "It is not a clip.", remedy: "Choose another file." }, 422);
    await expect(unwrap(Promise.reject(refused))).rejects.toBe(refused);
  });

  it("say that the server cannot be reached for anything else", async () => {
    await expect(unwrap(Promise.reject(new TypeError("network")))).rejects.toMatchObject({ status: 0 });
  });
});
