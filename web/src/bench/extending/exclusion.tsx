import { useState } from "react";
import { clipPicture } from "../../api/pictures";
import { Button } from "../../ui/button";
import { toExact, toNumber } from "../../ui/exact";
import { Fold } from "../../ui/fold";
import { useDragging } from "../../ui/use-dragging";
import { useBench } from "../state/use-bench";
import { type Extended, useExtension } from "./use-extension";

type Dab = Extended["excluded"][number];
type Place = { left: number; top: number; width: number; height: number };

const RADIUS = 0.04;
const APART = 0.5;
const WIDTH = 560;
const MAX_DABS = 400;

/** Places of the picture that must not be copied, painted over with a round brush. */
export function Exclusion() {
  const { footage, plan, time, commit } = useBench("footage", "plan", "time", "commit");
  const extension = useExtension();
  const dabs = extension.extended?.excluded ?? [];
  const { fresh, drag } = usePainting((made) =>
    commit(extension.with({ excluded: [...dabs, ...made].slice(-MAX_DABS) }), "Do not copy"),
  );
  const all = [...dabs, ...fresh];
  return (
    <Fold title="Do not copy" state={dabs.length ? "areas painted" : "moving parts only"}>
      <p className="text-soft">Paint over what must not appear again beside the picture.</p>
      <div
        data-testid="exclusion"
        className="relative cursor-crosshair touch-none select-none overflow-hidden bg-well"
        style={{ aspectRatio: footage.display_aspect, maxHeight: 320 }}
        {...drag(undefined)}
      >
        <img
          alt="The clip"
          draggable={false}
          className="h-full w-full"
          src={clipPicture(footage, plan.interpretation, { width: WIDTH, time })}
        />
        {all.map((dab) => (
          <Dot key={`${dab.x} ${dab.y}`} dab={dab} />
        ))}
      </div>
      {dabs.length > 0 && (
        <Button
          look="link"
          className="justify-self-start"
          onClick={() => commit(extension.with({ excluded: [] }), "Everything may be copied")}
        >
          Clear
        </Button>
      )}
    </Fold>
  );
}

/** Painting with a round brush: the fresh dabs while it is drawn. */
function usePainting(onPainted: (made: Dab[]) => void) {
  const [fresh, setFresh] = useState<Dab[]>([]);
  const drag = useDragging<{ place: Place; made: Dab[] }, undefined>({
    begin: ({ x, y }, event) => {
      const place = (event.currentTarget as Element).getBoundingClientRect();
      const made = [dabAt(x, y, place)];
      setFresh(made);
      return { place, made };
    },
    move: (grab, { x, y }) => {
      const next = dabAt(x, y, grab.place);
      const last = grab.made.at(-1);
      const moved =
        last && Math.hypot(toNumber(next.x) - toNumber(last.x), toNumber(next.y) - toNumber(last.y));
      if (moved !== undefined && moved < RADIUS * APART) return;
      grab.made.push(next);
      setFresh([...grab.made]);
    },
    end: ({ made }) => {
      setFresh([]);
      onPainted(made);
    },
    cancel: () => setFresh([]),
  });
  return { fresh, drag };
}

const Dot = ({ dab }: { dab: Dab }) => (
  <span
    className="-translate-x-1/2 -translate-y-1/2 pointer-events-none absolute rounded-full bg-rust/50"
    style={{
      left: `${toNumber(dab.x) * 100}%`,
      top: `${toNumber(dab.y) * 100}%`,
      height: `${toNumber(dab.radius) * 200}%`,
      aspectRatio: 1,
    }}
  />
);

const within = (value: number) => toExact(Math.min(1, Math.max(0, value)), 4);

const dabAt = (x: number, y: number, place: Place): Dab => ({
  x: within((x - place.left) / place.width),
  y: within((y - place.top) / place.height),
  radius: String(RADIUS),
});
