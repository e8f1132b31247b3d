import { type QueryClient, queryOptions } from "@tanstack/react-query";
import { api, type Board, type Cell, type FrameRow, type Framing, unwrap } from "./client";

const A_SECOND = 1000;

export const visitorQuery = queryOptions({
  queryKey: ["visitor"],
  queryFn: () => unwrap(api.GET("/api/visitor")),
  staleTime: Number.POSITIVE_INFINITY,
});

export const catalogueQuery = queryOptions({
  queryKey: ["catalogue"],
  queryFn: () => unwrap(api.GET("/api/catalogue")),
  staleTime: Number.POSITIVE_INFINITY,
});

export const projectsQuery = queryOptions({
  queryKey: ["projects"],
  queryFn: () => unwrap(api.GET("/api/projects")),
});

export const boardQuery = (projectId: number) =>
  queryOptions({
    queryKey: ["board", projectId],
    // Changes made by this page are known; see useChanges and takeIn.
    staleTime: A_SECOND * 60,
    // The head of a board can be drawn at once; the rest follows.
    queryFn: async ({ client, queryKey }) => {
      const path = { project_id: projectId };
      const all = () => unwrap(api.GET("/api/projects/{project_id}", { params: { path } }));
      if (client.getQueryData<Board>(queryKey)) return all();
      const query = { head: true };
      const head = await unwrap(api.GET("/api/projects/{project_id}", { params: { path, query } }));
      if (isWhole(head)) return head;
      client.setQueryData(queryKey, head);
      return all();
    },
  });

/** Whether all clips of a board are there, and not only the first of them. */
export const isWhole = ({ clips, footage }: Board) => footage.length >= clips;

export const framingQuery = (framingId: number) =>
  queryOptions({
    queryKey: ["framing", framingId],
    queryFn: () =>
      unwrap(api.GET("/api/framings/{framing_id}", { params: { path: { framing_id: framingId } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const guidesQuery = (frameId: number) =>
  queryOptions({
    queryKey: ["guides", frameId],
    queryFn: () =>
      unwrap(api.GET("/api/frames/{frame_id}/guides", { params: { path: { frame_id: frameId } } })),
  });

export const treatmentsQuery = (projectId: number) =>
  queryOptions({
    queryKey: ["treatments", projectId],
    queryFn: () =>
      unwrap(
        api.GET("/api/projects/{project_id}/treatments", { params: { path: { project_id: projectId } } }),
      ),
  });

export const lineupQuery = (framingId: number) =>
  queryOptions({
    queryKey: ["lineup", framingId],
    queryFn: () =>
      unwrap(api.GET("/api/framings/{framing_id}/lineup", { params: { path: { framing_id: framingId } } })),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
  });

export const materialsQuery = (projectId: number) =>
  queryOptions({
    queryKey: ["materials", projectId],
    queryFn: () =>
      unwrap(
        api.GET("/api/projects/{project_id}/materials", { params: { path: { project_id: projectId } } }),
      ),
  });

/** About how large a file of a framing will be; asked again when its frame changes, or what `given` holds. */
export const estimateQuery = (framing_id: number, { settings, frame }: FrameRow, given: unknown = null) =>
  queryOptions({
    queryKey: ["estimate", framing_id, JSON.stringify([settings, frame, given])],
    // A worker is finding it out.
    refetchInterval: ({ state }) =>
      state.data && state.data.bytes === null && !state.data.problem ? A_SECOND : false,
    queryFn: () =>
      unwrap(api.GET("/api/framings/{framing_id}/estimate", { params: { path: { framing_id } } })),
    retry: false,
  });

/** About how large a file of a framing will be; asked again when its plan, its range or its frame changes. */
export const estimateOf = (row: FrameRow, { id, version, plan }: Framing) =>
  estimateQuery(id, row, [version, plan.range, plan.interpretation]);

export const coloursQuery = (footageId: number) =>
  queryOptions({
    queryKey: ["colours", footageId],
    queryFn: () =>
      unwrap(api.GET("/api/footage/{footage_id}/colours", { params: { path: { footage_id: footageId } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const folderQuery = (path: string) =>
  queryOptions({
    queryKey: ["folder", path],
    queryFn: () => unwrap(api.GET("/api/folders", { params: { query: { path } } })),
  });

export const AT_WORK = ["queued", "running", "paused"];

/** All renders of a project together. */
export const queueQuery = (projectId: number) =>
  queryOptions({
    queryKey: ["renders", projectId, "queue"],
    queryFn: () =>
      unwrap(api.GET("/api/projects/{project_id}/queue", { params: { path: { project_id: projectId } } })),
  });

export const rendersQuery = (projectId: number) =>
  queryOptions({
    queryKey: ["renders", projectId],
    queryFn: () =>
      unwrap(api.GET("/api/projects/{project_id}/renders", { params: { path: { project_id: projectId } } })),
  });

/** Whether clips or renders of a project have changed; see `useChanges`. */
export const changesQuery = (projectId: number) =>
  queryOptions({
    queryKey: ["changes", projectId],
    queryFn: () =>
      unwrap(api.GET("/api/projects/{project_id}/changes", { params: { path: { project_id: projectId } } })),
    refetchInterval: A_SECOND * 2,
    refetchIntervalInBackground: false,
    staleTime: 0,
  });

/** Take in a framing that the server has changed, and its cell on every board that shows it. */
export function takeIn(client: QueryClient, framing: Framing) {
  const { queryKey } = framingQuery(framing.id);
  // A question asked earlier and answered later would bring back the old state.
  const overtaken = [queryKey, ["board"]].filter((key) => client.isFetching({ queryKey: key }) > 0);
  client.setQueryData(queryKey, framing);
  client.setQueriesData<Board>({ queryKey: ["board"] }, (board) =>
    board?.cells.some(({ id }) => id === framing.id)
      ? { ...board, cells: board.cells.map((cell) => (cell.id === framing.id ? framing.cell : cell)) }
      : board,
  );
  for (const key of [...overtaken, ["treatments"]]) client.invalidateQueries({ queryKey: key });
}

/** Take in cells that the server has changed. */
export function takeInCells(client: QueryClient, cells: Cell[]) {
  const changed = new Map(cells.map((cell) => [cell.id, cell]));
  client.setQueriesData<Board>(
    { queryKey: ["board"] },
    (board) => board && { ...board, cells: board.cells.map((cell) => changed.get(cell.id) ?? cell) },
  );
  for (const { id } of cells) client.invalidateQueries({ queryKey: framingQuery(id).queryKey });
  for (const key of ["treatments", "renders"]) client.invalidateQueries({ queryKey: [key] });
}

/** The version of a framing as last heard: after a save a moment ago it may be newer than the one that is drawn. */
export const versionOf = (client: QueryClient, framing: Framing) =>
  client.getQueryData<Framing>(framingQuery(framing.id).queryKey)?.version ?? framing.version;

/** Fetch again all that depends on a frame or on a clip's interpretation: the board and every framing. */
export const refreshFramings = (client: QueryClient) =>
  Promise.all(
    ["board", "framing", "guides", "treatments", "renders", "scope"].map((key) =>
      client.invalidateQueries({ queryKey: [key] }),
    ),
  );
