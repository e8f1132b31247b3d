import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api } from "../api/client";
import { useSend } from "../api/use-send";
import { Button } from "../ui/button";
import { ProblemNote } from "../ui/problem-note";

/** A first project with clips that are drawn for it. */
export function BeginWithSamples() {
  const navigate = useNavigate();
  const client = useQueryClient();
  const begin = useSend(() => api.POST("/api/samples"), {
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
