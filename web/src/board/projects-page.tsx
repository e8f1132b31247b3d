import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, unwrap } from "../api/client";
import { projectsQuery } from "../api/queries";
import { Button } from "../ui/button";
import { Header } from "../ui/header";
import { ProblemNote } from "../ui/problem-note";
import { useTitle } from "../ui/use-title";

/** All projects of the visitor. */
export function ProjectsPage() {
  const { data, error } = useQuery(projectsQuery);
  const [name, setName] = useState("");
  useTitle("Projects");
  const navigate = useNavigate();
  const client = useQueryClient();
  const create = useMutation({
    mutationFn: () => unwrap(api.POST("/api/projects", { body: { name } })),
    onSuccess: (project) => {
      client.invalidateQueries({ queryKey: ["projects"] });
      navigate(`/projects/${project.id}`);
    },
  });

  function onSubmit(event: FormEvent) {
    event.preventDefault();
    if (name.trim()) create.mutate();
  }

  return (
    <div className="flex min-h-full flex-col">
      <Header trail={<span className="font-semibold">Projects</span>} />
      <main id="main" tabIndex={-1} className="outline-none w-full max-w-3xl p-6">
        <h1 className="mb-4 text-[26px] font-bold tracking-tight">Projects</h1>
        <ProblemNote error={error ?? create.error} />
        <ul className="mb-6 border-t border-rule">
          {data?.map((project) => (
            <li key={project.id} className="border-b border-rule">
              <Link
                to={`/projects/${project.id}`}
                className="flex items-baseline gap-4 px-2 py-3 hover:bg-sheet"
              >
                <span className="grow text-[15px] font-semibold">{project.name}</span>
                <span className="num text-soft">
                  {project.clips} clips, {project.frames} frames
                </span>
              </Link>
            </li>
          ))}
          {data?.length === 0 && (
            <li className="border-b border-rule px-2 py-3 text-soft">
              No project yet. A project holds the clips you must deliver and the frames they go into.
            </li>
          )}
        </ul>
        <form onSubmit={onSubmit} className="flex gap-2">
          <input
            aria-label="Name of the new project"
            placeholder="Name of a new project"
            className="w-72 rounded border border-edge bg-sheet px-3 py-1.5"
            value={name}
            maxLength={120}
            onChange={(event) => setName(event.target.value)}
          />
          <Button type="submit" disabled={!name.trim() || create.isPending}>
            Begin a project
          </Button>
        </form>
      </main>
    </div>
  );
}
