import { Toolbar } from "radix-ui";
import type { Design, Plan } from "../api/client";
import { useBench } from "./state/use-bench";
import { useSmall } from "./tiles";
import { usePreview } from "./use-preview";

type Props = {
  title: string;
  plan: Plan | Design;
  chosen: boolean;
  onChoose: () => void;
};

const WIDTH = 176;

/** One choice, shown as a small real rendering of this clip at the playhead. */
export function Tile({ title, plan, chosen, onChoose }: Props) {
  const { time } = useBench("time");
  const preview = usePreview({ plan, time, width: WIDTH }, { patient: true });
  const { small, settle } = useSmall();
  const choose = () => {
    onChoose();
    settle();
  };
  return (
    <Toolbar.Button
      aria-pressed={chosen}
      aria-busy={!preview?.picture || preview.awaited}
      aria-label={small ? title : undefined}
      title={small ? title : undefined}
      onClick={choose}
      className={`flex flex-col overflow-hidden rounded border-2 bg-sheet text-left ${chosen ? "border-ochre" : "border-rule hover:border-soft"}`}
    >
      <span
        className={`flex w-full shrink-0 items-center justify-center bg-well ${small ? "h-7" : "h-12"} ${preview?.picture ? "" : "awaited"}`}
      >
        {preview?.picture && <img alt="" className="max-h-full max-w-full" src={preview.picture} />}
      </span>
      {!small && (
        <span className={`block px-1 py-0.5 text-[11px] leading-[14px] ${chosen ? "font-semibold" : ""}`}>
          {title}
        </span>
      )}
    </Toolbar.Button>
  );
}
