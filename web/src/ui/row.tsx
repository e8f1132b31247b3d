import type { ReactNode } from "react";

/** A label, and what can be set beside it. */
export const Row = ({ label, children }: { label: string; children: ReactNode }) => (
  <div className="grid grid-cols-[84px_1fr] items-center gap-2.5">
    <span>{label}</span>
    {children}
  </div>
);
