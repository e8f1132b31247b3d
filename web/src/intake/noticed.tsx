import type { Footage } from "../api/client";

interface NoticedProps {
  notices: Footage["noticed"];
  places: number;
  go: (frame: number) => void;
}

/** Damage and other surprises, each with a link to its moment. */
export function Noticed({ notices, places, go }: NoticedProps) {
  if (notices.length === 0) return null;
  return (
    <section aria-label="Noticed" className="grid gap-1 border-l-[3px] border-rust bg-sheet py-2 pr-2 pl-3">
      <h3 className="font-semibold">{places ? damagedIn(places) : "Noticed in this file"}</h3>
      <ul className="grid gap-1">
        {notices.map(({ message, damage, frame }) => (
          <li key={message}>
            <button
              type="button"
              title="Go there"
              className={`text-left break-words underline decoration-rule underline-offset-4 hover:decoration-ochre ${damage ? "text-rust" : "text-soft"}`}
              onClick={() => go(frame)}
            >
              {message}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** In how many places a clip is damaged. */
export function damagedIn(places: number): string {
  return places === 1 ? "Damaged in 1 place" : `Damaged in ${places} places`;
}
