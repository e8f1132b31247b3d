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
from itertools import islice, pairwise
from pathlib import Path
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from cadrage.analysis import cadence
from cadrage.analysis.base import Analysis, Found, Outcome, Report, Subject, no_progress
from cadrage.analysis.cadence import cadence_of
from cadrage.footage.interpretation import Interpretation
from cadrage.footage.media_info import MediaInfo
from cadrage.footage.reader import ClipReader
from cadrage.pixels.planes import Samples
from cadrage.values import Value
from cadrage.wording import wording

MOVED = 12  # codes of 8 bits by which a sample must change from picture to picture to count as moving
FEWEST_MOVING = 400  # moving samples that are needed to judge a pair of pictures
CLEARLY = 1.25  # how much more one way of weaving must comb than another to be told from it
RUNS, PICTURES_IN_RUN = 6, 5
MAJORITY = 0.8
FILM_IN = (Fraction(30_000, 1001), Fraction(30))  # rates whose fields can hold film of four fifths of that
FILM_RUNS = 4

FieldOrder = Literal["progressive", "upper_first", "lower_first"]


class FieldsFound(Value):
    """The result.

    Attributes:
        order: whether pictures are whole frames, or which field comes first; None where nothing could be told.
        judged: pairs of pictures in which enough moved.
        agreeing: moments that agree.
        summary: as text.
        film: whether film was spread over the fields, throughout or in parts.
    """

    order: FieldOrder | None
    judged: int
    agreeing: int
    summary: str
    film: Literal["no", "throughout", "in_parts"] = "no"


def as_found(stated: Interpretation, found: FieldsFound | None) -> Interpretation:
    """The interpretation of a clip: as set, and for fields without a setting, as detected."""
    if stated.fields is not None or found is None or found.order is None:
        return stated
    return stated.model_copy(update={"fields": found.order})


class FieldsAnalysis(Analysis[FieldsFound]):
    """Whether pictures are whole frames or pairs of fields."""

    kind = "fields"
    result = FieldsFound

    def find(self, subject: Subject, report: Report = no_progress) -> Outcome[FieldsFound]:
        """Look at runs of pictures throughout."""
        return Found(result=find_fields(subject.path, subject.info, report))


def find_fields(path: Path, info: MediaInfo, report: Report = no_progress) -> FieldsFound:
    """Look at several runs of pictures throughout a clip.

    Raises:
        MissingSource, UnreadableFile: it cannot be read.
    """
    if info.kind != "clip":
        return FieldsFound(order="progressive", judged=0, agreeing=0, summary="stills are whole frames")
    with ClipReader(path, info, Interpretation(fields="progressive")) as reader:
        film = _film(reader, info, lambda fraction: report(fraction / 2))
        # Where film is in parts of a clip, only its fields can tell their order.
        return film or weigh(_runs(reader, info, RUNS, PICTURES_IN_RUN, lambda fraction: report((1 + fraction) / 2)))


def _film(reader: ClipReader, info: MediaInfo, report: Report) -> FieldsFound | None:
    """Evidence of film in fields; None if there is none, or the rate could hold none."""
    if info.rate not in FILM_IN:
        return None
    seen = [cadence_of(run) for run in _runs(reader, info, FILM_RUNS, cadence.PICTURES_IN_RUN, report)]
    judged = [one for one in seen if one is not None]
    counts = Counter(one for one in judged if one != "other")
    if not counts:
        return None
    order, agreeing = counts.most_common(1)[0]
    throughout = agreeing == len(judged)
    parts = "throughout" if throughout else f"in {agreeing} of {len(judged)} looks, video elsewhere"
    return FieldsFound(
        order=order,
        judged=len(judged),
        agreeing=agreeing,
        summary=f"film in fields, {wording(order)}, {parts}",
        film="throughout" if throughout else "in_parts",
    )


def _runs(reader: ClipReader, info: MediaInfo, runs: int, pictures: int, report: Report) -> Iterable[list[Samples]]:
    for run in range(runs):
        report(run / runs)
        start = info.duration * (2 * run + 1) / (2 * runs)
        start = max(Fraction(0), min(start, info.duration - pictures / info.rate))
        yield [frame.planes.luma8 for frame in islice(reader.frames_from(start), pictures)]


def weigh(runs: Iterable[list[Samples]]) -> FieldsFound:
    """Count what neighbouring pictures say.

    Args:
        runs: each some neighbouring pictures' luma, (rows, columns), codes of 8 bits.
    """
    votes = Counter(vote for run in runs for before, now in pairwise(run) if (vote := _judge(before, now)) is not None)
    judged = sum(votes.values())
    if not judged:
        return FieldsFound(order=None, judged=0, agreeing=0, summary="nothing moves enough to tell")
    order, agreeing = votes.most_common(1)[0]
    if agreeing < MAJORITY * judged:
        return FieldsFound(order=None, judged=judged, agreeing=agreeing, summary="mixed: the pictures do not agree")
    name = "whole frames" if order == "progressive" else f"fields, {wording(order)}"
    return FieldsFound(
        order=order, judged=judged, agreeing=agreeing, summary=f"{name}, in {agreeing} of {judged} looks"
    )


def _judge(before: Samples, now: Samples) -> FieldOrder | None:
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
        return "upper_first"
    if upper_with_before > CLEARLY * lower_with_before:
        return "lower_first"
    return None


def _woven(upper: NDArray[np.int16], lower: NDArray[np.int16]) -> NDArray[np.int16]:
    woven = lower.copy()
    woven[::2] = upper[::2]
    return woven


def _combing(luma: NDArray[np.int16], where: NDArray[np.bool_]) -> float:
    """How much lines differ from the mean of their neighbours, on average over some samples, in codes."""
    inner = np.abs(2 * luma[1:-1] - luma[:-2] - luma[2:])
    return float(inner[where[1:-1]].mean()) / 2 if where[1:-1].any() else 0.0
