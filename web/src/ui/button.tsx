import type { ButtonHTMLAttributes } from "react";

type Look = "main" | "plain" | "quiet";

const LOOKS: Record<Look, string> = {
  main: "bg-ochre text-on-ochre font-semibold border-ochre hover:brightness-110",
  plain: "bg-sheet text-ink font-semibold border-edge hover:border-soft",
  quiet: "snug:px-1.5 border-transparent text-soft hover:text-ink hover:bg-sheet",
};

type Props = ButtonHTMLAttributes<HTMLButtonElement> & {
  look?: Look;
  /** The row that the button belongs to, where several have one like it. */
  of?: string;
};

export function Button({ look = "plain", className = "", of, ...rest }: Props) {
  return (
    <button
      type="button"
      aria-label={of && `${rest.children} ${of}`}
      className={`rounded border px-3 py-1.5 whitespace-nowrap disabled:opacity-45 ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}
