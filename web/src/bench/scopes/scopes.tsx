import { ToggleGroup } from "radix-ui";
import { titleOf, useChoices } from "../../api/use-choices";
import { shown } from "../../ui/exact";
import { useKept } from "../../ui/kept";
import { useRested } from "../../ui/use-rested";
import { designOf } from "../editor/scope";
import { useBench } from "../state/use-bench";
import { type ScopeKind, useScope } from "./use-scope";

const REST_MS = 150;

/** A scope of the composed frame in a corner of the viewer; it follows once the hand rests. */
export function Scopes() {
  const { shownPlan: plan } = useBench("shownPlan");
  const { scopes } = useChoices();
  const [kind, setKind] = useKept<ScopeKind>("scope", "waveform");
  const rested = useRested(JSON.stringify(designOf(plan)), REST_MS);
  const { data, isFetching } = useScope(kind, rested);

  return (
    <section
      aria-label="Scopes"
      className="absolute right-3 bottom-12 z-10 w-60 border border-chalk/60 bg-night text-chalk"
    >
      <ToggleGroup.Root
        type="single"
        aria-label="Scope"
        value={kind}
        onValueChange={(next) => next && setKind(next as ScopeKind)}
        className="flex"
      >
        {scopes.map(({ value, title }) => (
          <ToggleGroup.Item
            key={value}
            value={value}
            className="grow px-1.5 py-1 text-[12px] data-[state=on]:bg-chalk data-[state=on]:text-night"
          >
            {title}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
      <div className="grid h-40 place-items-center" aria-busy={isFetching}>
        {data && (
          <img
            data-testid="scope"
            alt={titleOf(scopes, kind)}
            src={data.picture}
            className={`h-40 max-w-full ${isFetching ? "opacity-60" : ""}`}
          />
        )}
      </div>
      <p className="num px-2 py-1 text-[12px]">
        {data ? `${shown(data.scope.outside_percent, 2)}% outside the legal range` : "Measuring …"}
      </p>
    </section>
  );
}
