import { useQuery } from "@tanstack/react-query";
import { useRef } from "react";
import type { Kind, Surround } from "../../api/client";
import { catalogueQuery, coloursQuery } from "../../api/queries";
import { ExtendedPart } from "../extending/extended-part";
import { ExtendedTile } from "../extending/extended-tile";
import { useExtend } from "../extending/use-extension";
import { QuietLine } from "../quiet-line";
import { ReadableLine } from "../readable-line";
import { useBench } from "../state/use-bench";
import { Tile } from "../tile";
import { Tiles } from "../tiles";
import { useAfterViewer } from "../use-preview";
import { Controls, defaults, OF_THE_CLIP } from "./surround/controls";

/** The background beside the picture. Kinds and controls come from the server. */
export function SurroundPanel() {
  const { footage, plan, change, commit } = useBench("footage", "plan", "change", "commit");
  const extend = useExtend();
  const { data: catalogue } = useQuery(catalogueQuery);
  const afterViewer = useAfterViewer();
  // A kind that was left keeps its values for when it is chosen again.
  const left = useRef<Record<string, Surround>>({ blurred: footage.copy_to_begin_with });
  left.current[plan.surround.kind] = plan.surround;
  const kinds = catalogue?.surrounds ?? [];
  const current = kinds.find(({ kind }) => kind === plan.surround.kind);
  const { data: colours } = useQuery({
    ...coloursQuery(footage.id),
    enabled:
      afterViewer &&
      current?.controls.some(({ name, unit }) => OF_THE_CLIP.includes(name) || unit === "surround"),
  });
  const withSurround = (surround: Surround) => ({ ...plan, surround });
  const withValue = (name: string, value: unknown) =>
    withSurround({ ...plan.surround, [name]: value } as Surround);
  const initial = (kind: Kind) => left.current[kind.kind] ?? defaults(kind);

  return (
    <section aria-label="Surround" className="grid gap-2">
      <Tiles title="Surround" of="surrounds" chosen={current?.title}>
        {kinds.map((kind) => {
          const given = withSurround(initial(kind));
          const tile = { title: kind.title, plan: given };
          const chosen = kind.kind === plan.surround.kind;
          if (kind.kind === "extended")
            return <ExtendedTile key="extended" {...tile} chosen={chosen} onChoose={() => extend(given)} />;
          return (
            <Tile key={kind.kind} {...tile} chosen={chosen} onChoose={() => commit(given, kind.title)} />
          );
        })}
      </Tiles>
      {plan.surround.kind === "extended" ? <ExtendedPart /> : <QuietLine />}
      {plan.surround.kind === "graphic" && <ReadableLine what="panel" />}
      <Controls
        key={current?.kind}
        controls={current?.controls ?? []}
        kinds={kinds}
        values={plan.surround as Record<string, unknown>}
        suggested={colours}
        onChange={(name, value) => change(withValue(name, value))}
        onCommit={(name, value, label) => commit(withValue(name, value), label)}
      />
      {current?.kind === "blurred" && (
        <p className="border-l-3 border-moss pl-3 text-soft">
          Edges are carried outward before blurring, so no dark rim forms. Hold B to see the picture without
          it.
        </p>
      )}
    </section>
  );
}
