"""Whether each side of a shot can go on, why, and in which stretches of time.

Limits were found on made sides whose truth is known; see docs/extension.md.
"""

from fractions import Fraction
from itertools import groupby
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from cadrage.analysis.sides.camera_move import (
    DRIFT_DOUBTFUL,
    DRIFT_UNFIT,
    STEP_DOUBTFUL,
    STEP_UNFIT,
    CameraMove,
    camera_move,
)
from cadrage.analysis.sides.warnings import Warned
from cadrage.analysis.sides.watching import ShotSeen
from cadrage.extend.request import SIDES, Side
from cadrage.values import Exact, Value

TOUCH_UNFIT, TOUCH_DOUBTFUL = 0.12, 0.04
"""Of an edge: a share of changed pixels from which a person may be there."""
BAND_DOUBTFUL = 0.06
PERCENTILE = 95
PICTURES_UNFIT, PICTURES_DOUBTFUL = 0.5, 0.05
SHORTEST = Fraction(1, 2)
"""Seconds: a stretch that is shorter is of no use."""
LONE = 2
"""Pictures in a row, at least, that count as a person passing."""
REAL_ENOUGH = 60
"""Percent of a bar that real pixels fill, from which a camera's movement is a way to go on and no hindrance."""
REAL_SOME = 25
"""The same, from which it is worth seeing."""
Verdict = Literal["fits", "doubtful", "unfit"]
Reason = Literal["still", "crossed", "touched", "pans", "shakes", "drifts", "real_pixels", "too_short", "not_even"]
RANK: dict[str, int] = {"fits": 0, "doubtful": 1, "unfit": 2}


class Stretch(Value):
    """A stretch of time in which a side is alike.

    Attributes:
        start, end: in seconds of the clip.
        verdict: whether it can go on.
        reason: why.
    """

    start: Exact
    end: Exact
    verdict: Verdict
    reason: Reason


class SideVerdict(Value):
    """Whether one side of a shot can go on.

    Attributes:
        verdict: for the whole shot.
        reason: why.
        crossed_percent: of the pictures: in how many somebody, or something, is at the edge.
        stretches: of the shot, in the order of time.
        fits_from, fits_to: the longest stretch that fits, in seconds of the clip; None where none does.
        warnings: obstacles at the edge of the picture.
        filled_percent: how much of a bar as large as the picture real pixels of other moments fill.
        summary: as text.
    """

    verdict: Verdict
    reason: Reason
    crossed_percent: Exact
    stretches: tuple[Stretch, ...]
    fits_from: Exact | None
    fits_to: Exact | None
    warnings: tuple[Warned, ...]
    filled_percent: int
    summary: str


class ShotSides(Value):
    """The sides of a shot.

    Attributes:
        start, end: of the shot, in seconds of the clip.
        camera: its movement.
        sides: each.
    """

    start: Exact
    end: Exact
    camera: CameraMove
    sides: dict[Side, SideVerdict]


def judged(
    shot: ShotSeen,
    end: Fraction,
    size: tuple[int, int],
    warnings: dict[Side, tuple[Warned, ...]],
    even: dict[Side, bool],
) -> ShotSides:
    """The sides of a shot.

    Args:
        shot: what was seen.
        end: when it ends, in seconds of the clip.
        size: columns and rows that it was looked at in.
        warnings: obstacles at each edge.
        even: whether the top is sky and the bottom ground or water, as far as that can be told.
    """
    camera = camera_move(shot, size)
    standing = _standing(shot, end, size)
    sides = {
        side: _side(shot, end, camera, standing, number, warnings.get(side, ()), even=even.get(side, True))
        for number, side in enumerate(SIDES)
    }
    return ShotSides(start=shot.start, end=end, camera=camera, sides=sides)


def _standing(shot: ShotSeen, end: Fraction, size: tuple[int, int]) -> list[Verdict]:
    """For each picture, whether the camera stands in the stretch that it belongs to."""
    found: list[Verdict] = []
    for _, group in groupby(range(len(shot.runs)), key=lambda at: shot.runs[at]):
        numbers = list(group)
        after = end if numbers[-1] + 1 == len(shot.times) else shot.times[numbers[-1] + 1]
        move = camera_move(shot, size, numbers[0], numbers[-1] + 1)
        verdict: Verdict = "fits"
        if move.drift > DRIFT_UNFIT or move.step > STEP_UNFIT or after - shot.times[numbers[0]] < SHORTEST:
            verdict = "unfit"
        elif move.drift > DRIFT_DOUBTFUL or move.step > STEP_DOUBTFUL:
            verdict = "doubtful"
        found += [verdict] * len(numbers)
    return found


def _side(
    shot: ShotSeen,
    end: Fraction,
    camera: CameraMove,
    standing: list[Verdict],
    number: int,
    warned: tuple[Warned, ...],
    *,
    even: bool,
) -> SideVerdict:
    edges = np.nan_to_num(np.array([one[number] for one in shot.edges], np.float64), nan=0.0)
    bands = np.nan_to_num(np.array([one[number] for one in shot.bands], np.float64), nan=0.0)
    crossed = _in_a_row(edges > TOUCH_UNFIT)
    touched = _in_a_row((edges > TOUCH_DOUBTFUL) | (bands > BAND_DOUBTFUL)) & ~crossed
    each = [_of_picture(stands, bool(a), bool(b)) for stands, a, b in zip(standing, crossed, touched, strict=True)]
    stretches = _stretches(shot.times, end, each)
    share = float(crossed.mean()) if len(crossed) else 0.0
    verdict, reason = _verdict(camera, standing, edges, bands, share)
    filled = camera.filled[SIDES[number]]
    if filled >= REAL_SOME and reason in ("pans", "drifts"):
        verdict, reason = "fits" if filled >= REAL_ENOUGH else "doubtful", "real_pixels"
    if not even and verdict != "unfit":
        verdict, reason = "unfit", "not_even"
    longest = max(
        (one for one in stretches if one.verdict == "fits"), key=lambda one: one.end - one.start, default=None
    )
    side = SideVerdict(
        verdict=verdict,
        reason=reason,
        crossed_percent=Fraction(round(1000 * share), 10),
        stretches=tuple(stretches),
        fits_from=None if longest is None else longest.start,
        fits_to=None if longest is None else longest.end,
        warnings=warned,
        filled_percent=filled,
        summary="",
    )
    return side.model_copy(update={"summary": summary_of(side, shot.start, end)})


def _of_picture(stands: Verdict, crossed: bool, touched: bool) -> tuple[Verdict, Reason]:
    if crossed:
        return "unfit", "crossed"
    if stands == "unfit":
        return "unfit", "pans"
    if touched:
        return "doubtful", "touched"
    return (stands, "drifts") if stands == "doubtful" else ("fits", "still")


def _in_a_row(flags: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Flags without those that stand alone: one picture's noise is nobody. Between two groups a moment counts too."""
    if len(flags) < LONE:
        return flags
    beside = np.zeros_like(flags)
    beside[1:] |= flags[:-1]
    beside[:-1] |= flags[1:]
    return flags & beside


def _stretches(times: list[Fraction], end: Fraction, each: list[tuple[Verdict, Reason]]) -> list[Stretch]:
    found: list[Stretch] = []
    at = 0
    for (verdict, reason), group in groupby(each):
        count = len(list(group))
        after = end if at + count == len(times) else times[at + count]
        found.append(Stretch(start=times[at], end=after, verdict=verdict, reason=reason))
        at += count
    return found


def _verdict(
    camera: CameraMove, standing: list[Verdict], edges: NDArray[np.float64], bands: NDArray[np.float64], share: float
) -> tuple[Verdict, Reason]:
    """For a whole shot."""
    moves: Reason = "shakes" if camera.move == "shaking" else "drifts"
    if camera.move == "panning" or camera.step > STEP_UNFIT or camera.drift > DRIFT_UNFIT:
        return "unfit", "pans" if camera.move == "panning" else moves
    if all(one == "unfit" for one in standing):
        return "unfit", "too_short"
    if camera.drift > DRIFT_DOUBTFUL or camera.step > STEP_DOUBTFUL:
        return max(_by_edges(edges, bands, share), ("doubtful", moves), key=lambda one: RANK[one[0]])
    return _by_edges(edges, bands, share)


def _by_edges(edges: NDArray[np.float64], bands: NDArray[np.float64], share: float) -> tuple[Verdict, Reason]:
    """For a shot in which the camera stands."""
    touch, band = (float(np.percentile(found, PERCENTILE)) if len(found) else 0.0 for found in (edges, bands))
    if touch > TOUCH_UNFIT or share > PICTURES_UNFIT:
        return "unfit", "crossed"
    if share > 0:
        return ("doubtful" if share <= PICTURES_DOUBTFUL else "unfit"), "crossed"
    if touch > TOUCH_DOUBTFUL or band > BAND_DOUBTFUL:
        return "doubtful", "touched"
    return "fits", "still"


WORDS: dict[str, str] = {
    "still": "the camera stands and nobody crosses",
    "touched": "something stirs at the edge",
    "pans": "the camera pans",
    "shakes": "the camera shakes",
    "drifts": "the camera drifts",
    "too_short": "it is too short",
    "not_even": "what goes on there is neither sky nor even ground",
}
WARNINGS: dict[str, str] = {
    "face": "a face at the edge",
    "subject": "a person at the edge",
    "text": "writing at the edge",
    "lines": "strong lines run out of the picture",
}


def summary_of(side: SideVerdict, start: Fraction, end: Fraction) -> str:
    """A verdict as text, without its name."""
    if side.reason == "crossed":
        words = f"someone crosses in {_percent(side.crossed_percent)}% of the pictures"
    elif side.reason == "real_pixels":
        words = f"the camera moves, and real pixels fill {side.filled_percent}% of it"
    else:
        words = WORDS[side.reason]
    parts = [words]
    if side.reason in ("pans", "drifts") and 0 < side.filled_percent < REAL_SOME:
        parts.append(f"real pixels fill {side.filled_percent}% of it")
    if side.verdict != "fits" and side.fits_from is not None and side.fits_to is not None:
        parts.append(_until(side.fits_from, side.fits_to, start, end))
    parts += [WARNINGS[one] for one in side.warnings]
    return "; ".join(part for part in parts if part)


def _until(first: Fraction, last: Fraction, start: Fraction, end: Fraction) -> str:
    if first <= start and last >= end:
        return ""
    if first <= start:
        return f"fits until {clock(last)}"
    return f"fits from {clock(first)}" if last >= end else f"fits from {clock(first)} to {clock(last)}"


def clock(time: Fraction) -> str:
    """Minutes and seconds."""
    whole = int(time)
    return f"{whole // 60}:{whole % 60:02d}"


def _percent(percent: Fraction) -> str:
    return "less than 1" if 0 < percent < 1 else str(round(percent))
