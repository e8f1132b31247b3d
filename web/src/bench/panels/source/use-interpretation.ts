import { api, type Interpretation, unwrap } from "../../../api/client";
import { useChange, withOne } from "../../../frames/use-change";
import { useBench } from "../../state/use-bench";

type Body = { interpretation: Interpretation | null; for_format: boolean };

/** Set how the clip is read: this clip, or every clip of its format. */
export function useInterpretation() {
  const { footage, report } = useBench("footage", "report");
  const { id, stated, interpretation: taken } = footage;
  const { mutate } = useChange(
    (body: Body) =>
      unwrap(
        api.PUT("/api/footage/{footage_id}/interpretation", { params: { path: { footage_id: id } }, body }),
      ),
    (board, { interpretation }) =>
      interpretation
        ? withOne(board, "footage", id, {
            stated: interpretation,
            interpretation: { ...taken, ...interpretation },
          })
        : board,
  );
  function send(interpretation: Interpretation | null, for_format = false) {
    report(null);
    mutate({ interpretation, for_format }, { onError: report });
  }
  return {
    footage,
    set: (fields: Partial<Interpretation>) => send({ ...stated, ...fields }),
    applyToFormat: () => send(stated, true),
    usePreset: () => send(null),
  };
}
