import { create } from "zustand";
import { api, type Problem, unwrap } from "../api/client";
import { sendFile } from "./sending";

export type Upload = {
  key: number;
  name: string;
  /** Names of the files that it consists of. */
  files: string[];
  fraction: number;
  state: "waiting" | "sending" | "broken" | "probing" | "refused";
  problem: Problem | null;
  stop: () => void;
};

type Store = {
  uploads: Upload[];
  addAll: (projectId: number, files: File[], onAccepted: () => void) => void;
  close: (key: number) => void;
};

let lastKey = 0;
/** Files go one after another, so that clips stand on the board in the order they were chosen in. */
let line: Promise<void> = Promise.resolve();
const STILL = /^image\/(png|jpeg|tiff)$/;

/** Files on their way in. Each is sent in pieces, with progress, and can be stopped. */
export const useUploads = create<Store>((set) => {
  const change = (key: number, fields: Partial<Upload>) =>
    set(({ uploads }) => ({
      uploads: uploads.map((item) => (item.key === key ? { ...item, ...fields } : item)),
    }));
  const close = (key: number) =>
    set(({ uploads }) => ({ uploads: uploads.filter((item) => item.key !== key) }));

  /** Stills go together, so that the server can tell which of them are one sequence; clips go one by one. */
  function addAll(projectId: number, files: File[], onAccepted: () => void) {
    const stills = files.filter((file) => STILL.test(file.type));
    const clips = files.filter((file) => !STILL.test(file.type));
    for (const file of clips) send(projectId, [file], onAccepted);
    if (stills.length) send(projectId, stills, onAccepted);
  }

  function send(projectId: number, files: File[], onAccepted: () => void) {
    const key = ++lastKey;
    const all = files.reduce((bytes, { size }) => bytes + size, 0);
    let stopped = false;
    let stopNow: () => void = () => undefined;
    const upload: Upload = {
      key,
      name: files.length === 1 ? (files[0]?.name ?? "") : `${files.length} stills`,
      files: files.map(({ name }) => name),
      fraction: 0,
      state: "waiting",
      problem: null,
      stop: () => {
        stopped = true;
        stopNow();
        close(key);
      },
    };

    async function sendAll(): Promise<string[]> {
      const tokens: string[] = [];
      let before = 0;
      for (const file of files) {
        const onSent = (bytes: number) =>
          change(key, { state: "sending", fraction: (before + bytes) / Math.max(1, all) });
        const going = sendFile(projectId, file, onSent, () => change(key, { state: "broken" }));
        const halted = new Promise<null>((resolve) => {
          stopNow = () => {
            going.stop();
            resolve(null);
          };
        });
        if (stopped) stopNow();
        const token = await Promise.race([going.arrived, halted]);
        if (token === null) return [];
        tokens.push(token);
        before += file.size;
      }
      return tokens;
    }

    async function goThrough() {
      if (stopped) return;
      change(key, { state: "sending" });
      try {
        const uploads = await sendAll();
        if (stopped) return;
        change(key, { state: "probing", fraction: 1 });
        const params = { path: { project_id: projectId } };
        await unwrap(api.POST("/api/projects/{project_id}/sent", { params, body: { uploads } }));
        close(key);
        onAccepted();
      } catch (problem) {
        change(key, { state: "refused", problem: problem as Problem });
      }
    }

    set(({ uploads }) => ({ uploads: [...uploads, upload] }));
    line = line.then(goThrough);
  }

  return { uploads: [], addAll, close };
});

/** Whether any file is not wholly sent yet. */
export const uploading = () =>
  useUploads.getState().uploads.some(({ state }) => !["probing", "refused"].includes(state));
