/** What can be switched over the well, in words. */
export function WellBar({ outside, onOutside }: { outside: boolean; onOutside: () => void }) {
  return (
    <div className="num absolute bottom-3 left-4 flex gap-5 text-chalk">
      <button
        type="button"
        aria-pressed={outside}
        className={`bg-well/85 px-1 ${outside ? "underline" : ""}`}
        onClick={onOutside}
      >
        Outside the frame (hold O)
      </button>
      <span className="bg-well/85 px-1">Surround off (hold B)</span>
    </div>
  );
}
