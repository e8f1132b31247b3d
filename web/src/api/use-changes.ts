import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { changesQuery } from "./queries";

/** Ask again for clips and renders of a project once they have changed, by whomever. */
export function useChanges(projectId: number) {
  const client = useQueryClient();
  const { data } = useQuery(changesQuery(projectId));
  const seen = useRef(data);
  useEffect(() => {
    const before = seen.current;
    seen.current = data;
    if (!before || !data) return;
    if (data.clips !== before.clips)
      for (const key of ["board", "framing", "history"]) client.invalidateQueries({ queryKey: [key] });
    if (data.renders !== before.renders) client.invalidateQueries({ queryKey: ["renders", projectId] });
  }, [data, client, projectId]);
}
