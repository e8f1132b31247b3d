import { DropdownMenu } from "radix-ui";
import { useState } from "react";
import type { Cell, CellAction, Follow, Treatment } from "../api/client";
import { useChoices } from "../api/use-choices";
import type { CellChanges } from "../frames/use-cells";
import { Button } from "../ui/button";
import { toExact } from "../ui/exact";
import { MENU, Menu, OPENER } from "../ui/menu";
import { NumberField } from "../ui/number-field";
import type { RenderMany } from "./use-render-many";

type Props = {
  treatments: Treatment[];
  chosen: Cell[];
  cells: CellChanges;
  rendering: RenderMany;
  /** The cell to paste from. */
  copied: number | null;
  onCopy: (cell: number) => void;
  onClear: () => void;
};
type Part = "placement" | "motion" | "surround" | "finish";
const PARTS: { title: string; parts: Part[]; what: string }[] = [
  { title: "All of it", parts: ["placement", "motion", "surround", "finish"], what: "" },
  { title: "Movement only", parts: ["motion"], what: "the movement " },
  { title: "Placement only", parts: ["placement"], what: "the placement " },
  { title: "Surround only", parts: ["surround"], what: "the surround " },
  { title: "Finish only", parts: ["finish"], what: "the finish " },
];

/** What can be done with the selected cells, all at once. */
export function SelectionBar({ treatments, chosen, cells, rendering, copied, onCopy, onClear }: Props) {
  const busy = cells.busy || rendering.busy;
  const onAct = (action: CellAction, label: string) => cells.act({ cells: chosen, action, label });
  const choices = useChoices();
  const count = `${chosen.length} ${chosen.length === 1 ? "cell" : "cells"}`;
  const only = chosen.length === 1 ? chosen[0]?.id : undefined;
  return (
    <section
      aria-label="Selected cells"
      className="sticky bottom-0 z-20 flex flex-wrap items-center gap-2 border-t border-rule bg-paper px-6 py-2.5"
    >
      <p aria-live="polite" className="w-32 font-semibold">
        {count} selected
      </p>
      <Menu
        opener="Placement ▴"
        side="top"
        disabled={busy}
        items={choices.placements.map(({ title, placement }) => [
          title,
          () => onAct({ do: "place", placement }, `Placed ${count}: ${title.toLowerCase()}.`),
        ])}
      />
      <MoveMenu
        disabled={busy}
        onMove={(offset_x, offset_y) => onAct({ do: "move", offset_x, offset_y }, `Moved ${count}.`)}
      />
      <Menu
        opener="Movement ▴"
        side="top"
        disabled={busy}
        items={choices.moves.map(({ title, move }) => [
          title,
          () => onAct({ do: "motion", move }, `${title} for ${count}.`),
        ])}
      />
      <Menu
        opener="Follow ▴"
        side="top"
        disabled={busy}
        items={choices.paces.map(({ value, title }) => [
          `Follow, ${title}`,
          () =>
            onAct(
              { do: "motion", follow: { ...choices.follow, pace: value as Follow["pace"] } },
              `${count} to follow the subject.`,
            ),
        ])}
      />
      <Button
        disabled={only === undefined}
        title="Select one cell to copy from"
        onClick={() => only !== undefined && onCopy(only)}
      >
        Copy
      </Button>
      <Menu
        opener="Paste ▴"
        side="top"
        disabled={busy || copied === null}
        items={PARTS.map(({ title, parts, what }) => [
          title,
          () =>
            copied !== null && onAct({ do: "paste", source: copied, parts }, `Pasted ${what}into ${count}.`),
        ])}
      />
      <Menu
        opener="Treatment ▴"
        side="top"
        disabled={busy}
        items={treatments.map(({ id, treatment }) => [
          treatment.name,
          () => onAct({ do: "treat", treatment, saved: id }, `${treatment.name} on ${count}.`),
        ])}
      />
      <Menu
        opener="Preset ▴"
        side="top"
        disabled={busy}
        items={[
          ["Use preset", () => onAct({ do: "obey" }, `${count} back to the preset.`)],
          [
            "Save each as the preset for its format",
            () => onAct({ do: "rule" }, `${count} saved as the presets for their formats.`),
          ],
        ]}
      />
      <span className="grow" />
      <Button look="quiet" onClick={onClear}>
        Select none
      </Button>
      <Button look="main" disabled={busy} onClick={() => rendering.render(chosen)}>
        Render {count}
      </Button>
    </section>
  );
}

/** One offset for all: in frame pixels from the middle. */
function MoveMenu({ disabled, onMove }: { disabled: boolean; onMove: (x: string, y: string) => void }) {
  const [x, setX] = useState(0);
  const [y, setY] = useState(0);
  const field = { low: -100000, high: 100000, step: 1 };
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger disabled={disabled} className={OPENER}>
        Position ▴
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content side="top" align="start" className={`${MENU} grid w-56 gap-2 p-3`}>
          <p className="text-soft">From the middle, in frame pixels</p>
          <NumberField label="Right" unit="px →" value={x} onCommit={setX} {...field} />
          <NumberField label="Down" unit="px ↓" value={y} onCommit={setY} {...field} />
          <DropdownMenu.Item asChild onSelect={() => onMove(toExact(x), toExact(y))}>
            <Button>Set position</Button>
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
