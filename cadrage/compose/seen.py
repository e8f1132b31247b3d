"""What was seen in a clip, read from where its analysis lies; the clips looked at last are held."""

import threading
from pathlib import Path

import numpy as np
from cachetools import LRUCache
from numpy.typing import NDArray

from cadrage.analysis.detectors.box import Box
from cadrage.analysis.following.analysis import FollowingFound
from cadrage.analysis.following.box import follow_box
from cadrage.analysis.following.evidence import Evidence, read_evidence
from cadrage.analysis.following.pieces import greys_in
from cadrage.analysis.following.samples import Grey
from cadrage.compose.following import Drawn, Seen
from cadrage.errors import BadRequest
from cadrage.motion.cast import Actor, View
from cadrage.motion.follow import SubjectBox

HELD, HELD_BOXES = 8, 64
Floats = NDArray[np.float32]
MOST_SAMPLES = 1500
"""Samples to either side of the picture that a box was drawn on in which it is followed: four minutes."""
_held: LRUCache[Path, Seen] = LRUCache(HELD)
_boxes: LRUCache[tuple[Path, str, int, int], Floats] = LRUCache(HELD_BOXES)
_lock = threading.Lock()


def seen_in(folder: Path, found: FollowingFound) -> Seen:
    """What an analysis saw, from the folder in which it lies.

    Raises:
        BadRequest: it lies there no more.
    """
    with _lock:
        if (held := _held.get(folder)) is not None:
            return held
    try:
        evidence = read_evidence(folder)
    except (OSError, ValueError, KeyError) as error:
        raise BadRequest("What was seen in this clip is gone.", remedy="Let it be looked at again.") from error
    seen = Seen(evidence, found.starts, _drawn_in(folder, evidence))
    with _lock:
        _held[folder] = seen
    return seen


def _drawn_in(folder: Path, evidence: Evidence) -> Drawn:
    def drawn(subject: SubjectBox, first: int, end: int, view: View) -> Actor | None:
        times = evidence.times[first:end]
        if not len(times):
            return None
        at = first + int(np.argmin(np.abs(times - float(subject.time))))
        since, until = max(first, at - MOST_SAMPLES), min(end, at + MOST_SAMPLES)
        boxes = np.full((end - first, 5), np.nan, np.float32)
        boxes[since - first : until - first] = _followed(folder, evidence, subject, since, until, at)
        there = ~np.isnan(boxes[:, 0])
        sure = np.where(there, np.nan_to_num(boxes[:, 4]), 0.0).astype(np.float64)
        heads = np.full(end - first, np.nan)
        return Actor(-1, "mover", view.boxes(boxes), heads, sure, there.astype(np.float64))

    return drawn


def _followed(folder: Path, evidence: Evidence, subject: SubjectBox, since: int, until: int, at: int) -> Floats:
    """(s, 5): where a box that was drawn is in some samples, in parts of the upright raster."""
    asked = subject.model_copy(update={"until": None})
    key = folder, asked.model_dump_json(), since, until
    with _lock:
        held = _boxes.get(key)
    if held is None:
        held = _boxes_of(greys_in(folder, since, until), evidence, subject, at - since)
        _settle(held, evidence.times[since:until], subject, at - since)
        with _lock:
            _boxes[key] = held
    return held


def _boxes_of(greys: list[Grey], evidence: Evidence, subject: SubjectBox, at: int) -> Floats:
    left, top, width, height = evidence.part
    rows, columns = greys[0].shape
    across, down = columns / width, rows / height  # pixels for all of the raster
    sides = float(subject.width) * across, float(subject.height) * down
    corner = (float(subject.x) - left) * across - sides[0] / 2, (float(subject.y) - top) * down - sides[1] / 2
    boxes = np.full((len(greys), 5), np.nan, np.float32)
    for number, found in enumerate(follow_box(greys, at, Box(*corner, *sides))):
        if found is not None:
            x, y = found.box.middle
            boxes[number] = (
                x / across + left,
                y / down + top,
                found.box.width / across,
                found.box.height / down,
                found.alike,
            )
    return boxes


def _settle(boxes: Floats, times: NDArray[np.float64], subject: SubjectBox, at: int) -> None:
    """Undo what a thing moved between the picture that a box was drawn on and the sample next to it."""
    beside = [number for number in (at - 1, at, at + 1) if 0 <= number < len(boxes) and not np.isnan(boxes[number, 0])]
    if len(beside) > 1:
        seconds = times[beside[-1]] - times[beside[0]]
        speed = (boxes[beside[-1], :2] - boxes[beside[0], :2]) / seconds
        boxes[:, :2] -= (speed * (float(subject.time) - times[at])).astype(np.float32)
