import { useQuery } from "@tanstack/react-query";
import { useRef } from "react";
import type { Kind, Surround } from "../../api/client";
import { catalogueQuery, coloursQuery } from "../../api/queries";
import { ControlRow } from "../../ui/control-row";
import { QuietLine } from "../quiet-line";
import { Tile } from "../tile";
import type { Changer } from "../use-framing";

type Props = Changer & { framingId: number; footageId: number; time: string };

/** Colours for which the clip's own are offered. */
const OF_THE_CLIP = ["colour", "first", "second", "third", "last"];

/** What is seen where the picture is not. Kinds and controls come from the server's list of them. */
export function SurroundPanel({ framingId, footageId, time, plan, change, commit }: Props) {
  const { data: catalogue } = useQuery(catalogueQuery);
  // A kind that was left keeps its values for when it is chosen again.
  const left = useRef<Record<string, Surround>>({});
  left.current[plan.surround.kind] = plan.surround;
  const kinds = catalogue?.surrounds ?? [];
  const current = kinds.find(({ kind }) => kind === plan.surround.kind);
  const { data: colours } = useQuery({
    ...coloursQuery(footageId),
    enabled: current?.controls.some(({ name }) => OF_THE_CLIP.includes(name)) ?? false,
  });
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
      <QuietLine {...{ framingId, plan, commit }} />
      {current?.controls.map((control) => {
        const changed = (value: unknown) =>
          withSurround({ ...plan.surround, [control.name]: value } as Surround);
        return (
          <ControlRow
            key={`${current.kind} ${control.name}`}
            control={control}
            suggested={OF_THE_CLIP.includes(control.name) ? colours : undefined}
            value={(plan.surround as Record<string, unknown>)[control.name]}
            onChange={(value) => change(changed(value))}
            onCommit={(value) => commit(changed(value), control.label)}
          />
        );
      })}
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
  const values = Object.fromEntries(
    kind.controls.map(({ name, unit, default: value }) => [
      name,
      unit === "colour or none" ? value || null : value,
    ]),
  );
  return { ...values, kind: kind.kind } as Surround;
}
