import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { type FormEvent, type ReactNode, useState } from "react";
import { api, type Catalogue, type Frame } from "../api/client";
import { catalogueQuery } from "../api/queries";
import { useChoices } from "../api/use-choices";
import { useSend } from "../api/use-send";
import { Button } from "../ui/button";
import { Outline } from "../ui/outline";
import { Overlay } from "../ui/overlay";
import { ProblemNote } from "../ui/problem-note";
import { SizeFields } from "../ui/size-fields";
import { SameAsClip } from "./same-as-clip";

/** A dialog that adds a frame to a project: from the catalogue, a saved one, or any size. */
export function AddFrame({ projectId, children }: { projectId: number; children: ReactNode }) {
  const [open, setOpen] = useState(false);
  const { data: catalogue } = useQuery(catalogueQuery);
  const client = useQueryClient();
  const add = useSend(
    (body: Frame) =>
      api.POST("/api/projects/{project_id}/frames", { params: { path: { project_id: projectId } }, body }),
    {
      onSuccess: () => {
        client.invalidateQueries({ queryKey: ["board", projectId] });
        setOpen(false);
      },
    },
  );

  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger asChild>{children}</Dialog.Trigger>
      <Overlay title="Add a frame">
        <div className="min-h-0 overflow-y-auto">
          {catalogue && (
            <Choices catalogue={catalogue} onChoose={(frame) => add.isPending || add.mutate(frame)} />
          )}
        </div>
        <OwnSize projectId={projectId} busy={add.isPending} onAdd={add.mutate} />
        <ProblemNote error={add.error} />
      </Overlay>
    </Dialog.Root>
  );
}

function Choices({ catalogue, onChoose }: { catalogue: Catalogue; onChoose: (frame: Frame) => void }) {
  const groups = [...new Set(catalogue.frames.map(({ format }) => format.group))];
  const sets = [
    ...(catalogue.own.length ? [{ title: "Your own", frames: catalogue.own.map(({ frame }) => frame) }] : []),
    ...groups.map((title) => ({
      title,
      frames: catalogue.frames.flatMap(({ format }) => (format.group === title ? [format.frame] : [])),
    })),
  ];
  return (
    <div className="grid grid-cols-2 gap-x-6">
      {sets.map(({ title, frames }) => (
        <section key={title} className="mb-3">
          <h3 className="mb-1 text-soft">{title}</h3>
          <ul>
            {frames.map((frame) => (
              <li key={`${frame.name} ${frame.width} ${frame.height}`}>
                <button
                  type="button"
                  className="flex w-full items-center gap-3 rounded px-1 py-0.5 text-left hover:bg-sheet"
                  onClick={() => onChoose(frame)}
                >
                  <span className="flex h-6 w-8 items-center justify-center">
                    <Outline frame={frame} size={24} />
                  </span>
                  <span className="grow">{frame.name}</span>
                  <span className="num text-soft">
                    {frame.width}×{frame.height}
                  </span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </div>
  );
}

type OwnSizeProps = { projectId: number; busy: boolean; onAdd: (frame: Frame) => void };

function OwnSize({ projectId, busy, onAdd }: OwnSizeProps) {
  const { frame } = useChoices();
  const [name, setName] = useState("");
  const [size, setSize] = useState({ width: frame.width, height: frame.height });

  function onSubmit(event: FormEvent) {
    event.preventDefault();
    onAdd({ ...frame, name, ...size });
  }

  return (
    <form onSubmit={onSubmit} className="grid gap-2 border-t border-rule pt-3">
      <p className="font-semibold">Or any other size</p>
      <div className="flex flex-wrap items-center gap-2">
        <input
          aria-label="Name of the frame"
          placeholder="Name, such as Foyer screen"
          className="w-56 rounded border border-edge bg-sheet px-2 py-1"
          maxLength={80}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <SizeFields {...size} onChange={setSize} />
        <SameAsClip projectId={projectId} onChoose={setSize} />
        <span className="grow" />
        <Button type="submit" disabled={busy}>
          Add this size
        </Button>
      </div>
    </form>
  );
}
