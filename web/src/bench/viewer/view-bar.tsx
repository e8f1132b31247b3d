import { useBench } from "../state/use-bench";
import { toggledFullSize, zoomed } from "./view";

/** Views of the frame that are switched on and off: some of them last also while their key is held. */
const TOGGLES = [
  { flag: "cropShown", label: "Show cropped (H)", title: undefined },
  { flag: "beforeAfter", label: "Before/after", title: undefined },
  { flag: "loupe", label: "Loupe (Z)", title: undefined },
  {
    flag: "scopes",
    label: "Scopes",
    title: "Waveform, RGB parade and vectorscope of the composed frame (W)",
  },
] as const;

/** The views of a framing. */
export function ViewBar() {
  const { onSource, dimmed, keyframed, following, autoKey, shot, show } = useBench(
    "onSource",
    "dimmed",
    "keyframed",
    "following",
    "autoKey",
    "shot",
    "show",
  );
  const canSetKeys = keyframed && !following;
  return (
    <>
      {canSetKeys && autoKey && (
        <div className="pointer-events-none absolute inset-0 border-4 border-rust" aria-hidden="true">
          <p className="num inline-block bg-rust px-2 py-1 text-paper">Keyframing: a drag sets a keyframe</p>
        </div>
      )}
      <div className="num absolute right-4 bottom-3 left-4 flex narrow:flex-nowrap flex-wrap items-center gap-x-1.5 gap-y-1 narrow:overflow-x-auto">
        <ViewChoice />
        {!onSource && <FrameToggles />}
        {onSource && following && (
          <ViewButton pressed={dimmed} onClick={() => show({ dimmed: !dimmed })}>
            Dim outside
          </ViewButton>
        )}
        {canSetKeys && (
          <ViewButton
            pressed={autoKey}
            title="A drag sets a keyframe at the playhead, until you leave this shot"
            onClick={() => show({ autoKeyShot: autoKey ? null : shot })}
          >
            Auto keyframe
          </ViewButton>
        )}
      </div>
    </>
  );
}

/** The frame fitted in, at a zoom, or the source. */
function ViewChoice() {
  const { onSource, zoom, show } = useBench("onSource", "zoom", "show");
  const zoomBy = (factor: number) => show({ onSource: false, zoom: zoomed(zoom, factor) });
  return (
    <fieldset aria-label="View" className="flex border border-chalk/60">
      <ViewButton pressed={!onSource && zoom === null} onClick={() => show({ onSource: false, zoom: null })}>
        Frame
      </ViewButton>
      <ViewButton label="Zoom out" onClick={() => zoomBy(0.5)}>
        −
      </ViewButton>
      <ViewButton
        pressed={!onSource && zoom !== null}
        title="One pixel of the frame on one of the screen (X); drag to move the visible part, Ctrl and wheel to zoom"
        onClick={() => show(toggledFullSize(zoom))}
      >
        {(zoom ?? 1) * 100}%
      </ViewButton>
      <ViewButton label="Zoom in" onClick={() => zoomBy(2)}>
        +
      </ViewButton>
      <ViewButton pressed={onSource} onClick={() => show({ onSource: true, zoom: null })}>
        Source
      </ViewButton>
    </fieldset>
  );
}

function FrameToggles() {
  const { show, ...flags } = useBench("show", "cropShown", "beforeAfter", "loupe", "scopes");
  return (
    <>
      {TOGGLES.map(({ flag, label, title }) => (
        <ViewButton
          key={flag}
          pressed={flags[flag]}
          title={title}
          onClick={() => show({ [flag]: !flags[flag] })}
        >
          {label}
        </ViewButton>
      ))}
      <ViewButton onClick={() => show({ fullScreen: true })}>Full screen (F)</ViewButton>
    </>
  );
}

type ButtonProps = {
  pressed?: boolean;
  label?: string;
  title?: string | undefined;
  onClick: () => void;
  children: React.ReactNode;
};

function ViewButton({ pressed, label, title, onClick, children }: ButtonProps) {
  const look = pressed ? "bg-chalk text-night" : "bg-well/85 text-chalk hover:underline";
  return (
    <button
      type="button"
      aria-pressed={pressed}
      aria-label={label}
      title={title}
      className={`min-w-6 shrink-0 whitespace-nowrap px-1.5 py-0.5 ${look}`}
      onClick={onClick}
    >
      {children}
    </button>
  );
}
