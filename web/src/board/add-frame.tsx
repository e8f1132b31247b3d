import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { type FormEvent, type ReactNode, useState } from "react";
import { answered, api } from "../api/client";
import { catalogueQuery } from "../api/queries";
import { Button } from "../ui/button";
import { NumberField } from "../ui/number-field";
import { ProblemNote } from "../ui/problem-note";

const TALLEST_OUTLINE = 44;

/** A dialog that adds a frame to a project: one of the usual ones, or any size. */
export function AddFrame({ projectId, children }: { projectId: number; children: ReactNode }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [width, setWidth] = useState(1920);
  const [height, setHeight] = useState(1080);
  const { data: catalogue } = useQuery(catalogueQuery);
  const client = useQueryClient();
  const add = useMutation({
    mutationFn: (frame: { name: string; width: number; height: number }) =>
      answered(
        api.POST("/api/projects/{project_id}/frames", {
          params: { path: { project_id: projectId } },
          body: { active: null, bar_colour: "#000000", ...frame, pixel_aspect: "1" },
        }),
      ),
    onSuccess: () => {
      client.invalidateQueries({ queryKey: ["board", projectId] });
      setOpen(false);
      setName("");
    },
  });

  function onSubmit(event: FormEvent) {
    event.preventDefault();
    add.mutate({ name, width, height });
  }

  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger asChild>{children}</Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 w-[440px] -translate-x-1/2 -translate-y-1/2 rounded border border-rule bg-paper p-5 shadow-xl"
        >
          <Dialog.Title className="mb-3 text-[17px] font-bold">Add a frame</Dialog.Title>
          <ul className="mb-5 grid grid-cols-4 gap-2">
            {catalogue?.frames.map((frame) => (
              <li key={frame.name}>
                <button
                  type="button"
                  className="flex h-28 w-full flex-col items-center justify-end gap-1 rounded border border-rule bg-sheet pb-2 hover:border-soft"
                  onClick={() => add.mutate(frame)}
                >
                  <Outline width={frame.width} height={frame.height} />
                  <span className="font-semibold">{frame.name}</span>
                  <span className="num text-[11px] text-soft">
                    {frame.width}×{frame.height}
                  </span>
                </button>
              </li>
            ))}
          </ul>
          <form onSubmit={onSubmit} className="grid gap-3">
            <p className="font-semibold">Or any other size</p>
            <input
              aria-label="Name of the frame"
              placeholder="Name, such as Foyer screen"
              className="rounded border border-rule bg-sheet px-2 py-1"
              maxLength={80}
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
            <div className="flex items-center gap-2">
              <NumberField
                label="Width"
                className="w-28"
                {...{ value: width, unit: "px", low: 16, high: 8192, step: 2, decimals: 0 }}
                onCommit={(value) => setWidth(Math.round(value))}
              />
              ×
              <NumberField
                label="Height"
                className="w-28"
                {...{ value: height, unit: "px", low: 16, high: 8192, step: 2, decimals: 0 }}
                onCommit={(value) => setHeight(Math.round(value))}
              />
              <div className="grow" />
              <Button type="submit" disabled={add.isPending}>
                Add this size
              </Button>
            </div>
            <ProblemNote error={add.error} />
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** A frame's shape as an outline. */
export function Outline({ width, height }: { width: number; height: number }) {
  const scale = TALLEST_OUTLINE / Math.max(width, height);
  return (
    <span className="block border border-soft" style={{ width: width * scale, height: height * scale }} />
  );
}
