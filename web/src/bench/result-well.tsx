import type { Render } from "../api/client";

/** The finished file, playing where the composed frame stood. */
export function ResultWell({ render }: { render: Render }) {
  return (
    <section
      className="well flex min-h-0 min-w-0 grow items-center justify-center bg-well p-8"
      aria-label="The finished file"
    >
      {!render.playable ? (
        <p className="rounded bg-ink px-3 py-2 text-chalk">
          {render.file}: browsers do not play this kind of file. It was measured all the same; download it to
          see it.
        </p>
      ) : (
        // biome-ignore lint/a11y/useMediaCaption: footage under work has no captions
        <video
          key={render.id}
          data-testid="result"
          className="max-h-full max-w-full outline outline-chalk/80"
          controls
          playsInline
          preload="metadata"
          src={`/api/renders/${render.id}/file`}
        />
      )}
    </section>
  );
}
