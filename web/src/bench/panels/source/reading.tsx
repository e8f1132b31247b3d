import type { Interpretation } from "../../../api/client";
import { Button } from "../../../ui/button";
import { ChoiceRow } from "../../../ui/choice-row";
import { ColourRow } from "../../../ui/colour-row";
import { toExact, toNumber } from "../../../ui/exact";
import { Fold } from "../../../ui/fold";
import { NumberField } from "../../../ui/number-field";
import { TickRow } from "../../../ui/tick-row";
import { useInterpretation } from "./use-interpretation";

const FROM_FILE = { value: "", title: "As in the file" };
const WHOLE_LINE = 720;

/** Fields: as flagged, as detected, as read, and how they are deinterlaced. */
export function Fields() {
  const { footage, set } = useInterpretation();
  const { stated, interpretation, info, fields } = footage;
  if (info.kind !== "clip") return null;
  const taken = interpretation.fields ?? info.field_order;
  return (
    <Fold title="Fields" state={taken} open={taken !== "progressive" && taken !== "unknown"}>
      <p className="text-soft">
        Flagged {info.field_order}. {fields ? `Seen: ${fields.summary}.` : ""}
      </p>
      <ChoiceRow
        label="Read as"
        value={stated.fields ?? ""}
        choices={[
          {
            value: "",
            title: fields?.order ? `As seen, ${fields.order}` : `As flagged, ${info.field_order}`,
          },
          { value: "progressive", title: "Progressive" },
          { value: "upper_first", title: "Upper field first" },
          { value: "lower_first", title: "Lower field first" },
        ]}
        onChange={(value) => set({ fields: (value || null) as Interpretation["fields"] })}
      />
      {fields && fields.film !== "no" && stated.deinterlace !== "film" && (
        <Button className="justify-self-start" onClick={() => set({ deinterlace: "film" })}>
          Remove pulldown
        </Button>
      )}
      <ChoiceRow
        label="Deinterlace"
        value={stated.deinterlace}
        choices={[
          { value: "one_per_pair", title: "One frame per two fields" },
          { value: "one_per_field", title: "One frame per field" },
          { value: "film", title: "Film frames (remove pulldown)" },
        ]}
        onChange={(value) => set({ deinterlace: value as Interpretation["deinterlace"] })}
      />
    </Fold>
  );
}

/** How it is turned, and how much of a standard-definition line is picture. */
export function Turning() {
  const { footage, set } = useInterpretation();
  const { stated, info, interval_lines } = footage;
  const turned = stated.rotation ?? info.rotation;
  return (
    <Fold title="Rotate and mirror" state={`${turned}°${stated.mirror ? ", mirrored" : ""}`}>
      <ChoiceRow
        label="Rotate"
        value={stated.rotation == null ? "" : String(stated.rotation)}
        choices={[
          { value: "", title: `As in the metadata, ${info.rotation}°` },
          ...[0, 90, 180, 270].map((turn) => ({ value: String(turn), title: `${turn}° clockwise` })),
        ]}
        onChange={(value) =>
          set({ rotation: (value === "" ? null : Number(value)) as Interpretation["rotation"] })
        }
      />
      <TickRow ticked={stated.mirror} onChange={(mirror) => set({ mirror })}>
        Mirror left to right
      </TickRow>
      {info.width === WHOLE_LINE && (
        <ChoiceRow
          label="Picture width"
          hint="How many of the 720 samples of a line carry the picture"
          value={stated.clean_aperture ?? ""}
          choices={[
            { value: "", title: "All 720 samples" },
            { value: "704", title: "Middle 704" },
            { value: "702.9", title: "Middle 702.9 (analogue)" },
            ...(interval_lines
              ? [{ value: "whole", title: `Everything, with ${interval_lines} lines above the picture` }]
              : []),
          ]}
          onChange={(value) => set({ clean_aperture: (value || null) as Interpretation["clean_aperture"] })}
        />
      )}
    </Fold>
  );
}

/** What black, white and colour are stored as. */
export function Colour() {
  const { footage, set } = useInterpretation();
  const { stated, info, colour: tagged, colour_state } = footage;
  if (info.kind !== "clip") return null;
  const range = info.full_range ? "full" : "limited";
  return (
    <Fold title="Colour" state={stated.matrix ?? colour_state}>
      <ChoiceRow
        label="Matrix"
        value={stated.matrix ?? ""}
        choices={[
          { ...FROM_FILE, title: tagged },
          { value: "bt601", title: "BT.601" },
          { value: "bt709", title: "BT.709" },
          { value: "bt2020", title: "BT.2020" },
        ]}
        onChange={(value) => set({ matrix: (value || null) as Interpretation["matrix"] })}
      />
      <ChoiceRow
        label="Range"
        value={stated.range ?? ""}
        choices={[
          { ...FROM_FILE, title: `As in the file, ${range}` },
          { value: "limited", title: "Limited, 16 to 235" },
          { value: "full", title: "Full, 0 to 255" },
        ]}
        onChange={(value) => set({ range: (value || null) as Interpretation["range"] })}
      />
      <ChoiceRow
        label="Primaries"
        value={stated.primaries ?? ""}
        choices={[
          FROM_FILE,
          { value: "bt709", title: "BT.709, sRGB" },
          { value: "bt601-525", title: "BT.601, 525 lines" },
          { value: "bt601-625", title: "BT.601, 625 lines" },
          { value: "bt2020", title: "BT.2020" },
          { value: "p3-d65", title: "P3, D65" },
        ]}
        onChange={(value) => set({ primaries: (value || null) as Interpretation["primaries"] })}
      />
      <ChoiceRow
        label="Transfer"
        hint="The curve between codes and light"
        value={stated.transfer ?? ""}
        choices={[
          FROM_FILE,
          { value: "sdr", title: "SDR" },
          { value: "hlg", title: "HDR, HLG" },
          { value: "pq", title: "HDR, PQ" },
        ]}
        onChange={(value) => set({ transfer: (value || null) as Interpretation["transfer"] })}
      />
      {info.alpha && <Matte />}
    </Fold>
  );
}

/** How long a still lasts, how fast stills follow each other, and what shows through them. */
export function StillTime() {
  const { footage, set } = useInterpretation();
  const { info, timing } = footage;
  if (info.kind === "clip") return null;
  return (
    <Fold title={info.kind === "still" ? "Still" : "Sequence of stills"} open>
      <div className="grid grid-cols-[84px_1fr] items-center gap-2.5">
        {info.kind === "still" && (
          <>
            <span>Lasts</span>
            <NumberField
              label="Duration, seconds"
              {...{ unit: "s", low: 0.04, high: 3600, step: 0.5 }}
              value={toNumber(timing.duration)}
              onCommit={(value) => set({ duration: toExact(value, 3) })}
            />
          </>
        )}
        <span>Rate</span>
        <NumberField
          label="Frame rate, fps"
          {...{ unit: "fps", low: 1, high: 240, step: 1, decimals: 3 }}
          value={toNumber(timing.rate)}
          onCommit={(value) => set({ rate: toExact(value, 3) })}
        />
      </div>
      {info.pixel_format === "rgba" && <Matte />}
    </Fold>
  );
}

/** What shows where a picture is transparent. */
function Matte() {
  const { footage, set } = useInterpretation();
  return (
    <ColourRow
      label="Transparency"
      value={footage.stated.matte}
      initial="#000000"
      onChange={() => undefined}
      onCommit={(matte) => set({ matte })}
    />
  );
}
