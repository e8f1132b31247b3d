import { useQuery } from "@tanstack/react-query";
import type { Footage, Frame } from "../api/client";
import { boardQuery } from "../api/queries";
import { stemOf } from "../ui/stem";

type Size = Pick<Frame, "width" | "height">;

/** A list of the sizes that the clips of a project have in square pixels, to choose the size of a frame from. */
export function SameAsClip({ projectId, onChoose }: { projectId: number; onChoose: (size: Size) => void }) {
  const { data: board } = useQuery(boardQuery(projectId));
  const sizes = new Map<string, Footage[]>();
  for (const clip of board?.footage ?? []) {
    const key = `${clip.frame_size.width}×${clip.frame_size.height}`;
    sizes.set(key, [...(sizes.get(key) ?? []), clip]);
  }
  if (sizes.size === 0) return null;
  return (
    <select
      aria-label="Same as a clip"
      className="max-w-56 rounded border border-edge bg-sheet px-2 py-1"
      value=""
      onChange={({ target }) => {
        const [clip] = sizes.get(target.value) ?? [];
        if (clip) onChoose(clip.frame_size);
      }}
    >
      <option value="">Same as a clip …</option>
      {[...sizes].map(([size, [first, ...others]]) => (
        <option key={size} value={size}>
          {size}: {first && stemOf(first.name)}
          {others.length > 0 && ` and ${others.length} more`}
        </option>
      ))}
    </select>
  );
}
