import type { QueryClient } from "@tanstack/react-query";
import { api, type Follow, type Plan, unwrap } from "../../api/client";
import { refreshFramings } from "../../api/queries";
import type { Choices } from "../../api/use-choices";
import { alike, asked, taken } from "../editor/scope";
import { follows } from "../shots/shots";
import type { Actions, Answers, BenchState } from "./types";

/** Edits that the server works out. */
export function serverEdits(
  client: QueryClient,
  choices: Choices,
  get: () => BenchState,
  set: (fields: Partial<Answers>) => void,
): Pick<Actions, "edit" | "follow" | "commit"> {
  const edit: Actions["edit"] = async (label, ask, from = get().plan) => {
    const { framingId, editor, plan } = get();
    set({ editing: true, problem: null });
    try {
      const design = await ask({ path: { framing_id: framingId } }, asked(from));
      // An answer to an older plan must not undo newer changes.
      if (!alike(get().plan, plan)) return false;
      editor.commit(taken(from, design), label);
      return true;
    } catch (problem) {
      set({ problem });
      return false;
    } finally {
      set({ editing: false });
    }
  };

  async function follow(given: Partial<Follow>, label: string) {
    const { plan, footage } = get();
    const wanted = { ...choices.follow, ...plan.motion.follow, ...given, path: [], doubts: [] } as Follow;
    const followed = await edit(label, (params, body) =>
      unwrap(api.POST("/api/framings/{framing_id}/follow", { params, body: { ...body, follow: wanted } })),
    );
    if (followed && !footage.following) refreshFramings(client);
  }

  /** If a window that follows gets another size, its path is solved again in the same step. */
  function commit(given: Plan, label: string) {
    const { plan, editor } = get();
    const sized = sizeOf(given) !== sizeOf(plan) && follows(plan.motion) && given.motion === plan.motion;
    if (!sized) editor.commit(given, label);
    else
      edit(
        label,
        (params, body) =>
          unwrap(
            api.POST("/api/framings/{framing_id}/follow/anew", { params, body: { ...body, time: "0" } }),
          ),
        given,
      );
  }

  return { edit, follow, commit };
}

const sizeOf = ({ placement: { sizing, scale, tightness, angle } }: Plan) =>
  JSON.stringify([sizing, scale, tightness, angle]);
