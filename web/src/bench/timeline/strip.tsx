import { type ReactNode, useEffect, useRef, useState } from "react";
import { toNumber } from "../../ui/exact";
import { PatientImage } from "../../ui/patient-image";
import { useBench } from "../state/use-bench";
import { useAfterViewer } from "../use-preview";
import type { Levels } from "./use-levels";
import { Waveform } from "./waveform";

const MOST_MOMENTS = 48;
const STRIP_WIDTH = 960;
const STRIP_HEIGHT = 64;

type Props = { parts: number; levels: Levels | null };

/** The clip as pictures, with its sound below; in as many parts as the timeline is zoomed. */
export function Strip({ parts, levels }: Props) {
  const { footage, rate, measure } = useBench("footage", "rate", "measure");
  const afterViewer = useAfterViewer();
  const seconds = footage.timing.frames / toNumber(rate) / parts;
  const query = new URLSearchParams({
    count: String(moments(measure.display_aspect)),
    height: String(STRIP_HEIGHT),
    parts: String(parts),
    reading: JSON.stringify(footage.interpretation),
    stamp: footage.stamp,
  });
  return (
    <div className="flex">
      {Array.from({ length: parts }, (_, part) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a part is its place among them
        <Part key={part} src={afterViewer ? `/api/footage/${footage.id}/strip?${query}&part=${part}` : null}>
          {footage.info.sounds.length > 0 && (
            <div className="h-6">
              {levels && <Waveform levels={levels} start={part * seconds} end={(part + 1) * seconds} />}
            </div>
          )}
        </Part>
      ))}
    </div>
  );
}

/** A part of the strip; its pictures come when it is in sight. */
function Part({ src, children }: { src: string | null; children: ReactNode }) {
  const place = useRef<HTMLDivElement>(null);
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    const watch = new IntersectionObserver(([entry]) => entry?.isIntersecting && setSeen(true));
    if (place.current) watch.observe(place.current);
    return () => watch.disconnect();
  }, []);
  return (
    <div ref={place} className="flex min-w-0 flex-1 flex-col">
      <div className="h-16 bg-rule">
        {src && seen && (
          <PatientImage alt="" draggable={false} className="h-full w-full object-fill" src={src} />
        )}
      </div>
      {children}
    </div>
  );
}

/** As many moments as fill the strip without squeezing them: more of an upright clip than of a wide one. */
function moments(aspect: number): number {
  return Math.min(MOST_MOMENTS, Math.max(4, Math.round(STRIP_WIDTH / (STRIP_HEIGHT * aspect))));
}
