import { create } from "zustand";
import { csrfToken, type Problem, problemFrom } from "../api/client";

export type Upload = {
  key: number;
  name: string;
  fraction: number;
  state: "waiting" | "sending" | "probing" | "refused";
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

/** Files on their way in. Each is sent as it is read, with progress, and can be stopped. */
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
    for (const file of clips) send(`/api/projects/${projectId}/footage`, "file", [file], onAccepted);
    if (stills.length) send(`/api/projects/${projectId}/stills`, "files", stills, onAccepted);
  }

  function send(address: string, field: string, files: File[], onAccepted: () => void) {
    const key = ++lastKey;
    // fetch tells nothing of how far an upload is; this does.
    const request = new XMLHttpRequest();
    request.open("POST", address);
    request.setRequestHeader("X-CSRFToken", csrfToken());
    request.responseType = "json";
    request.upload.onprogress = ({ loaded, total }) => change(key, { fraction: loaded / Math.max(1, total) });
    request.upload.onload = () => change(key, { state: "probing", fraction: 1 });
    let over: () => void = () => undefined;
    let stopped = false;
    request.onloadend = () => over();
    request.onabort = () => close(key);
    request.onerror = () => change(key, { state: "refused", problem: problemFrom(null, 0) });
    request.onload = () => {
      if (request.status < 300) {
        close(key);
        onAccepted();
      } else change(key, { state: "refused", problem: problemFrom(request.response, request.status) });
    };
    const upload: Upload = {
      key,
      name: files.length === 1 ? (files[0]?.name ?? "") : `${files.length} stills`,
      fraction: 0,
      state: "waiting",
      problem: null,
      stop: () => {
        stopped = true;
        request.abort();
        close(key);
      },
    };
    set(({ uploads }) => ({ uploads: [...uploads, upload] }));
    const form = new FormData();
    for (const file of files) form.append(field, file);
    line = line.then(
      () =>
        new Promise((resolve) => {
          if (stopped) return resolve();
          over = resolve;
          change(key, { state: "sending" });
          request.send(form);
        }),
    );
  }

  return { uploads: [], addAll, close };
});

/** Whether any file is not wholly sent yet. */
export const uploading = () =>
  useUploads.getState().uploads.some(({ state }) => state === "waiting" || state === "sending");
