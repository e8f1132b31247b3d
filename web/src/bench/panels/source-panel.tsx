import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "../../api/client";
import { SettingGroups } from "../../frames/setting-rows";
import { Noticed } from "../../intake/noticed";
import { Button } from "../../ui/button";
import { Fold } from "../../ui/fold";
import { useBench } from "../state/use-bench";
import { BurnedInBars } from "./source/burned-in-bars";
import { ClosedCaptions } from "./source/closed-captions";
import { PixelShapes } from "./source/pixel-shapes";
import { useInterpretation } from "./source/use-interpretation";

/** The properties of the clip, the evidence for them, and how it is read. */
export function SourcePanel() {
  const { transport } = useBench("transport");
  const { footage, set, applyToFormat, usePreset } = useInterpretation();
  const { data: groups } = useQuery({
    queryKey: ["interpretation settings", footage.id, footage.stated, footage.stamp],
    queryFn: () =>
      unwrap(api.GET("/api/footage/{footage_id}/settings", { params: { path: { footage_id: footage.id } } })),
    placeholderData: (before) => before,
  });
  return (
    <section aria-label="Source" className="grid gap-3">
      <h2 className="font-semibold">Source</h2>
      <Noticed notices={footage.noticed} places={footage.damaged_places} go={transport.go} />
      <ClosedCaptions />
      <PixelShapes />
      <BurnedInBars />
      <SettingGroups groups={groups ?? []} values={footage.stated} set={set} />
      <Fold title="File" open>
        <dl className="grid grid-cols-[92px_1fr] gap-y-1.5">
          {footage.described.map(({ name, value }) => (
            <div key={`${name} ${value}`} className="contents">
              <dt className="text-soft">{name}</dt>
              <dd className="num break-words">{value}</dd>
            </div>
          ))}
        </dl>
      </Fold>
      <div className="grid gap-2 border-t border-rule pt-3">
        <p className="text-soft">
          {footage.own ? "This clip has custom settings." : `Preset for ${footage.format} clips.`}
        </p>
        <div className="flex flex-wrap gap-2">
          <Button disabled={!footage.own} onClick={applyToFormat}>
            Apply to all {footage.format} clips
          </Button>
          <Button disabled={!footage.own} onClick={usePreset}>
            Use preset
          </Button>
        </div>
      </div>
    </section>
  );
}
