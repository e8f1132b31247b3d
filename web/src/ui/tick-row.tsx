import type { ReactNode } from "react";

type Props = { ticked: boolean; onChange: (ticked: boolean) => void; children: ReactNode };

/** Something that is so or is not. */
export function TickRow({ ticked, onChange, children }: Props) {
  return (
    <label className="flex cursor-pointer items-baseline gap-2">
      <input
        type="checkbox"
        className="translate-y-0.5 accent-ochre"
        checked={ticked}
        onChange={({ target }) => onChange(target.checked)}
      />
      <span className="min-w-0">{children}</span>
    </label>
  );
}
