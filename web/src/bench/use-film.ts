import { type RefObject, useEffect } from "react";
import { toNumber } from "../ui/exact";
import type { Transport } from "./state/transport";
import { useBench } from "./state/use-bench";

/** How a finished file lies in the clip that it was made of. */
export type FilmPlace = { first: number; last: number; rate: string; seconds: number };

/** A moment of the file, in seconds, where the clip is at a picture. */
export function inFile({ first, last, seconds }: FilmPlace, frame: number): number {
  const share = (frame - first + 0.5) / (last - first + 1);
  return Math.min(1, Math.max(0, share)) * seconds;
}

/** The picture of the clip where the file is at a moment. */
export function inClip({ first, last, seconds }: FilmPlace, time: number): number {
  const count = last - first + 1;
  return first + Math.min(count - 1, Math.floor((time / Math.max(seconds, 1e-6)) * count + 1e-3));
}

/** The finished file follows the keys, the press and the strip of the bench, and tells them where it is. */
export function useFilm(video: RefObject<HTMLVideoElement | null>, place: FilmPlace) {
  const { transport } = useBench("transport");
  const { first, last, rate, seconds } = place;
  useEffect(() => {
    const film = video.current;
    if (!film) return;
    return follow(film, { first, last, rate, seconds }, transport);
  }, [video, transport, first, last, rate, seconds]);
}

/** Tie a film to the transport until the returned function is called. */
function follow(film: HTMLVideoElement, place: FilmPlace, transport: Transport) {
  const { rate, seconds } = place;
  const within = 1.5 / toNumber(rate);
  const seek = (frame: number) => {
    const time = inFile(place, frame);
    if (Math.abs(film.currentTime - time) > within) film.currentTime = time;
  };
  const unsubscribe = transport.store.subscribe((now, before) => {
    if (now.speed > 0 && now.speed !== before.speed && film.paused) {
      if (inFile(place, now.frame) >= seconds - within) film.currentTime = 0;
      film.playbackRate = now.speed;
      transport.drive(true);
      film.play().catch(() => transport.stop());
    } else if (now.speed > 0 && now.speed !== before.speed) film.playbackRate = now.speed;
    else if (now.speed <= 0 && !film.paused) film.pause();
    else if (film.paused && now.frame !== before.frame) seek(now.frame);
  });
  const onFrame = () => {
    if (film.paused) return;
    transport.follow(inClip(place, film.currentTime));
    film.requestVideoFrameCallback(onFrame);
  };
  const onStart = () => {
    if (transport.store.getState().speed <= 0) transport.play(film.playbackRate);
    transport.drive(true);
    film.requestVideoFrameCallback(onFrame);
  };
  const onEnd = () => {
    if (transport.store.getState().speed > 0) transport.stop();
    transport.drive(false);
  };
  const on = { play: onStart, pause: onEnd, ended: onEnd };
  for (const [name, act] of Object.entries(on)) film.addEventListener(name, act);
  return () => {
    unsubscribe();
    for (const [name, act] of Object.entries(on)) film.removeEventListener(name, act);
    onEnd();
  };
}
