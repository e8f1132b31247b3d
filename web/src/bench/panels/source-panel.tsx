import type { Footage } from "../../api/client";

/** What the clip really is. */
export function SourcePanel({ footage }: { footage: Footage }) {
  return (
    <section aria-label="Source" className="grid gap-3">
      <h2 className="font-semibold">Source</h2>
      <dl className="grid grid-cols-[92px_1fr] gap-y-1.5">
        {footage.described.map(({ name, says }) => (
          <div key={`${name} ${says}`} className="contents">
            <dt className="text-soft">{name}</dt>
            <dd className="num break-words">{says}</dd>
          </div>
        ))}
      </dl>
      <p className="border-l-3 border-moss pl-3 text-soft">
        Look for a wheel, a clock or a face: if it is round in the well, the shape is understood rightly.
      </p>
    </section>
  );
}
