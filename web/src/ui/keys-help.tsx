import { Dialog } from "radix-ui";
import { useState } from "react";
import { Link } from "react-router";
import { useKeyList, useKeys } from "./keyboard";
import { Overlay } from "./overlay";

const NAMES: Record<string, string> = {
  $mod: /Mac|iP/.test(navigator.platform) ? "⌘" : "Ctrl",
  ArrowLeft: "←",
  ArrowRight: "→",
  ArrowUp: "↑",
  ArrowDown: "↓",
  Arrows: "← ↑ ↓ →",
};

/** The labels printed on keys. */
const printed = (keys: string) =>
  keys
    .split("+")
    .map((key) => NAMES[key] ?? (key.length === 1 ? key.toUpperCase() : key))
    .filter((key, _, all) => !(key === "Shift" && all.includes("?")))
    .join(" ");

/** The keys that do something on this screen, by the key for it. */
export function KeysHelp() {
  const [open, setOpen] = useState(false);
  useKeys([{ keys: "Shift+?", does: "These keys", act: () => setOpen(true) }]);
  const uses = Object.values(useKeyList()).flat();
  const shown = new Map(uses.map((use) => [use.does, use]));
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Overlay title="Keyboard shortcuts" width={640}>
        <dl className="columns-2 gap-x-8">
          {[...shown.values()].map(({ keys, does }) => (
            <div key={does} className="flex min-h-7 break-inside-avoid items-baseline gap-3">
              <dt className="num w-24 shrink-0 text-right">
                <kbd>{printed(keys)}</kbd>
              </dt>
              <dd>{does}</dd>
            </div>
          ))}
        </dl>
        <Link to="/help" className="mt-4 text-ochre underline" onClick={() => setOpen(false)}>
          Open the help
        </Link>
      </Overlay>
    </Dialog.Root>
  );
}
