"""How sure it is that a window shows whom it ought to, as a probability, and where it is doubtful."""

from collections.abc import Sequence
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from cadrage.motion.cast import Actor, View, whole_seconds
from cadrage.motion.follow import Doubt, DoubtReason, Pin
from cadrage.motion.route import Aims

Floats = NDArray[np.float64]
HELD = ((0.0, 0.3), (0.15, 0.65), (0.3, 0.85), (0.5, 0.97), (1.0, 0.995))
"""How surely a subject is inside the window: the computed value, and the measured share, on the made set."""
MEANT = ((0.0, 0.1), (0.5, 0.5), (0.7, 0.86), (0.85, 0.96), (1.0, 1.0))
"""How much of all that matters is shown, and how often it was the one that was meant (docs/following.md)."""
EDGE = 0.2
"""Of the window: nearer to its edge than this, a subject is no longer surely inside."""
NOBODY = 0.3
DOUBTFUL = 0.7
PINNED = 0.6
"""Seconds around a pin in which a person has placed the window."""
LARGE = 1.15
SHORTEST = Fraction(1, 2)
"""Seconds of a shot in which there is time to see whether the window is right."""
SHOWN = 0.75
"""Of all that matters: where less of it is shown, and there are several, they are wider than the window."""
Raw = NDArray[np.float64]


def confidence(
    actors: list[Actor], view: View, both: tuple[Aims, Aims], middles: Floats, times: Floats, pins: Sequence[Pin]
) -> Floats:
    """(s,): for each sample the probability that the window shows whom it ought to.

    Args:
        actors: who is to be seen.
        view: the window.
        both: where it ought to be, across and down.
        middles: (s, 2): where its middle is.
        times: (s,): in seconds of the clip.
        pins: places set by hand.
    """
    count = len(times)
    if not actors:
        found = np.full(count, NOBODY)
    else:
        matters = np.array([actor.matters for actor in actors])
        kept = both[0].kept & both[1].kept & (matters > 0)
        weights = np.where(kept, matters, 0.0)
        sums = weights.sum(axis=0)
        sure = np.array([actor.sure for actor in actors])
        inside = np.array([_inside(actor, view, middles) for actor in actors])
        held = (weights * sure * inside).sum(axis=0) / np.maximum(sums, 1e-9)
        likely = _read(held, HELD) * _read(np.minimum(both[0].shown, both[1].shown), MEANT)
        found = np.where(sums > 0, likely, NOBODY)
    for pin in pins:
        found = np.where(np.abs(times - float(pin.time)) <= PINNED + float(pin.hold) / 2, 1.0, found)
    return np.asarray(found, np.float64)


def _read(values: Floats, table: Sequence[tuple[float, float]]) -> Floats:
    known, right = zip(*table, strict=True)
    return np.asarray(np.interp(values, known, right), np.float64)


def _inside(actor: Actor, view: View, middles: Floats) -> Floats:
    """(s,): how surely the middle of a subject is inside the window, 0 at its edge, 1 well within."""
    found = np.ones(len(middles))
    for axis in (0, 1):
        away = np.abs(actor.boxes[:, axis] - middles[:, axis]) / view.window[axis]
        found *= np.clip((0.5 - np.nan_to_num(away, nan=0.5)) / EDGE, 0, 1)
    return found


def by_second(sure: Floats, times: Floats, start: Fraction) -> tuple[int, ...]:
    """How sure it is in each second of a shot on average, percent; where nothing was looked at, as before."""
    found: list[int] = []
    for first, end in whole_seconds(times, start):
        percent = round(100 * float(sure[first:end].mean())) if end > first else (found or [round(100 * NOBODY)])[-1]
        found.append(percent)
    return tuple(found)


def doubts(
    actors: list[Actor],
    view: View,
    both: tuple[Aims, Aims],
    sure: Floats,
    times: Floats,
    span: tuple[Fraction, Fraction],
    *,
    asked: bool,
) -> list[Doubt]:
    """Stretches of whole seconds of a shot in which the window may be wrong, each with its reason."""
    found: list[Doubt] = []
    start, end = span
    for number, (first, stop) in enumerate(whole_seconds(times, start)):
        reason = _reason(actors, view, both, sure, slice(first, stop)) if stop > first else None
        if reason is None or end - start < SHORTEST:
            continue
        reason = "lost" if asked and reason == "nobody" else reason
        percent = round(100 * float(sure[first:stop].mean()))
        begin, close = start + number, min(start + number + 1, end)
        last = found[-1] if found else None
        if last is not None and last.reason == reason and last.end == begin:
            found[-1] = Doubt(start=last.start, end=close, reason=reason, sure=min(last.sure, percent))
        elif close > begin:
            found.append(Doubt(start=begin, end=close, reason=reason, sure=percent))
    return found


def _reason(actors: list[Actor], view: View, both: tuple[Aims, Aims], sure: Floats, at: slice) -> DoubtReason | None:
    """Why some samples are doubtful; None where they are not."""
    there = np.array([actor.matters[at] > 0 for actor in actors])
    if not there.any():
        return "nobody"
    shown = float(np.minimum(both[0].shown[at], both[1].shown[at]).mean())
    kept = (both[0].kept & both[1].kept)[:, at] & there
    if _too_large(actors, view, kept, at):
        return "large"
    if shown < SHOWN and there.sum(axis=0).max() > 1:
        return "wide"
    if float(sure[at].mean()) >= DOUBTFUL:
        return None
    return "lost" if not kept.any() else "unsure"


def _too_large(actors: list[Actor], view: View, kept: NDArray[np.bool_], at: slice) -> bool:
    """Whether those who are shown are each larger than the window, across or down, though it could move that way."""
    sides = [actor.boxes[at, 2:] / view.window for actor, seen in zip(actors, kept, strict=True) if seen.any()]
    free = [axis for axis in (0, 1) if view.window[axis] < 1]
    return bool(sides) and bool(free) and all(np.nanmedian(side[:, free], axis=0).max() > LARGE for side in sides)
