import { type RefObject, useLayoutEffect, useState } from "react";
import { useEdge } from "../ui/use-edge";

type Box = { left: number; top: number; width: number; height: number };
type Props = {
  /** The finished file as it is shown. */
  over: RefObject<HTMLElement | null>;
  /** The address of the picture that was asked for. */
  asked: string;
};

/** Expected, up to an edge that is dragged over the finished file. */
export function ResultDivider({ over, asked }: Props) {
  const box = useBox(over);
  const { at, slider } = useEdge("Split between expected and file", (held) =>
    (held.parentElement ?? held).getBoundingClientRect(),
  );
  if (!box) return null;
  const name = "absolute top-2 bg-chalk px-1.5";
  return (
    <div className="pointer-events-none absolute" style={box}>
      <img
        alt="Expected"
        data-testid="asked"
        draggable={false}
        className="absolute h-full w-full max-w-none"
        style={{ clipPath: `inset(0 ${(1 - at) * 100}% 0 0)` }}
        src={asked}
      />
      <div
        {...slider}
        className="pointer-events-auto absolute inset-y-0 w-6 -translate-x-1/2 cursor-ew-resize touch-none pointer-coarse:w-11"
        style={{ left: `${at * 100}%` }}
      >
        <span className="absolute inset-y-0 left-1/2 w-0.5 -translate-x-1/2 bg-chalk" />
      </div>
      <p className="num text-night">
        <span className={name} style={{ right: `calc(${(1 - at) * 100}% + 10px)` }}>
          asked for
        </span>
        <span className={name} style={{ left: `calc(${at * 100}% + 10px)` }}>
          the file
        </span>
      </p>
    </div>
  );
}

/** The position of an element in its parent, kept current. */
function useBox(over: RefObject<HTMLElement | null>): Box | null {
  const [box, setBox] = useState<Box | null>(null);
  useLayoutEffect(() => {
    const element = over.current;
    if (!element) return;
    const look = () => {
      const { offsetLeft: left, offsetTop: top, offsetWidth: width, offsetHeight: height } = element;
      setBox({ left, top, width, height });
    };
    look();
    const observer = new ResizeObserver(look);
    observer.observe(element);
    if (element.parentElement) observer.observe(element.parentElement);
    return () => observer.disconnect();
  }, [over]);
  return box;
}
