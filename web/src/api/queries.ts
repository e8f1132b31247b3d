import { type QueryClient, queryOptions } from "@tanstack/react-query";
import { answered, api, type FrameRow, type Framing } from "./client";

const A_SECOND = 1000;

export const visitorQuery = queryOptions({
  queryKey: ["visitor"],
  queryFn: () => answered(api.GET("/api/visitor")),
  staleTime: Number.POSITIVE_INFINITY,
});

export const catalogueQuery = queryOptions({
  queryKey: ["catalogue"],
  queryFn: () => answered(api.GET("/api/catalogue")),
  staleTime: Number.POSITIVE_INFINITY,
});

export const projectsQuery = queryOptions({
  queryKey: ["projects"],
  queryFn: () => answered(api.GET("/api/projects")),
});

export const boardQuery = (projectId: number) =>
  queryOptions({
    queryKey: ["board", projectId],
    queryFn: () =>
      answered(api.GET("/api/projects/{project_id}", { params: { path: { project_id: projectId } } })),
    // While clips are still being looked at, what is found shows by itself.
    refetchInterval: ({ state }) =>
      state.data?.footage.some(
        ({ looked, missing, facts }) => !missing && (!looked || facts.counted === "estimated"),
      )
        ? A_SECOND * 1.5
        : false,
  });

export const framingQuery = (framingId: number) =>
  queryOptions({
    queryKey: ["framing", framingId],
    queryFn: () =>
      answered(api.GET("/api/framings/{framing_id}", { params: { path: { framing_id: framingId } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const guidesQuery = (frameId: number) =>
  queryOptions({
    queryKey: ["guides", frameId],
    queryFn: () =>
      answered(api.GET("/api/frames/{frame_id}/guides", { params: { path: { frame_id: frameId } } })),
  });

export const treatmentsQuery = (projectId: number) =>
  queryOptions({
    queryKey: ["treatments", projectId],
    queryFn: () =>
      answered(
        api.GET("/api/projects/{project_id}/treatments", { params: { path: { project_id: projectId } } }),
      ),
  });

export const lineupQuery = (framingId: number) =>
  queryOptions({
    queryKey: ["lineup", framingId],
    queryFn: () =>
      answered(api.GET("/api/framings/{framing_id}/lineup", { params: { path: { framing_id: framingId } } })),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
  });

export const materialsQuery = (projectId: number) =>
  queryOptions({
    queryKey: ["materials", projectId],
    queryFn: () =>
      answered(
        api.GET("/api/projects/{project_id}/materials", { params: { path: { project_id: projectId } } }),
      ),
  });

/** About how large a file of a framing will be; asked again when its plan, its settings or its range change. */
export const estimateOf = ({ settings, frame }: FrameRow, { id, version, plan }: Framing) =>
  queryOptions({
    queryKey: ["estimate", id, version, JSON.stringify([settings, frame, plan.range, plan.interpretation])],
    queryFn: () =>
      answered(api.GET("/api/framings/{framing_id}/estimate", { params: { path: { framing_id: id } } })),
    retry: false,
  });

export const coloursQuery = (footageId: number) =>
  queryOptions({
    queryKey: ["colours", footageId],
    queryFn: () =>
      answered(api.GET("/api/footage/{footage_id}/colours", { params: { path: { footage_id: footageId } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const folderQuery = (path: string) =>
  queryOptions({
    queryKey: ["folder", path],
    queryFn: () => answered(api.GET("/api/folders", { params: { query: { path } } })),
  });

export const AT_WORK = ["queued", "running", "paused"];

/** All renders of a project together. */
export const queueQuery = (projectId: number) =>
  queryOptions({
    queryKey: ["renders", projectId, "queue"],
    queryFn: () =>
      answered(api.GET("/api/projects/{project_id}/queue", { params: { path: { project_id: projectId } } })),
    refetchInterval: ({ state }) =>
      state.data && state.data.running + state.data.waiting > 0 ? A_SECOND : A_SECOND * 10,
  });

/** A project's renders; asked again every half second while one is at work, so that progress shows by itself. */
export const rendersQuery = (projectId: number) =>
  queryOptions({
    queryKey: ["renders", projectId],
    queryFn: () =>
      answered(
        api.GET("/api/projects/{project_id}/renders", { params: { path: { project_id: projectId } } }),
      ),
    refetchInterval: ({ state }) =>
      state.data?.some(({ state }) => ["queued", "running"].includes(state)) ? A_SECOND / 2 : A_SECOND * 10,
  });

/** Take in a framing that the server has changed; the board that shows it is asked for again. */
export function takeIn(client: QueryClient, framing: Framing) {
  client.setQueryData(framingQuery(framing.id).queryKey, framing);
  client.invalidateQueries({ queryKey: ["board"] });
}

/** Ask again for all that depends on a frame or on what a clip is taken to be: the board and every framing. */
export const refreshFramings = (client: QueryClient) =>
  Promise.all(
    ["board", "framing", "guides", "treatments"].map((key) => client.invalidateQueries({ queryKey: [key] })),
  );
