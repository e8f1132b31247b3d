import type { DetailedError } from "tus-js-client";
import { csrfToken, type Problem, problemFrom } from "../api/client";

const PIECE = 64 * 2 ** 20;
/** Smaller files are sent again from the start; larger ones resume, also after the page was loaded again. */
const WORTH_KEEPING = 8 * 2 ** 20;
const AGAIN_MS = [1, 2, 4, 8, 15, 30, 30, 30, 30, 30].map((seconds) => seconds * 1000);
/** Statuses of a server that will not change on a second try. */
const FINAL = [507, 501];
const STALE = 409;

export type Going = {
  /** The name under which the server knows the file, once it has all of it. */
  arrived: Promise<string>;
  stop: () => void;
};

/** Send a file in pieces; it resumes when the connection breaks. A refusal is thrown as a Problem. */
export function sendFile(
  projectId: number,
  file: File,
  onSent: (bytes: number) => void,
  onBroken: () => void,
): Going {
  let stop: () => void = () => undefined;
  let stopped = false;
  const arrived = import("tus-js-client").then(
    ({ Upload }) =>
      new Promise<string>((resolve, reject) => {
        const upload = new Upload(file, {
          endpoint: `/api/projects/${projectId}/uploads`,
          chunkSize: PIECE,
          metadata: { filename: file.name },
          uploadDataDuringCreation: true,
          storeFingerprintForResuming: file.size > WORTH_KEEPING,
          removeFingerprintOnSuccess: true,
          retryDelays: AGAIN_MS,
          onBeforeRequest: (request) => request.setHeader("X-CSRFToken", csrfToken()),
          onProgress: (bytes) => onSent(bytes),
          onShouldRetry: (error) => {
            const status = statusOf(error as DetailedError);
            const again = status === 0 || status === STALE || (status >= 500 && !FINAL.includes(status));
            if (again) onBroken();
            return again;
          },
          onError: (error) => reject(problemOf(error as DetailedError)),
          onSuccess: () => resolve(upload.url?.split("/").at(-1) ?? ""),
        });
        stop = () => void upload.abort(true).catch(() => undefined);
        if (stopped) return;
        upload
          .findPreviousUploads()
          .then(([before]) => {
            if (before) upload.resumeFromPreviousUpload(before);
            if (!stopped) upload.start();
          })
          .catch(reject);
      }),
  );
  return {
    arrived,
    stop: () => {
      stopped = true;
      stop();
    },
  };
}

const statusOf = (error: DetailedError) => error.originalResponse?.getStatus() ?? 0;

function problemOf(error: DetailedError): Problem {
  try {
    return problemFrom(JSON.parse(error.originalResponse?.getBody() ?? "null"), statusOf(error));
  } catch {
    return problemFrom(null, statusOf(error));
  }
}
