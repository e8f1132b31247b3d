"""Where a window ought to be in a shot: the route that shows most of what matters, turning as seldom as is worth it."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from cadrage.motion.cast import Actor, View
from cadrage.motion.wanted import Tempo

Floats = NDArray[np.float64]
POSITIONS = 96
CORE = 0.35
"""Of their width to either side: the part of a subject that must be visible."""
MIDDLE = 0.12
"""How much less something counts at the window's edge than in its middle."""
STRIDE, FAR = 0.2, 6.0
"""Windows from one sample to the next that something may go by itself; a change by a little more than a half costs in
full."""
ENOUGH = 0.5
"""How much there is to be seen before it is worth turning for in full."""
HELD = 0.05
"""The weight of a place without evidence."""
SAMPLES_A_SECOND = 6.25
HEAD = 1 / 6
"""Of the window: a face sits so far above its middle, at a third from the top."""
LEAD, LEAD_SPEED = 0.03, 0.35
"""Of the window: the room that a mover has ahead, at most; and the speed in windows a second at which it has most."""
PRESSING = 3.0
"""How much more a place counts as somebody is at the picture's edge: any step from there, and they are cut off."""
LEAD_OVER = 6
INSIDE = 0.5


@dataclass(frozen=True, slots=True)
class Aims:
    """Where the middle of a window ought to be, sample by sample, along one axis.

    Attributes:
        places: (s,): in parts of the picture.
        weights: (s,): how much it counts, 0 to 1.
        kept: (a, s): which of the actors the window shows there, by that.
        shown: (s,): how much of all that matters it shows, 0 to 1.
    """

    places: Floats
    weights: Floats
    kept: NDArray[np.bool_]
    shown: Floats


def aims(
    actors: list[Actor],
    view: View,
    axis: int,
    tempo: Tempo,
    count: int,
    rest: float,
    kept: NDArray[np.bool_] | None = None,
) -> Aims:
    """Where a window ought to be along an axis.

    Args:
        actors: who is to be seen.
        view: the window.
        axis: 0 across, 1 down.
        tempo: how readily it turns to others.
        count: of samples.
        rest: where it stands where nobody is to be seen at all.
        kept: those that the window shows along the other axis, where that was looked at first.
    """
    reach, window = view.reach[axis], view.window[axis]
    if not actors:
        stands = np.full(count, min(max(rest, -reach), reach))
        return Aims(stands, np.full(count, HELD), np.ones((0, count), np.bool_), np.ones(count))
    positions = np.linspace(-reach, reach, POSITIONS) if reach > 0 else np.zeros(1)
    middles = np.array([_middle(actor, view, axis) for actor in actors])
    sides = np.array([actor.boxes[:, 2 + axis] for actor in actors])
    matters = np.array([actor.matters for actor in actors])
    if kept is not None:
        matters = np.where(kept, matters, 0.1 * matters)
    there = ~np.isnan(middles)
    middles, sides = np.where(there, middles, 0.0), np.where(there, sides, 0.0)
    matters = np.where(there, matters, 0.0)
    seen = _seen(middles, sides, positions, window)
    total = matters.sum(axis=0)
    rewards = np.einsum("as,asp->sp", matters, seen) / np.maximum(total, ENOUGH)[:, None]
    places = positions[_route(rewards, positions / window, tempo)]
    shows = there & (np.abs(middles - places) + CORE * sides < window / 2 + INSIDE * CORE * sides)
    counts = np.where(shows, matters, 0.0)
    sums = counts.sum(axis=0)
    middle = np.where(sums > 0, (counts * middles).sum(axis=0) / np.maximum(sums, 1e-9), places)
    shown = np.where(total > 0, sums / np.maximum(total, 1e-9), 1.0)
    weights = np.where(sums > 0, np.minimum(1.0, HELD + (sums / ENOUGH) ** 2), HELD)
    weights = weights * (1 + PRESSING * np.clip((np.abs(middle) - reach) / (window / 2), 0, 1))
    return Aims(np.clip(middle, -reach, reach), weights, shows, shown)


def _middle(actor: Actor, view: View, axis: int) -> Floats:
    """Where the window's middle ought to be for one actor: with room ahead, and a face at a third from the top."""
    middle = actor.boxes[:, axis].copy()
    if axis == 0:
        return middle + _lead(middle, view.window[0])
    heads = actor.heads
    seen = np.flatnonzero(~np.isnan(heads))
    if not len(seen):
        return middle
    # While the face is turned away it is where it was on the body.
    above = np.interp(np.arange(len(heads)), seen, (heads - middle)[seen])
    return np.asarray(middle + above + HEAD * view.window[1], np.float64)


def _lead(middle: Floats, window: float) -> Floats:
    """How far the window is to be ahead of something that moves."""
    there = np.flatnonzero(~np.isnan(middle))
    lead = np.zeros(len(middle))
    if len(there) > 2 * LEAD_OVER:
        places = middle[there]
        speed = np.gradient(np.convolve(np.pad(places, LEAD_OVER, mode="edge"), np.ones(13) / 13, "valid"))
        lead[there] = LEAD * window * np.tanh(speed * SAMPLES_A_SECOND / (LEAD_SPEED * window))
    return lead


def _seen(middles: Floats, sides: Floats, positions: Floats, window: float) -> Floats:
    """(a, s, p): how well each actor is seen from each position, 0 to 1."""
    away = np.abs(middles[:, :, None] - positions[None, None, :])
    half = np.maximum(CORE * sides, 1e-4)[:, :, None]
    covered = np.clip((window / 2 - away + half) / (2 * half), 0, 1)
    return np.asarray(covered * (1 - MIDDLE * np.clip(2 * away / window, 0, 1) ** 2), np.float64)


def _route(rewards: Floats, positions: Floats, tempo: Tempo) -> NDArray[np.int64]:
    """Viterbi: the positions that pay most in all, less what changes cost."""
    apart = np.abs(positions[:, None] - positions[None, :])
    cost = tempo.change * SAMPLES_A_SECOND * np.minimum(FAR * np.maximum(apart - STRIDE, 0.0) ** 2, 1.0)
    count = len(rewards)
    best = np.zeros((count, len(positions)))
    came = np.zeros((count, len(positions)), np.int64)
    best[0] = rewards[0]
    for sample in range(1, count):
        reached = best[sample - 1][:, None] - cost
        came[sample] = reached.argmax(axis=0)
        best[sample] = reached.max(axis=0) + rewards[sample]
    route = np.zeros(count, np.int64)
    route[-1] = best[-1].argmax()
    for sample in range(count - 1, 0, -1):
        route[sample - 1] = came[sample][route[sample]]
    return route
