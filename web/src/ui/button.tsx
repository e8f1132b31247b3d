import type { ButtonHTMLAttributes } from "react";

type Look = "main" | "plain" | "quiet";

const LOOKS: Record<Look, string> = {
  main: "bg-ochre text-on-ochre font-semibold border-ochre hover:brightness-110",
  plain: "bg-sheet text-ink font-semibold border-edge hover:border-soft",
  quiet: "snug:px-1.5 border-transparent text-soft hover:text-ink hover:bg-sheet",
};

export function Button({
  look = "plain",
  className = "",
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look }) {
  return (
    <button
      type="button"
      className={`rounded border px-3 py-1.5 whitespace-nowrap disabled:opacity-45 ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}
