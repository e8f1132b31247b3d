import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, unwrap } from "../api/client";
import { Button } from "../ui/button";
import { ProblemNote } from "../ui/problem-note";

/** A first project with clips that are drawn for it. */
export function BeginWithSamples() {
  const navigate = useNavigate();
  const client = useQueryClient();
  const begin = useMutation({
    mutationFn: () => unwrap(api.POST("/api/samples")),
    onSuccess: (project) => {
      client.invalidateQueries({ queryKey: ["projects"] });
      navigate(`/projects/${project.id}?samples=`);
    },
  });
  return (
    <>
      <Button disabled={begin.isPending} onClick={() => begin.mutate()}>
        Try with sample clips
      </Button>
      <ProblemNote error={begin.error} />
    </>
  );
}
