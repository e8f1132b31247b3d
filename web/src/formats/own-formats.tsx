import { type FormEvent, useState } from "react";
import { api, type Catalogue, type Frame } from "../api/client";
import { useChoices } from "../api/use-choices";
import { useCalls, useSend } from "../api/use-send";
import { Button } from "../ui/button";
import { toExact, toNumber } from "../ui/exact";
import { NumberField } from "../ui/number-field";
import { ProblemNote } from "../ui/problem-note";
import { SizeFields } from "../ui/size-fields";

/** Saved frames: new ones, or derived from another. */
export function OwnFormats({ catalogue }: { catalogue: Catalogue }) {
  const choices = useChoices();
  const [made, setMade] = useState<Frame>({ ...choices.frame, width: 3072, height: 768 });
  const { mutate, error, isPending } = useCalls({ refresh: ["catalogue"] });
  const derive = useSend(
    (aspect: string) => api.POST("/api/catalogue/derived", { params: { query: { aspect } }, body: made }),
    { onSuccess: setMade },
  );

  function onSubmit(event: FormEvent) {
    event.preventDefault();
    mutate(() => api.POST("/api/formats", { body: made }));
  }

  return (
    <form onSubmit={onSubmit} className="grid gap-2 border-t border-rule pt-3">
      <h2 className="font-semibold">A format of your own</h2>
      <div className="flex flex-wrap items-center gap-2">
        <FormatFields made={made} set={(fields) => setMade({ ...made, ...fields })} />
        <Button type="submit" disabled={isPending}>
          Save
        </Button>
      </div>
      <div className="flex flex-wrap items-center gap-2 text-soft">
        From this one:
        <Button onClick={() => derive.mutate("")}>Turned upright</Button>
        {choices.aspects.map((aspect) => (
          <Button look="link" key={aspect} className="num" onClick={() => derive.mutate(aspect)}>
            same height, {aspect}
          </Button>
        ))}
      </div>
      <ProblemNote error={error ?? derive.error} />
      {catalogue.own.length > 0 && (
        <OwnList
          own={catalogue.own}
          onRemove={(own_id) =>
            mutate(() => api.DELETE("/api/formats/{own_id}", { params: { path: { own_id } } }))
          }
        />
      )}
    </form>
  );
}

type OwnListProps = { own: Catalogue["own"]; onRemove: (id: number) => void };

const OwnList = ({ own, onRemove }: OwnListProps) => (
  <ul className="grid gap-1">
    {own.map(({ id, frame }) => (
      <li key={id} className="flex items-baseline gap-3">
        <span>{frame.name}</span>
        <span className="num text-soft">
          {frame.width}×{frame.height}
        </span>
        <Button
          look="subtle"
          aria-label={`Remove ${frame.name}`}
          className="hover:text-ink"
          onClick={() => onRemove(id)}
        >
          Remove
        </Button>
      </li>
    ))}
  </ul>
);

const FormatFields = ({ made, set }: { made: Frame; set: (fields: Partial<Frame>) => void }) => (
  <>
    <input
      aria-label="Name of the format"
      placeholder="Name, such as Foyer wall"
      className="w-44 rounded border border-edge bg-sheet px-2 py-1"
      maxLength={80}
      value={made.name}
      onChange={({ target }) => set({ name: target.value })}
    />
    <SizeFields of=" of the format" width={made.width} height={made.height} onChange={set} />
    <NumberField
      label="Pixel aspect of the format"
      {...{ unit: "pixel", low: 0.1, high: 10, step: 0.01, decimals: 4 }}
      className="w-28"
      value={toNumber(made.pixel_aspect)}
      onCommit={(value) => set({ pixel_aspect: toExact(value, 6) })}
    />
  </>
);
