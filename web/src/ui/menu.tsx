import { DropdownMenu } from "radix-ui";
import { type ReactNode, useRef } from "react";

export const MENU = "z-50 min-w-44 rounded border border-rule bg-sheet py-1 shadow-lg";
export const OPENER =
  "rounded border border-edge bg-sheet px-3 py-1.5 font-semibold hover:border-soft disabled:opacity-45";

type Props = {
  /** What opens it, and how that looks. */
  opener: ReactNode;
  look?: string;
  label?: string;
  side?: "top" | "bottom";
  disabled?: boolean;
  items: readonly (readonly [string, () => void])[];
};

/** A list of things to do, opened by a button. */
export function Menu({ opener, look = OPENER, label, side = "bottom", disabled, items }: Props) {
  const chosen = useRef<(() => void) | null>(null);
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger aria-label={label} disabled={disabled} className={look}>
        {opener}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal container={document.querySelector("main")}>
        <DropdownMenu.Content
          side={side}
          align={side === "top" ? "start" : "end"}
          className={MENU}
          // The focus goes back to the opener first; what was chosen may then bring up a field that takes it.
          onCloseAutoFocus={() => {
            const act = chosen.current;
            chosen.current = null;
            if (act) setTimeout(act);
          }}
        >
          {items.map(([title, act]) => (
            <DropdownMenu.Item
              key={title}
              className="cursor-pointer px-3 py-1.5 outline-none data-[highlighted]:bg-paper"
              onSelect={() => {
                chosen.current = act;
              }}
            >
              {title}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
