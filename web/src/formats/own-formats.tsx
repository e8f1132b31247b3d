import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Catalogue, type Frame, unwrap } from "../api/client";
import { useChoices } from "../api/use-choices";
import { Button } from "../ui/button";
import { toExact, toNumber } from "../ui/exact";
import { NumberField } from "../ui/number-field";
import { ProblemNote } from "../ui/problem-note";
import { SizeFields } from "../ui/size-fields";

/** Saved frames: new ones, or derived from another. */
export function OwnFormats({ catalogue }: { catalogue: Catalogue }) {
  const choices = useChoices();
  const [made, setMade] = useState<Frame>({ ...choices.frame, width: 3072, height: 768 });
  const client = useQueryClient();
  const refresh = { onSuccess: () => client.invalidateQueries({ queryKey: ["catalogue"] }) };
  const save = useMutation({
    mutationFn: (body: Frame) => unwrap(api.POST("/api/formats", { body })),
    ...refresh,
  });
  const remove = useMutation({
    mutationFn: (own_id: number) =>
      unwrap(api.DELETE("/api/formats/{own_id}", { params: { path: { own_id } } })),
    ...refresh,
  });
  const derive = useMutation({
    mutationFn: ({ body, aspect }: { body: Frame; aspect: string }) =>
      unwrap(api.POST("/api/catalogue/derived", { params: { query: { aspect } }, body })),
    onSuccess: setMade,
  });

  function onSubmit(event: FormEvent) {
    event.preventDefault();
    save.mutate(made);
  }

  return (
    <form onSubmit={onSubmit} className="grid gap-2 border-t border-rule pt-3">
      <h2 className="font-semibold">A format of your own</h2>
      <div className="flex flex-wrap items-center gap-2">
        <input
          aria-label="Name of the format"
          placeholder="Name, such as Foyer wall"
          className="w-44 rounded border border-edge bg-sheet px-2 py-1"
          maxLength={80}
          value={made.name}
          onChange={({ target }) => setMade({ ...made, name: target.value })}
        />
        <SizeFields
          of=" of the format"
          width={made.width}
          height={made.height}
          onChange={(size) => setMade({ ...made, ...size })}
        />
        <NumberField
          label="Pixel aspect of the format"
          {...{ unit: "pixel", low: 0.1, high: 10, step: 0.01, decimals: 4 }}
          className="w-28"
          value={toNumber(made.pixel_aspect)}
          onCommit={(value) => setMade({ ...made, pixel_aspect: toExact(value, 6) })}
        />
        <Button type="submit" disabled={save.isPending}>
          Save
        </Button>
      </div>
      <div className="flex flex-wrap items-center gap-2 text-soft">
        From this one:
        <Button onClick={() => derive.mutate({ body: made, aspect: "" })}>Turned upright</Button>
        {choices.aspects.map((aspect) => (
          <Button
            look="link"
            key={aspect}
            className="num"
            onClick={() => derive.mutate({ body: made, aspect })}
          >
            same height, {aspect}
          </Button>
        ))}
      </div>
      <ProblemNote error={save.error ?? derive.error ?? remove.error} />
      {catalogue.own.length > 0 && (
        <ul className="grid gap-1">
          {catalogue.own.map(({ id, frame }) => (
            <li key={id} className="flex items-baseline gap-3">
              <span>{frame.name}</span>
              <span className="num text-soft">
                {frame.width}×{frame.height}
              </span>
              <Button
                look="subtle"
                aria-label={`Remove ${frame.name}`}
                className="hover:text-ink"
                onClick={() => remove.mutate(id)}
              >
                Remove
              </Button>
            </li>
          ))}
        </ul>
      )}
    </form>
  );
}
