import { useState } from "react";
import { useWholeScreen } from "./playing/whole-screen";
import type { StepName } from "./steps";
import { useHeld } from "./use-held";

const [SMALLEST, LARGEST] = [0.25, 8];

/** How the picture is looked at: in the frame or on the source, past the frame, without its surround, whole. */
export function useLooking(step: StepName, mayBeWhole: boolean) {
  const [surroundOff] = useHeld("b", "Held: the picture without its surround");
  const [hidden] = useHeld("h", "Held: what lies outside the frame");
  const [near] = useHeld("z", "Held: the frame under the pointer, pixel for pixel");
  const [loupe, setLoupe] = useState(false);
  const [zoom, setZoom] = useState<number | null>(null);
  const [past, setPast] = useState(false);
  const [compared, setCompared] = useState(false);
  const [dimmed, setDimmed] = useState(true);
  const [tinted, setTinted] = useState(false);
  const [scopes, setScopes] = useState(false);
  const [straightening, setStraightening] = useState(false);
  const [onSource, setOnSource] = useOnSource(step);
  const [onScreen, setOnScreen] = useWholeScreen(mayBeWhole);
  return {
    surroundOff,
    /** What lies outside the frame is shown; `past` where that was chosen, not held. */
    outside: past || hidden,
    past,
    compared,
    /** Whether the frame under the pointer is shown pixel for pixel; `loupe` where that was chosen, not held. */
    near: near || loupe,
    loupe,
    /** Pixels of the screen for one of the frame, as much of it as there is room for; null if all of it is fitted in. */
    zoom: onSource ? null : zoom,
    lookFull: () => {
      setOnSource(false);
      setZoom(zoom === 1 ? null : 1);
    },
    zoomBy: (factor: number) => {
      setOnSource(false);
      setZoom(Math.min(LARGEST, Math.max(SMALLEST, (zoom ?? 1 / factor) * factor)));
    },
    lookNear: () => setLoupe(!loupe),
    /** Whether what the window leaves out is dimmed on the source. */
    dimmed,
    dim: () => setDimmed(!dimmed),
    /** Whether invented pixels are tinted. */
    tinted,
    tint: () => setTinted(!tinted),
    /** Whether scopes of the composed frame are shown. */
    scopes,
    lookAtScopes: () => setScopes(!scopes),
    straightening,
    onSource,
    onScreen,
    setOnSource: (on: boolean) => {
      setZoom(null);
      setOnSource(on);
    },
    setOnScreen,
    lookPast: () => setPast(!past),
    compare: () => setCompared(!compared),
    straighten(on: boolean) {
      if (on) setOnSource(false);
      setStraightening(on);
    },
  };
}

export type Looking = ReturnType<typeof useLooking>;

/** Which of the two views is open; the step Source begins with the source, every other with the frame. */
function useOnSource(step: StepName): [boolean, (onSource: boolean) => void] {
  const [chosen, setChosen] = useState<{ step: StepName; onSource: boolean } | null>(null);
  const onSource = chosen?.step === step ? chosen.onSource : step === "source";
  return [onSource, (next) => setChosen({ step, onSource: next })];
}
