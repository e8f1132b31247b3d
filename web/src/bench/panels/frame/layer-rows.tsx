import type { FileOffer, Settings } from "../../../api/client";
import { ChoiceRow } from "../../../ui/choice-row";
import { TickRow } from "../../../ui/tick-row";

type Props = { file: FileOffer; settings: Settings; set: (fields: Partial<Settings>) => void };

/** Which part of the framing the file holds, and which part of the clip. */
export function LayerRows({ file, settings, set }: Props) {
  return (
    <>
      <ChoiceRow
        label="Layer"
        value={settings.layer}
        choices={[
          { value: "everything", title: "Everything" },
          { value: "surround_alone", title: "Surround only" },
          ...(file.alpha || settings.layer === "picture_alone"
            ? [{ value: "picture_alone", title: "Picture only, transparent around" }]
            : []),
        ]}
        onChange={(layer) => set({ layer: layer as Settings["layer"] })}
        hint="For compositing elsewhere. Titles, vignette and grain are in neither layer."
      />
      <TickRow
        ticked={settings.range === "whole_clip"}
        onChange={(whole) => set({ range: whole ? "whole_clip" : "as_marked" })}
      >
        Whole clip, ignoring in and out points
      </TickRow>
    </>
  );
}
