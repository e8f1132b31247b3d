import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

type Props = { title: string; width?: number; children: ReactNode };

/** What lies over the page until it is answered or closed. */
export function Overlay({ title, width = 720, children }: Props) {
  return (
    <Dialog.Portal>
      <Dialog.Overlay className="fixed inset-0 z-40 bg-night/40" />
      <Dialog.Content
        aria-describedby={undefined}
        style={{ width }}
        className="-translate-x-1/2 -translate-y-1/2 fixed top-1/2 left-1/2 z-50 flex max-h-[92vh] max-w-[96vw] flex-col rounded border border-rule bg-paper p-5 shadow-xl"
      >
        <div className="mb-3 flex items-baseline gap-4">
          <Dialog.Title className="grow text-[17px] font-bold">{title}</Dialog.Title>
          <Dialog.Close className="min-h-6 text-ochre underline">Close</Dialog.Close>
        </div>
        {children}
      </Dialog.Content>
    </Dialog.Portal>
  );
}
