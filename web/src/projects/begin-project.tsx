import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api } from "../api/client";
import { useSend } from "../api/use-send";
import { Button } from "../ui/button";
import { useKeys } from "../ui/keyboard";
import { ProblemNote } from "../ui/problem-note";

/** A new project, by its name. However often it is pressed, it is one. */
export function BeginProject() {
  const [name, setName] = useState("");
  const started = useRef(false);
  const field = useRef<HTMLInputElement>(null);
  useKeys([{ keys: "n", does: "Name a new project", act: () => field.current?.focus() }]);
  const navigate = useNavigate();
  const client = useQueryClient();
  const create = useSend(() => api.POST("/api/projects", { body: { name } }), {
    onSuccess: (project) => {
      client.invalidateQueries({ queryKey: ["projects"] });
      navigate(`/projects/${project.id}`);
    },
    onError: () => {
      started.current = false;
    },
  });

  function onSubmit(event: FormEvent) {
    event.preventDefault();
    if (!name.trim() || started.current) return;
    started.current = true;
    create.mutate();
  }

  return (
    <form onSubmit={onSubmit} className="flex flex-wrap gap-2">
      <input
        ref={field}
        aria-label="Project name"
        placeholder="Project name"
        className="w-72 rounded border border-edge bg-sheet px-3 py-1.5"
        value={name}
        maxLength={120}
        onChange={(event) => setName(event.target.value)}
      />
      <Button type="submit" disabled={!name.trim() || create.isPending}>
        New project
      </Button>
      <ProblemNote error={create.error} />
    </form>
  );
}
