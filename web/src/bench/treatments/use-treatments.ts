import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Plan, type Treatment, unwrap } from "../../api/client";
import { refreshFramings, treatmentsQuery } from "../../api/queries";
import { useSend } from "../../api/use-send";

type Value = Treatment["treatment"];

/** A plan saved under a name; keyframes belong to the clip, and are not saved. */
export function treatmentOf(name: string, { placement, motion, surround, finish }: Plan): Value {
  return { version: 2, name, placement, motion: { ...motion, keys: [] }, surround, finish };
}

/** The treatments of a project, and saving, changing, importing and removing them. */
export function useTreatments(projectId: number) {
  const client = useQueryClient();
  const { data, error } = useQuery(treatmentsQuery(projectId));
  const params = { path: { project_id: projectId } };
  const settled = { onSettled: () => refreshFramings(client) };
  const save = useSend(
    (body: { treatment: Value; everywhere: boolean }) =>
      api.POST("/api/projects/{project_id}/treatments", { params, body }),
    { ...settled },
  );
  const rewrite = useSend(
    ({ id, treatment }: { id: number; treatment: Value }) =>
      api.PUT("/api/treatments/{treatment_id}", {
        params: { path: { treatment_id: id } },
        body: { treatment, everywhere: false },
      }),
    { ...settled },
  );
  const remove = useSend(
    (id: number) => api.DELETE("/api/treatments/{treatment_id}", { params: { path: { treatment_id: id } } }),
    { ...settled },
  );
  const importOne = useMutation({
    mutationFn: async (file: File) => {
      const body = JSON.parse(await file.text()) as Record<string, never>;
      return unwrap(api.POST("/api/projects/{project_id}/treatments/import", { params, body }));
    },
    ...settled,
  });
  return {
    treatments: data ?? [],
    save: save.mutate,
    rewrite: rewrite.mutate,
    remove: remove.mutate,
    importOne: importOne.mutate,
    error: error ?? save.error ?? rewrite.error ?? remove.error ?? importOne.error,
  };
}
