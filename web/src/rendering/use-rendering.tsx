import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas } from "../api/client";
import { useSend } from "../api/use-send";
import { changesSettled } from "../frames/use-change";
import { useKept } from "../ui/kept";
import { RenderSheet } from "./render-sheet";

type Review = Schemas["ReviewOut"];

/** Reviews that this browser remembers as seen; older ones are shown again. */
const MAX_SEEN = 50;

/**
 * Rendering framings of a project. A sheet shows first how the files will be written and what may not be meant so,
 * unless it was to be skipped for as long as it shows the same. `then` runs once the renders are ordered; errors are in the
 * sheet, in `error` and given to `onError`.
 */
export function useRendering(projectId: number, onError: (problem: unknown) => void = () => undefined) {
  const client = useQueryClient();
  const [asked, setAsked] = useState<{ framings: number[]; then: () => void; review: Review } | null>(null);
  const { seen, remember } = useSeen();
  const { review, order } = useRequests(projectId, onError);
  const busy = review.isPending || order.isPending;
  const problem = review.error ?? order.error;
  const start = (framings: number[], then: () => void) => {
    const onSuccess = () => {
      setAsked(null);
      then();
    };
    order.mutate(framings, { onSuccess });
  };

  async function render(framings: number[], then: () => void = () => undefined) {
    order.reset();
    await changesSettled(client); // the review is about frames as they are stored
    review.mutate(framings, {
      onSuccess: (found) => {
        const skipped = seen.includes(found.fingerprint) && !found.notices.some(({ blocks }) => blocks);
        if (skipped && !asked) start(framings, then);
        else setAsked({ framings, then, review: found });
      },
    });
  }

  const sheet = asked && (
    <RenderSheet
      {...{ projectId, review: asked.review, busy, error: problem }}
      onChanged={() => render(asked.framings, asked.then)}
      onConfirm={({ fingerprint }, remembered) => {
        remember(fingerprint, remembered);
        start(asked.framings, asked.then);
      }}
      onClose={() => setAsked(null)}
    />
  );
  return { render, busy, error: asked ? null : problem, sheet };
}

export type Rendering = ReturnType<typeof useRendering>;

/** The fingerprints of reviews that need not be shown again. */
function useSeen() {
  const [seen, setSeen] = useKept<string[]>("reviews seen", []);
  function remember(fingerprint: string, on: boolean) {
    const others = seen.filter((one) => one !== fingerprint);
    setSeen(on ? [...others, fingerprint].slice(-MAX_SEEN) : others);
  }
  return { seen, remember };
}

function useRequests(projectId: number, onError: (problem: unknown) => void) {
  const path = { params: { path: { project_id: projectId } } };
  const review = useSend(
    (framings: number[]) =>
      api.POST("/api/projects/{project_id}/renders/review", { ...path, body: { framings } }),
    { ordered: true, onError },
  );
  const order = useSend(
    (framings: number[]) => api.POST("/api/projects/{project_id}/renders", { ...path, body: { framings } }),
    { ordered: true, refresh: ["renders", projectId], onError },
  );
  return { review, order };
}
