import { Toolbar } from "radix-ui";
import { createContext, type ReactNode, useContext } from "react";
import { Button } from "../ui/button";
import { useKept } from "../ui/kept";

type Props = {
  title: string;
  /** The current choice, in a word or two. */
  chosen: string | undefined;
  /** Which tiles these are: whether they are small is kept for each. */
  of: string;
  children: ReactNode;
};

const Small = createContext({ small: false, settle: () => {} });

/** Whether tiles are small, and a callback for when one was chosen. */
export const useSmall = () => useContext(Small);

/** Choices as pictures of this clip: large until one is chosen, then a strip, which brings its settings into view. */
export function Tiles({ title, chosen, of, children }: Props) {
  const [small, setSmall] = useKept(`small tiles of ${of}`, false);
  return (
    <>
      <h2 className="flex items-baseline gap-2 font-semibold">
        {title}
        {small && chosen && <span className="font-normal text-soft">{chosen}</span>}
        <Button
          look="link"
          aria-expanded={!small}
          className="ml-auto min-h-6 font-normal"
          onClick={() => setSmall(!small)}
        >
          {small ? "larger" : "smaller"}
        </Button>
      </h2>
      <Small value={{ small, settle: () => setSmall(true) }}>
        <TileGrid label={title} columns={small ? "grid-cols-6" : "grid-cols-4"}>
          {children}
        </TileGrid>
      </Small>
    </>
  );
}

type GridProps = { label: string; columns: string; children: ReactNode };

/** Tiles in rows: one stop of the tab key, and arrow keys go on from there. */
export function TileGrid({ label, columns, children }: GridProps) {
  return (
    <Toolbar.Root aria-label={label} className={`grid gap-1.5 ${columns}`}>
      {children}
    </Toolbar.Root>
  );
}
