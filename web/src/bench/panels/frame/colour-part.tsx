import type { Frame, FrameRow } from "../../../api/client";
import { ChoiceRow } from "../../../ui/choice-row";
import { Fold } from "../../../ui/fold";
import { useBench } from "../../state/use-bench";

type Props = { row: FrameRow; set: (fields: Partial<Frame>) => void };

/** What the frame's colours are, and how this clip's come to be those. */
export function ColourPart({ row, set }: Props) {
  const { measure } = useBench("measure");
  const { frame_colour: own, colour } = measure.summary;
  return (
    <Fold title="Colour" state={own}>
      <ChoiceRow
        label="Colours"
        value={row.frame.colour}
        choices={[
          { value: "sdr", title: "SDR, BT.709; BT.601 up to 576 lines" },
          { value: "bt2020", title: "SDR, BT.2020" },
          { value: "hlg", title: "HDR, HLG" },
          { value: "pq", title: "HDR, PQ" },
        ]}
        onChange={(value) => set({ colour: value as Frame["colour"] })}
      />
      <p>Files will be {own}.</p>
      <p className="text-soft">
        {colour ? `This clip: ${colour}.` : "This clip's colours are delivered as they are."}
      </p>
    </Fold>
  );
}
