import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { Render } from "../api/client";
import { AT_WORK, rendersQuery } from "../api/queries";
import { stemOf } from "../ui/stem";

const SHOWN_MS = 12_000;

type Ended = Pick<Render, "id" | "framing" | "clip" | "into" | "state">;

/** Reports a finished render of the project; with a browser notification too, if allowed and the page is hidden. */
export function RenderNotices({ projectId }: { projectId: number }) {
  const { data } = useQuery(rendersQuery(projectId));
  const atWork = useRef(new Set<number>());
  const [ended, setEnded] = useState<Ended | null>(null);
  useEffect(() => {
    if (!data) return;
    const over = data.find(({ id, state }) => atWork.current.has(id) && ["done", "failed"].includes(state));
    atWork.current = new Set(data.filter(({ state }) => AT_WORK.includes(state)).map(({ id }) => id));
    if (!over) return;
    // Who looks at its Check sees it there.
    const here =
      new RegExp(`/framings/${over.framing}$`).test(location.pathname) && /step=check/.test(location.search);
    if (!here) setEnded(over);
    if (document.hidden && "Notification" in window && Notification.permission === "granted")
      new Notification(inWords(over), { tag: `render ${over.id}` });
  }, [data]);
  useEffect(() => {
    if (!ended) return;
    const timer = setTimeout(() => setEnded(null), SHOWN_MS);
    return () => clearTimeout(timer);
  }, [ended]);
  return (
    <div aria-live="polite" className="fixed right-4 bottom-28 z-40">
      {ended && (
        <p className="flex items-baseline gap-3 rounded border border-rule bg-sheet px-4 py-2 shadow-lg">
          {inWords(ended)}
          <Link
            className="text-ochre underline"
            to={`/projects/${projectId}/framings/${ended.framing}?step=check`}
          >
            Open
          </Link>
        </p>
      )}
    </div>
  );
}

const inWords = ({ clip, into, state }: Ended) =>
  `${stemOf(clip)} into ${into}: ${state === "done" ? "the file is there" : "it failed"}.`;
