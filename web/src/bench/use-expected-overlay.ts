import { type RefObject, useCallback, useEffect, useState } from "react";
import { useKeys } from "../ui/keyboard";
import { useHoldKey } from "./use-hold-key";

const HELD_KEY = "f";
const DIVIDED_KEY = "d";

/** Compare the file with the expected frame: shown while a key is held, or as a split view. Playing stops meanwhile. */
export function useExpectedOverlay(video: RefObject<HTMLVideoElement | null>) {
  const [time, setTime] = useState(0);
  const [divided, setDivided] = useState(false);
  const stand = useCallback(() => {
    if (!video.current) return;
    video.current.pause();
    setTime(video.current.currentTime);
  }, [video]);
  const [held, setHeld] = useState(false);
  function hold(on: boolean) {
    if (on) stand();
    setHeld(on);
  }
  useHoldKey(HELD_KEY, "Hold: expected frame", hold);
  const divide = () => {
    if (!divided) stand();
    setDivided(!divided);
  };
  useKeys([{ keys: DIVIDED_KEY, does: "Expected up to an edge, and back", act: divide }]);

  useEffect(() => {
    const film = video.current;
    if (!film || !divided) return;
    const moved = () => setTime(film.currentTime);
    const played = () => setDivided(false);
    film.addEventListener("seeked", moved);
    film.addEventListener("play", played);
    return () => {
      film.removeEventListener("seeked", moved);
      film.removeEventListener("play", played);
    };
  }, [video, divided]);
  return { time, setTime, held, hold, divided, divide };
}
