import { useQuery } from "@tanstack/react-query";
import type { Plan } from "../../api/client";
import { catalogueQuery } from "../../api/queries";
import { Button } from "../../ui/button";
import { Fold } from "../../ui/fold";
import { useBench } from "../state/use-bench";
import { Tile } from "../tile";
import { TileGrid } from "../tiles";
import { ControlRow } from "./control-row";
import { WordsPart } from "./words-part";

type Parts = Record<string, Record<string, unknown>>;

/** Finishing over the edge and over everything; each part is shown as a small rendering. */
export function FinishPanel() {
  const { plan, change, commit } = useBench("plan", "change", "commit");
  const { data: catalogue } = useQuery(catalogueQuery);
  const parts = plan.finish as unknown as Parts;
  const withPart = (name: string, values: Record<string, unknown>) =>
    ({ ...plan, finish: { ...parts, [name]: { ...parts[name], ...values } } }) as unknown as Plan;
  const kinds = (catalogue?.finish ?? []).map((kind) => ({
    ...kind,
    off: Object.fromEntries(kind.controls.map((control) => [control.name, control.default])),
    on: kind.controls.some((control) => parts[kind.name]?.[control.name] !== control.default),
  }));
  return (
    <section aria-label="Finish" className="grid gap-3">
      <h2 className="font-semibold">Finish</h2>
      <TileGrid label="Finish" columns="grid-cols-3">
        {kinds.map(({ name, title, example, off, on }) => (
          <Tile
            key={name}
            title={title}
            plan={on ? plan : withPart(name, example)}
            chosen={on}
            onChoose={() =>
              on
                ? commit(withPart(name, off), `${title} off`)
                : commit(withPart(name, { ...off, ...example }), title)
            }
          />
        ))}
      </TileGrid>
      <p className="text-soft">Click an example to turn it on or off.</p>
      {kinds.map(({ name, title, controls, off, on }) => (
        <Fold key={name} title={title} state={on ? "on" : ""} open={on}>
          {controls.map((control) => (
            <ControlRow
              key={control.name}
              control={control}
              value={parts[name]?.[control.name]}
              onChange={(value) => change(withPart(name, { [control.name]: value }))}
              onCommit={(value) => commit(withPart(name, { [control.name]: value }), control.label)}
            />
          ))}
          {on && (
            <Button
              className="justify-self-start"
              onClick={() => commit(withPart(name, off), `${title} off`)}
            >
              Off
            </Button>
          )}
        </Fold>
      ))}
      <WordsPart />
    </section>
  );
}
