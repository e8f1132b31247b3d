import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type Material, postRaw } from "../../../api/client";
import { materialsQuery } from "../../../api/queries";
import { useMaterialRemoval } from "../../../removal/use-material-removal";
import { Button } from "../../../ui/button";
import { ChoiceRow } from "../../../ui/choice-row";
import { ProblemNote } from "../../../ui/problem-note";
import { useFilePicker } from "../../../ui/use-file-picker";
import { useBench } from "../../state/use-bench";

export type Named = "picture" | "clip" | "logo" | "captions";

type Props = {
  label: string;
  what: Named;
  value: string;
  onCommit: (value: string) => void;
};

const NOTHING: Record<Named, string> = {
  picture: "this clip",
  clip: "this clip",
  logo: "none",
  captions: "none",
};
const ACCEPTED = { picture: "image/png,image/jpeg,image/tiff", captions: ".srt,.vtt" };
const ADD = { picture: "add a picture", captions: "add captions, SRT or WebVTT" };

/** Another file that the plan uses: chosen from the project, or added to it. */
export function MaterialRow({ label, what, value, onCommit }: Props) {
  const { board, projectId } = useBench("board", "projectId");
  const { data: materials } = useQuery(materialsQuery(projectId));
  const kind = what === "captions" ? "captions" : "picture";
  const clips = what === "picture" || what === "clip" ? board.footage : [];
  const files = what === "clip" ? [] : (materials ?? []).filter((material) => material.kind === kind);
  const choices = [
    { value: "", title: NOTHING[what] },
    ...files.map(({ ref, name }) => ({ value: ref, title: name })),
    ...clips.map(({ id, name }) => ({ value: `footage:${id}`, title: name })),
  ];
  const known = choices.some((choice) => choice.value === value);

  return (
    <div className="grid gap-1">
      <ChoiceRow
        label={label}
        value={value}
        choices={known ? choices : [...choices, { value, title: "Missing" }]}
        onChange={onCommit}
      />
      {what !== "clip" && (
        <Files {...{ label, onCommit }} kind={kind} chosen={files.find(({ ref }) => ref === value)} />
      )}
    </div>
  );
}

type FilesProps = Pick<Props, "label" | "onCommit"> & {
  kind: keyof typeof ADD;
  chosen: Material | undefined;
};

/** Add a file to the project and choose it, or remove the chosen one. */
function Files({ label, kind, chosen, onCommit }: FilesProps) {
  const { projectId } = useBench("projectId");
  const client = useQueryClient();
  const removal = useMaterialRemoval(projectId);
  const add = useMutation({
    mutationFn: (file: File) => send(projectId, file),
    onSuccess: async (material) => {
      await client.invalidateQueries({ queryKey: materialsQuery(projectId).queryKey });
      onCommit(material.ref);
    },
  });
  const adding = useFilePicker({
    label: `${label}: ${ADD[kind]}`,
    accept: ACCEPTED[kind],
    onFiles: ([file]) => file && add.mutate(file),
  });
  return (
    <>
      {adding.field}
      <div className="flex flex-wrap gap-x-4 pl-[94px]">
        <Button look="link" onClick={adding.pick}>
          {add.isPending ? "adding …" : ADD[kind]}
        </Button>
        {chosen && (
          <Button look="link" onClick={() => removal.remove({ id: chosen.id, name: chosen.name })}>
            remove from the project
          </Button>
        )}
      </div>
      <ProblemNote error={add.error} onClose={add.reset} />
      <ProblemNote error={removal.error} />
      {removal.notes}
    </>
  );
}

async function send(projectId: number, file: File): Promise<Material> {
  const body = new FormData();
  body.append("file", file);
  return (await postRaw(`/api/projects/${projectId}/materials`, { body })).json();
}
