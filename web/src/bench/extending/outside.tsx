import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Design, postRaw, type Schemas, unwrap } from "../../api/client";
import { useSend } from "../../api/use-send";
import { Button } from "../../ui/button";
import { Fold } from "../../ui/fold";
import { ProblemNote } from "../../ui/problem-note";
import { useFilePicker } from "../../ui/use-file-picker";
import { asked } from "../editor/scope";
import { useBench } from "../state/use-bench";
import { ON_ITS_WAY, useExtension } from "./use-extension";

/** A still that is finished by other means: saved, taken back, or made by an outside generator where one is set up. */
export function Outside() {
  const { framingId, plan, time } = useBench("framingId", "plan", "time");
  const { commit, report } = useBench("commit", "report");
  const extension = useExtension();
  const { extended, state } = extension;
  const save = useMutation({
    mutationFn: () => saveStill(framingId, { ...asked(plan), time }),
    onError: report,
  });
  const { imported, busy, importing } = useImport();
  return (
    <Fold title="Picture from outside" state={extended?.outside ? "in use" : "none"}>
      <p className="text-soft">
        The still has the frame’s size. Fill the transparent area; the half-transparent margin may be painted
        over.
      </p>
      <div className="flex flex-wrap gap-2">
        <Button disabled={save.isPending} onClick={() => save.mutate()}>
          Save the still
        </Button>
        {importing.field}
        <Button disabled={busy} onClick={importing.pick}>
          {busy ? "Taking it back …" : "Take it back"}
        </Button>
      </div>
      {imported && (
        <p role="status" className="border-l-3 border-moss pl-3">
          Imported: {imported}.
        </p>
      )}
      {extended?.outside && (
        <Button
          look="link"
          className="justify-self-start"
          onClick={() => commit(extension.with({ outside: null }), "Without that picture")}
        >
          Remove that picture
        </Button>
      )}
      {state?.generator && <Generated />}
    </Fold>
  );
}

/** Taking a finished still back, and what was found in it. */
function useImport() {
  const { framingId, time, edit } = useBench("framingId", "time", "edit");
  const [imported, setImported] = useState("");
  const [busy, setBusy] = useState(false);

  async function takeBack(file: File) {
    setBusy(true);
    await edit("Picture taken back", async (_, given) => {
      const { design, about } = await sendStill(framingId, { ...given, time }, file);
      setImported(about);
      return design;
    });
    setBusy(false);
  }

  const importing = useFilePicker({
    label: "Picture to import",
    accept: "image/png,image/jpeg,image/tiff",
    onFiles: ([file]) => file && takeBack(file),
  });
  return { imported, busy, importing };
}

/** Pictures of an outside generator; nothing is sent before the button is pressed. */
function Generated() {
  const { framingId, plan, time, edit } = useBench("framingId", "plan", "time", "edit");
  const { extended, state, refresh } = useExtension();
  const body = { ...asked(plan), time };
  const use = (material: string) =>
    edit("Generated picture", (params, given) =>
      unwrap(
        api.POST("/api/framings/{framing_id}/extension/use", { params, body: { ...given, time, material } }),
      ),
    );
  const [prompt, setPrompt] = useState("");
  const ask = useSend(
    () =>
      api.POST("/api/framings/{framing_id}/extension/generate", {
        params: { path: { framing_id: framingId } },
        body: { ...body, prompt, count: 2 },
      }),
    { refresh },
  );
  const cancel = useSend(
    (generation_id: number) =>
      api.POST("/api/generations/{generation_id}/cancel", { params: { path: { generation_id } } }),
    { refresh },
  );
  return (
    <div className="grid gap-2 border-t border-rule pt-2">
      <ProblemNote error={ask.error ?? cancel.error} />
      <label className="grid gap-1">
        Prompt for the outside generator
        <input
          className="rounded border border-edge bg-sheet px-2 py-1"
          maxLength={2000}
          value={prompt}
          onChange={({ target }) => setPrompt(target.value)}
        />
      </label>
      <Button disabled={ask.isPending} onClick={() => ask.mutate()}>
        Generate
      </Button>
      {(state?.generations ?? []).map((one) => (
        <Generation
          key={one.id}
          generation={one}
          chosen={extended?.outside?.of}
          onCancel={() => cancel.mutate(one.id)}
          onUse={use}
        />
      ))}
    </div>
  );
}

type GenerationProps = {
  generation: Schemas["GenerationOut"];
  chosen: string | undefined;
  onCancel: () => void;
  onUse: (material: string) => void;
};

/** One request to the generator: how far it is, and its pictures to choose from. */
const Generation = ({ generation: one, chosen, onCancel, onUse }: GenerationProps) => (
  <div className="grid gap-1" role="status">
    {ON_ITS_WAY.includes(one.state) && (
      <p className="flex gap-2">
        Waiting for the generator … <span className="num">{one.done_percent}%</span>
        <Button look="link" onClick={onCancel}>
          cancel
        </Button>
      </p>
    )}
    {one.problem && (
      <p className="text-rust">
        {one.problem} {one.remedy}
      </p>
    )}
    <div className="grid grid-cols-2 gap-1.5">
      {one.variants.map(({ material, about }) => (
        <button
          key={material}
          type="button"
          title={about}
          aria-label={`Use the generated picture ${material}`}
          aria-pressed={chosen === material}
          className="overflow-hidden rounded border-2 border-rule bg-well hover:border-soft aria-pressed:border-ochre"
          onClick={() => onUse(material)}
        >
          <img alt="" src={`/api/materials/${material.split(":")[1]}/picture?width=320`} />
        </button>
      ))}
    </div>
  </div>
);

async function saveStill(framingId: number, body: object) {
  const response = await postRaw(`/api/framings/${framingId}/extension/still`, {
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(body),
  });
  const name = /filename="?([^";]+)/.exec(response.headers.get("Content-Disposition") ?? "")?.[1];
  const link = document.createElement("a");
  link.href = URL.createObjectURL(await response.blob());
  link.download = name ?? "still.png";
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

async function sendStill(framingId: number, body: object, file: File) {
  const form = new FormData();
  form.append("file", file);
  form.append("given", JSON.stringify(body));
  const response = await postRaw(`/api/framings/${framingId}/extension/outside`, { body: form });
  return (await response.json()) as { design: Design; about: string };
}
