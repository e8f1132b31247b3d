import { DropdownMenu } from "radix-ui";
import { useState } from "react";
import type { Cell, CellAction, Follow, Treatment } from "../api/client";
import { useChoices } from "../api/use-choices";
import type { CellChanges } from "../frames/use-cells";
import { Button } from "../ui/button";
import { toExact } from "../ui/exact";
import { type Items, MENU, Menu, OPENER } from "../ui/menu";
import { NumberField } from "../ui/number-field";
import type { CellRendering } from "./use-cell-rendering";

type Props = {
  treatments: Treatment[];
  chosen: Cell[];
  cells: CellChanges;
  rendering: CellRendering;
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
  const count = `${chosen.length} ${chosen.length === 1 ? "cell" : "cells"}`;
  const only = chosen.length === 1 ? chosen[0]?.id : undefined;
  const onAct: Act = (action, label) => cells.act({ cells: chosen, action, label });
  const menus = useMenus(count, onAct);
  const menu = (opener: string, items: Items, disabled = busy) => (
    <Menu opener={`${opener} ▴`} side="top" disabled={disabled} items={items} />
  );
  return (
    <section
      aria-label="Selected cells"
      className="sticky bottom-0 z-20 flex flex-wrap items-center gap-2 border-t border-rule bg-paper px-6 py-2.5"
    >
      <p aria-live="polite" className="w-32 font-semibold">
        {count} selected
      </p>
      {menu("Placement", menus.placement)}
      <MoveMenu
        disabled={busy}
        onMove={(offset_x, offset_y) => onAct({ do: "move", offset_x, offset_y }, `Moved ${count}.`)}
      />
      {menu("Movement", menus.movement)}
      {menu("Follow", menus.follow)}
      <Button
        disabled={only === undefined}
        title="Select one cell to copy from"
        onClick={() => only !== undefined && onCopy(only)}
      >
        Copy
      </Button>
      {menu("Paste", copied === null ? [] : menus.paste(copied), busy || copied === null)}
      {menu("Treatment", menus.treat(treatments))}
      {menu("Preset", menus.preset)}
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

type Act = (action: CellAction, label: string) => void;

/** The entries of the menus, for so many cells. */
function useMenus(count: string, act: Act) {
  const { placements, moves, paces, follow } = useChoices();
  const entry = (title: string, action: CellAction, label: string): Items[number] => [
    title,
    () => act(action, label),
  ];
  return {
    placement: placements.map(({ title, placement }) =>
      entry(title, { do: "place", placement }, `Placed ${count}: ${title.toLowerCase()}.`),
    ),
    movement: moves.map(({ title, move }) => entry(title, { do: "motion", move }, `${title} for ${count}.`)),
    follow: paces.map(({ value, title }) => {
      const paced = { ...follow, pace: value as Follow["pace"] };
      return entry(`Follow, ${title}`, { do: "motion", follow: paced }, `${count} to follow the subject.`);
    }),
    paste: (source: number) =>
      PARTS.map(({ title, parts, what }) =>
        entry(title, { do: "paste", source, parts }, `Pasted ${what}into ${count}.`),
      ),
    treat: (treatments: Treatment[]) =>
      treatments.map(({ id, treatment }) =>
        entry(treatment.name, { do: "treat", treatment, saved: id }, `${treatment.name} on ${count}.`),
      ),
    preset: [
      entry("Use preset", { do: "obey" }, `${count} back to the preset.`),
      entry(
        "Save each as the preset for its format",
        { do: "rule" },
        `${count} saved as the presets for their formats.`,
      ),
    ],
  };
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
