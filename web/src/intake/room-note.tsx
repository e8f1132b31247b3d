import type { Schemas } from "../api/client";
import { gigabytes } from "../ui/size";

const TIGHT = 0.8;

/** How much of their space a person uses, once that is most of it. */
export function RoomNote({ visitor }: { visitor: Schemas["Visitor"] | undefined }) {
  const use = visitor?.use;
  if (!use?.gigabytes || use.used < use.gigabytes * TIGHT * 1e9) return null;
  return (
    <p className="mb-4 border-l-3 border-rust bg-sheet px-4 py-2">
      Your projects use <span className="num">{gigabytes(use.used)}</span> of the{" "}
      <span className="num">{use.gigabytes} GB</span> that they may. When it is all used, nothing more can be
      added or rendered: delete clips or results that are not needed, or ask an administrator for more.
    </p>
  );
}
