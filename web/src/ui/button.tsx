import type { ButtonHTMLAttributes } from "react";

/** `link` and `subtle` look like words to press; the others have a box. */
type Look = "main" | "plain" | "quiet" | "link" | "subtle";

const BOX = "rounded border px-3 py-1.5 whitespace-nowrap disabled:opacity-45";
const WORDS = "underline disabled:text-soft disabled:no-underline";
const LOOKS: Record<Look, string> = {
  main: `${BOX} bg-ochre text-on-ochre font-semibold border-ochre hover:brightness-110`,
  plain: `${BOX} bg-sheet text-ink font-semibold border-edge hover:border-soft`,
  quiet: `${BOX} snug:px-1.5 border-transparent text-soft hover:text-ink hover:bg-sheet`,
  link: `${WORDS} text-ochre`,
  subtle: `${WORDS} text-soft`,
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
      className={`${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}
