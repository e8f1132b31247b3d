import { Tooltip } from "radix-ui";
import type { ReactNode } from "react";

/** A short explanation that comes up over what it explains. */
export function Hint({ says, children }: { says: string; children: ReactNode }) {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content sideOffset={6} className="z-50 max-w-64 rounded bg-ink px-2.5 py-1.5 text-sheet">
          {says}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}
