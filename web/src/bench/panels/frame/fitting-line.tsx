import { useQuery } from "@tanstack/react-query";
import type { FrameRow } from "../../../api/client";
import { estimateOf } from "../../../api/queries";
import { useBench } from "../../state/use-bench";

/** How this clip is fitted into the frame's rate: how much is repeated and dropped, and where. */
export function FittingLine({ row }: { row: FrameRow }) {
  const { framing } = useBench("framing");
  const { data } = useQuery(estimateOf(row, framing));
  const fitting = data?.fitting;
  if (!row.frame.rate) return <p className="text-soft">Every picture of a clip is delivered as it is.</p>;
  if (!fitting) return <p className="text-soft">{data ? "This clip has that rate already." : "…"}</p>;
  return (
    <>
      <p>{fitting.summary}.</p>
      {fitting.where.length > 0 && (
        <details>
          <summary className="cursor-pointer text-soft">Where</summary>
          <ul className="num mt-1 max-h-40 overflow-y-auto text-soft">
            {fitting.where.map((place) => (
              <li key={place}>{place}</li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}
