import { Toolbar } from "radix-ui";
import type { Design, Plan } from "../api/client";
import { useSmall } from "./tiles";
import { usePreview } from "./use-preview";

type Props = {
  framingId: number;
  name: string;
  title: string;
  plan: Plan | Design;
  time: string;
  chosen: boolean;
  onChoose: () => void;
};

const WIDTH = 176;

/** One choice, shown as a small real rendering of this clip at this moment. */
export function Tile({ framingId, name, title, plan, time, chosen, onChoose }: Props) {
  const preview = usePreview(`tile ${name}`, { framingId, plan, time, width: WIDTH }, { patient: true });
  const { small, settle } = useSmall();
  const choose = () => {
    onChoose();
    settle();
  };
  return (
    <Toolbar.Button
      aria-pressed={chosen}
      aria-busy={!preview?.url || preview.awaited}
      aria-label={small ? title : undefined}
      title={small ? title : undefined}
      onClick={choose}
      className={`flex flex-col overflow-hidden rounded border-2 bg-sheet text-left ${chosen ? "border-ochre" : "border-rule hover:border-soft"}`}
    >
      <span
        className={`flex w-full shrink-0 items-center justify-center bg-well ${small ? "h-7" : "h-12"} ${preview?.url ? "" : "awaited"}`}
      >
        {preview?.url && <img alt="" className="max-h-full max-w-full" src={preview.url} />}
      </span>
      {!small && (
        <span className={`block px-1 py-0.5 text-[11px] leading-[14px] ${chosen ? "font-semibold" : ""}`}>
          {title}
        </span>
      )}
    </Toolbar.Button>
  );
}
