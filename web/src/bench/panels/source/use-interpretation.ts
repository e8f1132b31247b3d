import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, type Footage, type Interpretation, unwrap } from "../../../api/client";
import { refreshFramings } from "../../../api/queries";
import { inOrder } from "../../../api/saves";

/** Set how a clip is read: this clip, or every clip of its format. */
export function useInterpretation(footage: Footage) {
  const client = useQueryClient();
  const interpret = useMutation({
    mutationFn: (body: { interpretation: Interpretation | null; for_format: boolean }) => {
      const params = { path: { footage_id: footage.id } };
      return inOrder(() => unwrap(api.PUT("/api/footage/{footage_id}/interpretation", { params, body })));
    },
    onSettled: () => refreshFramings(client),
  });
  const pending = interpret.isPending ? interpret.variables.interpretation : null;
  const stated = pending ?? footage.stated;
  return {
    /** The clip with the change that is being saved, so that it shows at once. */
    seen: pending
      ? { ...footage, stated, interpretation: { ...footage.interpretation, ...pending } }
      : footage,
    say: (fields: Partial<Interpretation>) =>
      interpret.mutate({ interpretation: { ...stated, ...fields }, for_format: false }),
    sayForFormat: () => interpret.mutate({ interpretation: stated, for_format: true }),
    obey: () => interpret.mutate({ interpretation: null, for_format: false }),
    error: interpret.error,
  };
}

export type Sayer = ReturnType<typeof useInterpretation>;
export type PartProps = { footage: Footage; say: Sayer["say"] };
