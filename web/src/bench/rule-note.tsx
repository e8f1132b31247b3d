import { useQueryClient } from "@tanstack/react-query";
import { api, type Framing } from "../api/client";
import { takeIn, versionOf } from "../api/queries";
import { useSend } from "../api/use-send";
import { Button } from "../ui/button";
import { ProblemNote } from "../ui/problem-note";
import { useBench } from "./state/use-bench";

/** Whether this framing obeys the rule for its format and frame, and what can be done about it. */
export function RuleNote() {
  const { framing } = useBench("framing");
  const client = useQueryClient();
  const params = { path: { framing_id: framing.id } };
  const seen = () => ({ version: versionOf(client, framing) });
  const saved = { onSuccess: (next: Framing) => takeIn(client, next) };
  const obey = useSend(() => api.POST("/api/framings/{framing_id}/obey", { params, body: seen() }), {
    ordered: true,
    ...saved,
  });
  const make = useSend(() => api.POST("/api/framings/{framing_id}/rule", { params, body: seen() }), {
    ordered: true,
    ...saved,
  });
  const drop = useSend(() => api.DELETE("/api/framings/{framing_id}/rule", { params }), {
    ordered: true,
    ...saved,
  });
  const { obeys, rule_set, rule_for } = framing;
  return (
    <section
      aria-label="Format preset"
      className="grid gap-1 narrow:flex narrow:flex-wrap narrow:items-baseline narrow:gap-x-4 border-t border-rule p-3 text-[12px] leading-4"
    >
      <p>
        {obeys ? "Preset: " : "Custom; the preset is not used: "}
        <span className="text-soft">{rule_for}</span>
      </p>
      {!obeys && (
        <>
          <Button look="link" className="text-left" onClick={() => obey.mutate()}>
            Use preset
          </Button>
          <Button look="link" className="text-left" onClick={() => make.mutate()}>
            Save as preset
          </Button>
        </>
      )}
      {obeys && rule_set && (
        <Button look="link" className="text-left" onClick={() => drop.mutate()}>
          Delete preset
        </Button>
      )}
      <ProblemNote error={obey.error ?? make.error ?? drop.error} />
    </section>
  );
}
