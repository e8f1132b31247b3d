import { useQuery } from "@tanstack/react-query";
import { useRef } from "react";
import type { Control, Kind, Surround } from "../../api/client";
import { catalogueQuery } from "../../api/queries";
import { ColourRow } from "../../ui/colour-row";
import { SliderRow } from "../../ui/slider-row";
import { Tile } from "../tile";
import type { Changer } from "../use-framing";

type Props = Changer & { framingId: number; time: string };

/** What is seen where the picture is not. Kinds and controls come from the server's list of them. */
export function SurroundPanel({ framingId, time, plan, change, commit }: Props) {
  const { data: catalogue } = useQuery(catalogueQuery);
  // A kind that was left keeps its values for when it is chosen again.
  const left = useRef<Record<string, Surround>>({});
  left.current[plan.surround.kind] = plan.surround;
  const kinds = catalogue?.surrounds ?? [];
  const current = kinds.find(({ kind }) => kind === plan.surround.kind);
  const withSurround = (surround: Surround) => ({ ...plan, surround });
  const initial = (kind: Kind) => left.current[kind.kind] ?? defaults(kind);

  return (
    <section aria-label="Surround" className="grid gap-3">
      <h2 className="font-semibold">Surround</h2>
      <div className="grid grid-cols-3 gap-2">
        {kinds.map((kind) => (
          <Tile
            key={kind.kind}
            {...{ framingId, time, name: kind.kind, title: kind.title }}
            plan={withSurround(initial(kind))}
            chosen={kind.kind === plan.surround.kind}
            onChoose={() => commit(withSurround(initial(kind)), kind.title)}
          />
        ))}
      </div>
      {current?.controls.map((control) => (
        <ControlRow
          key={`${current.kind} ${control.name}`}
          control={control}
          surround={plan.surround}
          onChange={(surround) => change(withSurround(surround))}
          onCommit={(surround) => commit(withSurround(surround), control.label)}
        />
      ))}
      {current?.kind === "blurred" && (
        <p className="border-l-3 border-moss pl-3 text-soft">
          Edges are carried outward before blurring, so no dark rim forms. Hold B to see the picture without
          it.
        </p>
      )}
    </section>
  );
}

function defaults(kind: Kind): Surround {
  const values = Object.fromEntries(kind.controls.map((control) => [control.name, control.default]));
  return { ...values, kind: kind.kind } as Surround;
}

type RowProps = {
  control: Control;
  surround: Surround;
  onChange: (surround: Surround) => void;
  onCommit: (surround: Surround) => void;
};

function ControlRow({ control, surround, onChange, onCommit }: RowProps) {
  const { name, label, unit, low, high, step } = control;
  const value = (surround as Record<string, unknown>)[name];
  const changed = (next: number | string) => ({ ...surround, [name]: next }) as Surround;
  if (unit === "colour") {
    return (
      <ColourRow
        label={label}
        value={String(value)}
        initial={String(control.default)}
        onChange={(next) => onChange(changed(next))}
        onCommit={(next) => onCommit(changed(next))}
      />
    );
  }
  // A shift may be typed far beyond what a slider can offer finely.
  const reach = unit === "px" ? Math.min(high, 600) : high;
  return (
    <SliderRow
      {...{ label, unit, step }}
      low={unit === "px" ? -reach : low}
      high={reach}
      typedLow={low}
      typedHigh={high}
      initial={Number(control.default)}
      value={Number(value)}
      onChange={(next) => onChange(changed(next))}
      onCommit={(next) => onCommit(changed(next))}
    />
  );
}
