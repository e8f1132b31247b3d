import { type ReactNode, useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { inAddress } from "./address";

const BETWEEN = "~";
const titlesIn = (query: URLSearchParams, name: string) =>
  (query.get(name) ?? "").split(BETWEEN).filter(Boolean);

/**
 * A part of a panel that folds; its state shows while it is folded, and its contents do no work. The address
 * says which were opened and which were shut, so that they are so again.
 */
export function Fold({
  title,
  state,
  open = false,
  children,
}: {
  title: string;
  state?: string;
  open?: boolean;
  children: ReactNode;
}) {
  const [query, setQuery] = useSearchParams();
  const says = (name: string) => titlesIn(query, name).includes(title);
  const [shown, setShown] = useState(says("open") || (open && !says("shut")));
  const before = useRef(open);
  useEffect(() => {
    if (open && !before.current) setShown(true);
    before.current = open;
  }, [open]);

  function toggle(now: boolean) {
    if (now === shown) return;
    setShown(now);
    const others = (name: string) => titlesIn(inAddress({}), name).filter((one) => one !== title);
    const named = (name: string, here: boolean) => [...others(name), ...(here ? [title] : [])].join(BETWEEN);
    setQuery(inAddress({ open: named("open", now), shut: named("shut", !now) }), { replace: true });
  }

  return (
    <details
      open={shown}
      className="group border-t border-rule pt-2.5"
      onToggle={(event) => toggle(event.currentTarget.open)}
    >
      <summary className="flex cursor-pointer list-none items-baseline gap-2">
        <span aria-hidden="true" className="w-2.5 text-soft group-open:rotate-90">
          ›
        </span>
        <span className="font-semibold">{title}</span>
        {state && <span className="num ml-auto text-right text-soft">{state}</span>}
      </summary>
      {shown && <div className="mt-2.5 grid gap-2.5">{children}</div>}
    </details>
  );
}
