import { useSearchParams } from "react-router";
import { FourSteps } from "../ui/four-steps";

/** What will happen here, drawn. */
export function EmptyBoard() {
  const [query] = useSearchParams();
  return (
    <section className="mt-8 grid gap-8">
      {query.has("samples") ? (
        <p role="status" className="max-w-xl border-l-3 border-ochre bg-sheet px-5 py-4">
          <span className="block font-semibold text-[15px]">Sample clips are being drawn …</span>
          <span className="text-soft">
            A 4:3 tape, an upright clip and a wide one; each appears here once it is there, the first in some
            ten seconds.
          </span>
        </p>
      ) : (
        <div className="max-w-xl border-l-3 border-ochre bg-sheet px-5 py-4">
          <h2 className="mb-1 font-semibold text-[15px]">Drop clips or a folder anywhere on this page</h2>
          <p className="text-soft">
            MP4, MOV, MKV, AVI, MXF or MPEG, of any shape and rate; PNG, JPEG and TIFF stills, alone or
            numbered. Each clip becomes a row, each frame a column, and every cell shows the clip in that
            frame.
          </p>
        </div>
      )}
      <FourSteps />
    </section>
  );
}
