import { type ReactNode, useEffect, useState } from "react";

/** A part of a panel that can be folded away; its state shows while it is. What is folded away does no work. */
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
  const [shown, setShown] = useState(open);
  useEffect(() => {
    if (open) setShown(true);
  }, [open]);
  return (
    <details
      open={shown}
      className="group border-t border-rule pt-2.5"
      onToggle={(event) => setShown(event.currentTarget.open)}
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
