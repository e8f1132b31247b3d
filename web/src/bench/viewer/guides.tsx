import { useQuery } from "@tanstack/react-query";
import { create } from "zustand";
import { persist } from "zustand/middleware";
import type { Guide } from "../../api/client";
import { guidesQuery } from "../../api/queries";
import { useBench } from "../state/use-bench";
import { boxOf, frameOnScreen, toScreen, type View } from "./view";

type Store = { shown: string[]; toggle: (name: string) => void };

export const guideName = ({ name, source }: Guide) => (source ? `${name}, ${source}` : name);

/** Which guides are shown, by name; kept in this browser. */
export const useGuides = create<Store>()(
  persist(
    (set) => ({
      shown: [],
      toggle: (name) =>
        set(({ shown }) => ({
          shown: shown.includes(name) ? shown.filter((other) => other !== name) : [...shown, name],
        })),
    }),
    { name: "cadrage-guides" },
  ),
);

/** The chosen guides, over the frame. */
export function Guides({ view }: { view: View }) {
  const { framing, shownPlan } = useBench("framing", "shownPlan");
  const { data } = useQuery(guidesQuery(framing.frame));
  const names = useGuides(({ shown }) => shown);
  const chosen = data?.guides.filter((guide) => names.includes(guideName(guide))) ?? [];
  const edge = frameOnScreen(view, shownPlan.frame);
  return (
    <svg
      className="pointer-events-none absolute inset-0 h-full w-full text-chalk"
      aria-hidden="true"
      data-testid="guides"
    >
      {chosen.map((guide) => {
        const box = toScreen(view, boxOf(guide.box));
        return (
          <g key={guideName(guide)} stroke="currentColor" fill="none" strokeDasharray="7 3" opacity="0.85">
            {guide.kind === "thirds" ? (
              <path
                d={`M${box.x} ${edge.y}v${edge.height}M${box.x + box.width} ${edge.y}v${edge.height}M${edge.x} ${box.y}h${edge.width}M${edge.x} ${box.y + box.height}h${edge.width}`}
              />
            ) : guide.kind === "centre" ? (
              <path d={`M${box.x - 12} ${box.y}h24M${box.x} ${box.y - 12}v24`} strokeDasharray="none" />
            ) : (
              <rect {...box} />
            )}
            {guide.kind !== "thirds" && guide.kind !== "centre" && (
              <text
                className="num"
                x={box.x + 5}
                y={box.y + box.height - 6}
                fill="currentColor"
                stroke="none"
                fontSize="11"
              >
                {guideName(guide)}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}
