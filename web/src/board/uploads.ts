import { create } from "zustand";
import { csrfToken, type Problem, problemFrom } from "../api/client";

export type Upload = {
  key: number;
  name: string;
  fraction: number;
  state: "sending" | "probing" | "refused";
  problem: Problem | null;
  stop: () => void;
};

type Store = {
  uploads: Upload[];
  add: (projectId: number, file: File, onAccepted: () => void) => void;
  close: (key: number) => void;
};

let lastKey = 0;

/** Files on their way in. Each is sent as it is read, with progress, and can be stopped. */
export const useUploads = create<Store>((set) => {
  const change = (key: number, fields: Partial<Upload>) =>
    set(({ uploads }) => ({
      uploads: uploads.map((item) => (item.key === key ? { ...item, ...fields } : item)),
    }));
  const close = (key: number) =>
    set(({ uploads }) => ({ uploads: uploads.filter((item) => item.key !== key) }));

  function add(projectId: number, file: File, onAccepted: () => void) {
    const key = ++lastKey;
    // fetch tells nothing of how far an upload is; this does.
    const request = new XMLHttpRequest();
    request.open("POST", `/api/projects/${projectId}/footage`);
    request.setRequestHeader("X-CSRFToken", csrfToken());
    request.responseType = "json";
    request.upload.onprogress = ({ loaded, total }) => change(key, { fraction: loaded / Math.max(1, total) });
    request.upload.onload = () => change(key, { state: "probing", fraction: 1 });
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
      name: file.name,
      fraction: 0,
      state: "sending",
      problem: null,
      stop: () => request.abort(),
    };
    set(({ uploads }) => ({ uploads: [...uploads, upload] }));
    const form = new FormData();
    form.append("file", file);
    request.send(form);
  }

  return { uploads: [], add, close };
});
