"""The chosen subjects, found among those that the analysis detected."""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from cadrage.analysis.detectors.box import Box
from cadrage.motion.cast import Actor, View
from cadrage.motion.follow import SubjectBox

Floats = NDArray[np.float64]
NEAREST = 0.5
"""Seconds between the picture on which a subject was chosen and one on which it is detected."""
FIRST, OTHERS = 1.0, 0.9
"""How much the first that was chosen counts, and the others: where they do not fit, the first is kept."""


def chosen(subject: SubjectBox, actors: Sequence[Actor], times: Floats, view: View) -> Actor | None:
    """The subject in a box on a picture; None if there is none near.

    Args:
        subject: the box.
        actors: who is to be seen.
        times: (s,): of the samples, in seconds of the clip.
        view: the window.
    """
    box = box_of(subject, view)
    away = np.abs(times - float(subject.time))
    best: tuple[float, Actor] | None = None
    for actor in actors:
        there = np.flatnonzero((actor.matters > 0) & (away < NEAREST))
        if not len(there):
            continue
        at = int(there[np.argmin(away[there])])
        likeness = overlap(actor.boxes[at], box)
        if likeness > 0 and (best is None or likeness > best[0]):
            best = likeness, actor
    return best[1] if best else None


def box_of(subject: SubjectBox, view: View) -> Floats:
    """Middle, width and height of a box, in parts of the picture."""
    sides = (subject.x, subject.y, subject.width, subject.height)
    given = np.array([[float(side) for side in (*sides, 1)]], np.float32)
    return np.asarray(view.boxes(given)[0], np.float64)


def counted(actors: Sequence[tuple[SubjectBox, Actor]], times: Floats) -> list[Actor]:
    """Those who were chosen, each counting in full while they are there and until it was said that they no more do."""
    found: list[Actor] = []
    for subject, actor in actors:
        weight = FIRST if not found else OTHERS
        wanted = times < (np.inf if subject.until is None else float(subject.until))
        matters = np.where((actor.matters > 0) & wanted, weight, 0.0)
        found.append(replace(actor, matters=matters))
    return found


def overlap(one: Floats, other: Floats) -> float:
    """What two boxes share, of what either covers: 0 to 1."""
    first, second = (
        Box.about((float(x), float(y)), float(width), float(height)) for x, y, width, height in (one, other)
    )
    return first.overlap(second)
