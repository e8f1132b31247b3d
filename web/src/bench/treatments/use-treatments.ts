import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Plan, type Treatment, unwrap } from "../../api/client";
import { refreshFramings, treatmentsQuery } from "../../api/queries";
import { useCalls } from "../../api/use-send";

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
  const { mutate, error: failed } = useCalls({ refresh: refreshFramings });
  const importing = useMutation({
    mutationFn: async (file: File) => {
      const body = JSON.parse(await file.text()) as Record<string, never>;
      return unwrap(api.POST("/api/projects/{project_id}/treatments/import", { params, body }));
    },
    onSettled: () => refreshFramings(client),
  });
  return {
    treatments: data ?? [],
    save: (body: { treatment: Value; everywhere: boolean }) =>
      mutate(() => api.POST("/api/projects/{project_id}/treatments", { params, body })),
    rewrite: ({ id: treatment_id, treatment }: { id: number; treatment: Value }) =>
      mutate(() =>
        api.PUT("/api/treatments/{treatment_id}", {
          params: { path: { treatment_id } },
          body: { treatment, everywhere: false },
        }),
      ),
    remove: (treatment_id: number) =>
      mutate(() => api.DELETE("/api/treatments/{treatment_id}", { params: { path: { treatment_id } } })),
    importOne: importing.mutate,
    error: error ?? failed ?? importing.error,
  };
}
