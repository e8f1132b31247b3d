"""Looking at pictures to find out whether they are whole frames or pairs of fields, and which field comes first.

Weave the upper lines of one picture with the lower lines of the one before, and they are one field apart if the upper
field is shown first, three if the lower one is. Lines further apart in time comb more where something moves. So three
ways of weaving are compared: within a picture, its upper lines with the lower ones before it, and its lower lines with
the upper ones before it.

    whole frames       within combs least by far
    upper field first  the upper lines go with the lower ones before them as well as within
    lower field first  the lower lines go with the upper ones before them as well as within
"""

from collections import Counter
from collections.abc import Iterable
from fractions import Fraction
from itertools import pairwise
from pathlib import Path
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from cadrage.footage.facts import Facts
from cadrage.footage.interpretation import Interpretation
from cadrage.footage.pictures import DecodedFrame
from cadrage.footage.reader import ClipReader
from cadrage.pixels.planes import Samples
from cadrage.values import Value

MOVED = 12  # codes of 8 bits by which a sample must change from picture to picture to count as moving
FEWEST_MOVING = 400  # moving samples that are needed to judge a pair of pictures
CLEARLY = 1.25  # how much more one way of weaving must comb than another to be told from it
RUNS, PICTURES_IN_RUN = 6, 5
MAJORITY = 0.8

Order = Literal["progressive", "upper first", "lower first"]


class FieldsFound(Value):
    """What was seen.

    Attributes:
        order: whether pictures are whole frames, or which field comes first; None where nothing could be told.
        judged: pairs of pictures in which enough moved.
        agreeing: those that say so.
        says: the same in words.
    """

    order: Order | None
    judged: int
    agreeing: int
    says: str


def find_fields(path: Path, facts: Facts) -> FieldsFound:
    """Look at several runs of pictures throughout a clip.

    Raises:
        MissingSource, UnreadableFile: it cannot be read.
    """
    if facts.kind != "clip":
        return FieldsFound(order="progressive", judged=0, agreeing=0, says="stills are whole frames")
    with ClipReader(path, facts, Interpretation(fields="progressive")) as reader:
        return weigh(_runs(reader, facts))


def _runs(reader: ClipReader, facts: Facts) -> Iterable[list[Samples]]:
    for run in range(RUNS):
        start = facts.duration * (2 * run + 1) / (2 * RUNS)
        times = (start + number / facts.rate for number in range(PICTURES_IN_RUN))
        yield _lumas([reader.frame_at(time) for time in times if time < facts.duration])


def _lumas(frames: list[DecodedFrame]) -> list[Samples]:
    """Luma of different pictures only, brought to eight bits."""
    different: dict[Fraction, Samples] = {}
    for frame in frames:
        different[frame.time] = frame.planes.luma8
    return list(different.values())


def weigh(runs: Iterable[list[Samples]]) -> FieldsFound:
    """Count what neighbouring pictures say.

    Args:
        runs: each some neighbouring pictures' luma, (rows, columns), codes of 8 bits.
    """
    votes = Counter(vote for run in runs for before, now in pairwise(run) if (vote := _judge(before, now)) is not None)
    judged = sum(votes.values())
    if not judged:
        return FieldsFound(order=None, judged=0, agreeing=0, says="nothing moves enough to tell")
    order, agreeing = votes.most_common(1)[0]
    if agreeing < MAJORITY * judged:
        return FieldsFound(order=None, judged=judged, agreeing=agreeing, says="mixed: the pictures do not agree")
    name = "whole frames" if order == "progressive" else f"fields, {order}"
    return FieldsFound(order=order, judged=judged, agreeing=agreeing, says=f"{name}, in {agreeing} of {judged} looks")


def _judge(before: Samples, now: Samples) -> Order | None:
    """What one pair of neighbouring pictures says; None where too little moves or nothing is clear."""
    rows = len(now) // 2 * 2
    old, new = before[:rows].astype(np.int16), now[:rows].astype(np.int16)
    moving = np.abs(new - old) > MOVED
    # Where anything moved nearby: a sample that has come to rest combs as well.
    moving[1:] |= moving[:-1]
    moving[:-1] |= moving[1:]
    if int(moving.sum()) < FEWEST_MOVING:
        return None
    within = _combing(new, moving)
    upper_with_before = _combing(_woven(new, old), moving)
    lower_with_before = _combing(_woven(old, new), moving)
    if min(upper_with_before, lower_with_before) > CLEARLY * within:
        return "progressive"
    if lower_with_before > CLEARLY * upper_with_before:
        return "upper first"
    if upper_with_before > CLEARLY * lower_with_before:
        return "lower first"
    return None


def _woven(upper: NDArray[np.int16], lower: NDArray[np.int16]) -> NDArray[np.int16]:
    woven = lower.copy()
    woven[::2] = upper[::2]
    return woven


def _combing(luma: NDArray[np.int16], where: NDArray[np.bool_]) -> float:
    """How much lines differ from the mean of their neighbours, on average over some samples, in codes."""
    inner = np.abs(2 * luma[1:-1] - luma[:-2] - luma[2:])
    return float(inner[where[1:-1]].mean()) / 2 if where[1:-1].any() else 0.0
