import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, type Plan, postRaw, unwrap } from "../../api/client";
import { Button } from "../../ui/button";
import { Fold } from "../../ui/fold";
import { ProblemNote } from "../../ui/problem-note";
import { asked, taken } from "../editor/scope";
import { type ExtensionOf, ON_ITS_WAY } from "./use-extension";

type Props = {
  framingId: number;
  plan: Plan;
  time: string;
  extension: ExtensionOf;
  onCommit: (plan: Plan, label: string) => void;
};

/** A still that is finished by other means: saved, taken back, or made by an outside generator where one is set up. */
export function Outside({ framingId, plan, time, extension, onCommit }: Props) {
  const picker = useRef<HTMLInputElement>(null);
  const { extended, standing } = extension;
  const body = { ...asked(plan), time };
  const params = { path: { framing_id: framingId } };
  const save = useMutation({ mutationFn: () => saveStill(framingId, body) });
  const back = useMutation({
    mutationFn: (file: File) => takeBack(framingId, body, file),
    onSuccess: ({ design }) => onCommit(taken(plan, design), "Picture taken back"),
  });
  const use = useMutation({
    mutationFn: (material: string) =>
      unwrap(api.POST("/api/framings/{framing_id}/extension/use", { params, body: { ...body, material } })),
    onSuccess: (design) => onCommit(taken(plan, design), "Generated picture"),
  });
  return (
    <Fold title="Picture from outside" state={extended?.outside ? "in use" : "none"}>
      <ProblemNote error={save.error ?? back.error ?? use.error} />
      <p className="text-soft">
        The still has the frame’s size. Fill the transparent area; the half-transparent margin may be painted
        over.
      </p>
      <div className="flex flex-wrap gap-2">
        <Button disabled={save.isPending} onClick={() => save.mutate()}>
          Save the still
        </Button>
        <input
          ref={picker}
          hidden
          type="file"
          aria-label="Picture to import"
          accept="image/png,image/jpeg,image/tiff"
          onChange={({ target }) => {
            const file = target.files?.[0];
            if (file) back.mutate(file);
            target.value = "";
          }}
        />
        <Button disabled={back.isPending} onClick={() => picker.current?.click()}>
          {back.isPending ? "Taking it back …" : "Take it back"}
        </Button>
      </div>
      {back.data && (
        <p role="status" className="border-l-3 border-moss pl-3">
          Imported: {back.data.about}.
        </p>
      )}
      {extended?.outside && (
        <button
          type="button"
          className="justify-self-start text-ochre underline"
          onClick={() => onCommit(extension.with({ outside: null }), "Without that picture")}
        >
          Remove that picture
        </button>
      )}
      {standing?.generator && (
        <Generated {...{ framingId, body, extension }} onUse={(one) => use.mutate(one)} />
      )}
    </Fold>
  );
}

type GeneratedProps = {
  framingId: number;
  body: ReturnType<typeof asked> & { time: string };
  extension: ExtensionOf;
  onUse: (material: string) => void;
};

/** Asking an outside generator; nothing is sent before that is pressed. */
function Generated({ framingId, body, extension, onUse }: GeneratedProps) {
  const [prompt, setPrompt] = useState("");
  const ask = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/framings/{framing_id}/extension/generate", {
          params: { path: { framing_id: framingId } },
          body: { ...body, prompt, count: 2 },
        }),
      ),
    onSettled: extension.again,
  });
  const cancel = useMutation({
    mutationFn: (generation_id: number) =>
      unwrap(api.POST("/api/generations/{generation_id}/cancel", { params: { path: { generation_id } } })),
    onSettled: extension.again,
  });
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
      {(extension.standing?.generations ?? []).map((one) => (
        <div key={one.id} className="grid gap-1" role="status">
          {ON_ITS_WAY.includes(one.state) && (
            <p className="flex gap-2">
              Waiting for the generator … <span className="num">{one.done_percent}%</span>
              <button type="button" className="text-ochre underline" onClick={() => cancel.mutate(one.id)}>
                cancel
              </button>
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
                aria-pressed={extension.extended?.outside?.of === material}
                className="overflow-hidden rounded border-2 border-rule bg-well hover:border-soft aria-pressed:border-ochre"
                onClick={() => onUse(material)}
              >
                <img alt="" src={`/api/materials/${material.split(":")[1]}/picture?width=320`} />
              </button>
            ))}
          </div>
        </div>
      ))}
    </div>
  );
}

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

async function takeBack(framingId: number, body: object, file: File) {
  const form = new FormData();
  form.append("file", file);
  form.append("given", JSON.stringify(body));
  const response = await postRaw(`/api/framings/${framingId}/extension/outside`, { body: form });
  return (await response.json()) as { design: Plan; about: string };
}
