"""The scene gone on with beyond its edges: one side after the other, each by itself."""

from collections.abc import Callable, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor, wait
from threading import Event
from typing import Any, cast

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.errors import Cancelled
from cadrage.extend.completion import Variant, completed
from cadrage.extend.request import AskedSide, Dab, Side
from cadrage.pixels.planes import Working

MELTS = 6
"""Softnesses that are worked out between none and the most."""
MIRROR_SOFT = 0.02
"""Of the height: how soft what is only mirrored has grown one height away."""
TURNS: dict[Side, tuple[bool, bool]] = {
    "right": (False, False),
    "left": (False, True),
    "bottom": (True, False),
    "top": (True, True),
}
"""For each side: whether rows and columns change places, and whether it is then mirrored, to be a right one."""
UPRIGHT: tuple[Side, ...] = ("left", "right")
LEVEL: tuple[Side, ...] = ("top", "bottom")
LOOK_SECONDS = 0.2
Report = Callable[[float], None]
Samples = NDArray[Any]
Kept = dict[tuple[Side, AskedSide], Working]
"""Sides that were made, by side and what was asked of it."""


def extended(
    picture: Working,
    sides: Mapping[Side, AskedSide],
    excluded: NDArray[np.bool_],
    shrink: int = 1,
    report: Report = lambda _: None,
    kept: Kept | None = None,
) -> tuple[Working, int, int]:
    """A picture with its sides gone on with.

    Args:
        picture: codes of 8 bits with fractions, (rows, columns, 3).
        sides: which, and how far, in pixels.
        excluded: places that may not be copied, (rows, columns).
        shrink: of a draft.
        report: told the fraction that is done.
        kept: sides that were made of the same picture before, of which what is asked again is taken.

    Returns:
        The larger picture; where the first begins in it, columns and rows.
    """
    made, mask = picture, excluded
    if shrink > 1:
        size = picture.shape[1] // shrink, picture.shape[0] // shrink
        made = np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_AREA), np.float32)
    left = top = 0
    full, full_mask = picture, mask
    for upright in (UPRIGHT, LEVEL):
        asked = [side for side in upright if side in sides]
        there = (
            {} if kept is None or upright is LEVEL else {s: kept[s, sides[s]] for s in asked if (s, sides[s]) in kept}
        )
        new = {side: sides[side] for side in asked if side not in there}
        parts = there | _together(full, new, full_mask, shrink, report)
        if kept is not None and upright is UPRIGHT:
            kept |= {(side, sides[side]): part for side, part in parts.items()}
        for side, part in parts.items():
            made = _with(made, part, side)
            left += part.shape[1] if side == "left" else 0
            top += part.shape[0] if side == "top" else 0
            if upright is UPRIGHT and ("top" in sides or "bottom" in sides):
                whole = part if shrink == 1 else _enlarged(part, side, full, sides[side].reach)
                full = _with(full, whole, side)
                full_mask = _with(full_mask, np.zeros(whole.shape[:2], bool), side)
    return made, left, top


def _together(
    picture: Working, sides: Mapping[Side, AskedSide], excluded: NDArray[np.bool_], shrink: int, report: Report
) -> dict[Side, Working]:
    """What lies beyond sides that do not depend on one another, worked out at the same time."""
    done = dict.fromkeys(sides, 0.0)
    stopped = Event()

    def tell(side: Side) -> Report:
        def told(part: float) -> None:
            done[side] = part
            if stopped.is_set():
                raise Cancelled("It was cancelled.", remedy="Ask for it again when you want it.")

        return told

    if not sides:
        return {}
    with ThreadPoolExecutor(len(sides)) as pool:
        work = {
            side: pool.submit(beside, picture, one, side, excluded, shrink, tell(side)) for side, one in sides.items()
        }
        try:
            while wait(work.values(), LOOK_SECONDS).not_done:
                report(sum(done.values()) / len(done))  # here, and in no thread: whoever listens may raise
        finally:
            stopped.set()
        return {side: one.result() for side, one in work.items()}


def beside(
    picture: Working, asked: AskedSide, side: Side, excluded: NDArray[np.bool_], shrink: int, report: Report
) -> Working:
    """What lies beyond one side of a picture."""
    swap, flip = TURNS[side]
    turned, mask = _turned(picture, swap=swap, flip=flip), _turned(excluded, swap=swap, flip=flip)
    if asked.way == "mirrored":
        made = _mirrored(turned, asked.reach, shrink)
    else:
        made = completed(turned, asked.reach, Variant(asked.variant), mask, report, shrink)
    soft = float(asked.melt) / 100 * turned.shape[0] / shrink
    if asked.way == "mirrored":
        soft += MIRROR_SOFT * made.shape[1]
    return _turned_back(_melted(made, soft), swap=swap, flip=flip)


def _turned(array: Samples, *, swap: bool, flip: bool) -> Samples:
    """So that a side is a right one."""
    array = array.swapaxes(0, 1) if swap else array
    return np.ascontiguousarray(array[:, ::-1] if flip else array)


def _turned_back(array: Samples, *, swap: bool, flip: bool) -> Samples:
    array = array[:, ::-1] if flip else array
    return np.ascontiguousarray(array.swapaxes(0, 1) if swap else array)


def _with(picture: Samples, part: Samples, side: Side) -> Samples:
    both: Sequence[Samples] = (part, picture) if side in ("left", "top") else (picture, part)
    axis = 1 if side in ("left", "right") else 0
    length = min(one.shape[1 - axis] for one in both)
    cut = [one[:length] if axis == 1 else one[:, :length] for one in both]
    return np.concatenate(cut, axis=axis)


def _enlarged(part: Working, side: Side, full: Working, reach: int) -> Working:
    size = (reach, full.shape[0]) if side in ("left", "right") else (full.shape[1], reach)
    return np.asarray(cv2.resize(part, size, interpolation=cv2.INTER_CUBIC), np.float32)


def _mirrored(picture: Working, columns: int, shrink: int) -> Working:
    """The picture back and forth, beyond its right edge."""
    wide = picture.shape[1]
    turn = np.arange(columns) % (2 * wide)
    places = np.where(turn < wide, wide - 1 - turn, turn - wide)
    made = np.ascontiguousarray(picture[:, places])
    if shrink == 1:
        return made
    size = max(1, columns // shrink), picture.shape[0] // shrink
    return np.asarray(cv2.resize(made, size, interpolation=cv2.INTER_AREA), np.float32)


def _melted(made: Working, most: float) -> Working:
    """What goes on to the right, softer and softer."""
    if most < 0.2:
        return made
    columns = made.shape[1]
    level = np.linspace(0, MELTS - 1, columns, dtype=np.float32) if columns > 1 else np.zeros(1, np.float32)
    result = np.zeros_like(made)
    for number in range(MELTS):
        share = np.maximum(0, 1 - np.abs(level - number))
        sigma = most * number / (MELTS - 1)
        soft = made if sigma < 0.1 else cv2.GaussianBlur(made, (0, 0), sigma, borderType=cv2.BORDER_REFLECT)
        result += cast("Working", soft) * share[None, :, None]
    return result


def excluded_places(dabs: Sequence[Dab], rows: int, columns: int) -> NDArray[np.bool_]:
    """Which pixels of a picture lie in places that must not be copied."""
    mask = np.zeros((rows, columns), np.uint8)
    for dab in dabs:
        middle = round(float(dab.x) * columns), round(float(dab.y) * rows)
        cv2.circle(mask, middle, max(1, round(float(dab.radius) * rows)), 1, -1)
    return mask.astype(bool)
