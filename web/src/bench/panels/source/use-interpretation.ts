import { api, type Footage, type Interpretation, unwrap } from "../../../api/client";
import { useChange, withOne } from "../../../frames/use-change";

type Body = { interpretation: Interpretation | null; for_format: boolean };

/** Set how a clip is read: this clip, or every clip of its format. */
export function useInterpretation({ id, stated, interpretation: taken }: Footage) {
  const { mutate, error } = useChange(
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
  return {
    say: (fields: Partial<Interpretation>) =>
      mutate({ interpretation: { ...stated, ...fields }, for_format: false }),
    sayForFormat: () => mutate({ interpretation: stated, for_format: true }),
    obey: () => mutate({ interpretation: null, for_format: false }),
    error,
  };
}

export type Sayer = ReturnType<typeof useInterpretation>;
export type PartProps = { footage: Footage; say: Sayer["say"] };
