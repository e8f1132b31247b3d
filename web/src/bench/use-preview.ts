import { useEffect, useRef, useState } from "react";
import { api, type Design, type Measure, type Plan, type Problem, unwrap } from "../api/client";
import { Newest } from "../ui/newest";
import { designOf } from "./editor/scope";
import { extendsScene } from "./shots/shots";
import { useActivity } from "./state/activity";
import { useBench } from "./state/use-bench";

type Wanted = {
  plan: Plan | Design;
  time: string;
  /** Pixels across; null for no picture. */
  width: number | null;
  /** Whether the numbers of the plan at that time are wanted too. */
  measured?: boolean;
  /** Whether the request is cancelled as soon as there is a newer one. */
  yields?: boolean;
};
/** A request, as text: two that are alike have the same answer. */
type Question = Omit<Wanted, "plan" | "yields"> & {
  key: string;
  framingId: number;
  design: Design;
  yields: boolean;
};
type Answer = { picture: string | null; measure: Measure | null };
/** The newest answer, and the time and design it is of; `of` is the request that was answered last, also by an error. */
export type Preview = Answer & { time: string; design: string; error: unknown; of: string };

/** Simultaneous requests of a preview: the server composes one picture while the next request travels. */
const AT_ONCE = 2;

/** Whether the viewer has shown its picture, so that less urgent requests may follow. */
export function useAfterViewer(): boolean {
  const waits = useActivity(({ viewerWaits }) => viewerWaits);
  const [after, setAfter] = useState(false);
  useEffect(() => {
    // The viewer may have started waiting in this very turn.
    if (!waits && !useActivity.getState().viewerWaits) setAfter(true);
  }, [waits]);
  return after;
}

/**
 * The composed frame of a plan, its numbers, or both. It is requested again when the plan, the time, the clip or its frame
 * changes; a `patient` one gives way whenever the viewer waits. `awaited` says that the newest is not there yet.
 */
export function usePreview(wanted: Wanted | null, { patient = false } = {}) {
  const { framingId, stamp } = useBench("framingId", "stamp");
  const [shown, setShown] = useState<Preview | null>(null);
  const [newest] = useState(
    () => new Newest(fetchPreview, take, { atOnce: AT_ONCE, yields: (question) => question.yields }),
  );
  const yields = wanted?.yields ?? patient;
  const key = wanted && keyOf(wanted, framingId, extendsScene(wanted.plan) ? stamp : "");
  const playing = useActivity((activity) => activity.playing);
  const viewerWaits = useActivity((activity) => activity.viewerWaits);
  /** The request that runs or was answered last. */
  const asked = useRef<string | null>(null);
  const answered = useRef<string | null>(null);

  function take({ key: of, time, design }: Question, answer: Answer | null, error: unknown) {
    answered.current = of;
    setShown((last) => {
      if (answer) return { ...answer, time, design: JSON.stringify(design), error, of };
      return { picture: null, measure: null, time: "", design: "", ...last, error, of };
    });
  }

  useEffect(() => {
    // The viewer may have started waiting in this very turn.
    if (patient && (viewerWaits || useActivity.getState().viewerWaits)) {
      newest.drop();
      asked.current = answered.current;
    } else if (key && !playing && key !== asked.current) {
      asked.current = key;
      newest.ask({ key, ...(JSON.parse(key) as Omit<Question, "key" | "yields">), yields });
    }
  }, [key, playing, viewerWaits, patient, newest, yields]);

  return shown && { ...shown, awaited: key !== null && shown.of !== key };
}

/** The server knows the frame, the clip and its range; if they change, the picture changes. */
function keyOf({ plan, yields: _, ...wanted }: Wanted, framingId: number, stamp: string): string {
  const { placement, motion, surround, finish, shots, ...given } = plan as Plan;
  return JSON.stringify({ framingId, ...wanted, design: designOf(plan), given, stamp });
}

async function fetchPreview(
  { framingId, design, time, width, measured = false }: Question,
  signal: AbortSignal,
): Promise<Answer> {
  const params = { path: { framing_id: framingId } };
  const body = { design, time, width, measured };
  const send = () => unwrap(api.POST("/api/framings/{framing_id}/preview", { params, body, signal }));
  const answer = await retryWhileBusy(send, signal);
  if (answer.picture) {
    const image = new Image();
    image.src = answer.picture;
    await image.decode();
  }
  return answer;
}

/** The server composes as many other pictures as it takes at once: of slow clips two for each visitor. */
const BUSY = 503;
const RETRY_MS = 400;
/** 24 s in all; after that the refusal is shown. */
const MAX_ATTEMPTS = 60;

/** Send a request, and send it again while the server is busy. */
async function retryWhileBusy<Given>(send: () => Promise<Given>, signal: AbortSignal): Promise<Given> {
  for (let attempt = 1; ; attempt++) {
    try {
      return await send();
    } catch (problem) {
      if ((problem as Partial<Problem>).status !== BUSY || signal.aborted || attempt === MAX_ATTEMPTS)
        throw problem;
      await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
    }
  }
}
