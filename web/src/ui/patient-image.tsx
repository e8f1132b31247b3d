import { type ImgHTMLAttributes, useEffect, useState } from "react";

/** Milliseconds after which a picture that did not come is asked for again, each time. */
const WAITS = [1000, 2000, 4000, 8000, 16_000, 32_000];

type Props = ImgHTMLAttributes<HTMLImageElement> & { src: string };

/**
 * A picture that may have to wait until the server has time for it: it is asked for again, later each time. Until it is
 * there its place shows that something comes; the one before it stays, dimmed, until the next is there.
 */
export function PatientImage({ src, alt, className = "", ...rest }: Props) {
  const [shown, setShown] = useState("");
  const [missed, setMissed] = useState({ src, times: 0, asked: 0 });
  const { times, asked } = missed.src === src ? missed : { times: 0, asked: 0 };
  useEffect(() => {
    const wait = WAITS[asked];
    if (times === asked || wait === undefined) return;
    const timer = setTimeout(() => setMissed({ src, times, asked: times }), wait);
    return () => clearTimeout(timer);
  }, [src, times, asked]);
  return (
    <img
      {...rest}
      alt={alt}
      aria-busy={alt ? shown !== src : undefined}
      className={`${className} ${shown === src ? "" : "awaited"}`}
      onLoad={() => setShown(src)}
      src={asked ? `${src}${src.includes("?") ? "&" : "?"}again=${asked}` : src}
      onError={() => setMissed({ src, times: asked + 1, asked })}
    />
  );
}
