import { ContextMenu, DropdownMenu } from "radix-ui";
import { type ReactElement, type ReactNode, useRef } from "react";

export const MENU = "z-50 min-w-44 rounded border border-rule bg-sheet py-1 shadow-lg";
export const OPENER =
  "rounded border border-edge bg-sheet px-3 py-1.5 font-semibold hover:border-soft disabled:opacity-45";

const ITEM = "cursor-pointer px-3 py-1.5 outline-none data-[highlighted]:bg-paper";

/** Actions by their labels. */
export type Items = readonly (readonly [string, () => void])[];

type Props = {
  /** What opens it, and how that looks. */
  opener: ReactNode;
  look?: string;
  label?: string;
  side?: "top" | "bottom";
  disabled?: boolean;
  items: Items;
};

/** A list of things to do, opened by a button. */
export function Menu({ opener, look = OPENER, label, side = "bottom", disabled, items }: Props) {
  const { choose, closed } = useChosen();
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
          onCloseAutoFocus={closed}
        >
          {items.map(([title, act]) => (
            <DropdownMenu.Item key={title} className={ITEM} onSelect={() => choose(act)}>
              {title}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** The same list where a thing itself is pressed long, or with the other button. */
export function Pressed({ items, children }: { items: Items; children: ReactElement }) {
  const { choose, closed } = useChosen();
  return (
    <ContextMenu.Root modal={false}>
      <ContextMenu.Trigger asChild>{children}</ContextMenu.Trigger>
      <ContextMenu.Portal container={document.querySelector("main")}>
        <ContextMenu.Content className={MENU} onCloseAutoFocus={closed}>
          {items.map(([title, act]) => (
            <ContextMenu.Item key={title} className={ITEM} onSelect={() => choose(act)}>
              {title}
            </ContextMenu.Item>
          ))}
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  );
}

/** The focus first returns to where it was; the chosen action may then show a field that takes it. */
function useChosen() {
  const chosen = useRef<(() => void) | null>(null);
  return {
    choose: (act: () => void) => {
      chosen.current = act;
    },
    closed: () => {
      const act = chosen.current;
      chosen.current = null;
      if (act) setTimeout(act);
    },
  };
}
