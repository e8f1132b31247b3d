"""Finding where the picture really is in a finished frame, by laying the source beside it.

The source is scaled and turned here by OpenCV's own functions, not by those that composed the frame. Patches of both
are compared by normalised cross-correlation (Lewis, 1995; `cv2.matchTemplate`), and only such as have detail both ways
(the smaller eigenvalue of the structure tensor: Shi and Tomasi, 1994). Both references are from memory.
"""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from math import ceil, hypot

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.compose.shots import track_of
from cadrage.footage import MediaInfo, Orient, ResolvedInterpretation, resolve
from cadrage.geometry import Placed
from cadrage.pixels.planes import Planes
from cadrage.plan import Plan

PATCHES = 3  # each way over the part of the picture that is in the frame
PATCH_SIDES = (32, 256)  # pixels: the smallest that says anything, and the largest that is looked at
MARGIN = 0.08  # of that part at each side, for soft edges
PLAINEST = 1.5  # standard deviation of detail, in codes of 8 bits, below which there is nothing to hold on to
FINEST = 1 / 16  # of a patch's side: what is smoother than this is no detail
LIKEST = 0.85  # least correlation that counts (tried out)
STEEPEST = 0.08  # least that it falls off within half the reach in every direction (tried out)
EVENEST = 0.02  # least share of the weaker direction's detail in the stronger one's (tried out)
MOST_PLACES = 0.75
REACHES = (4, 24)  # pixels that are searched each way

Luma = NDArray[np.float32]
Matrix = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Shift:
    """How far the picture is from where the plan says, right and down, in frame pixels.

    It is that of the place that is further off than three quarters of all places: where a picture is moved, turned or
    of another size, most are; and one patch may take a window for its neighbour.
    """

    right: float
    down: float
    places: int

    @property
    def distance(self) -> float:
        """Of both together."""
        return hypot(self.right, self.down)


def register(plan: Plan, info: MediaInfo, pairs: Iterable[tuple[Planes, Planes, Fraction]]) -> Shift | None:
    """Find where the picture is in some frames.

    Args:
        plan: where it should be; its frame is what the file holds.
        info: what the clip is.
        pairs: a picture of the clip as decoded, the frame of the file that shows it, and its time in seconds of the
            clip, at which the placement is asked for.

    Returns:
        The shift; None where it is too plain, or too little of it is seen.
    """
    found: dict[tuple[int, int], list[tuple[float, float]]] = {}
    seen = 0
    before: Planes | None = None
    track, held = track_of(plan, info), None
    for source, frame, time in pairs:
        seen += 1
        placed = track.at(time)
        if source is not before or placed != held:  # of a still it is the same for all frames
            (wanted, there), before, held = expected(plan, info, source, placed), source, placed
        shown = frame.luma8.astype(np.float32)
        if shown.shape != wanted.shape:
            continue  # another line says that the file is of another size
        for place, part in _patches(there):
            moved = _moved(wanted[part], shown[part])
            if moved is not None:
                found.setdefault(place, []).append(moved)
    # A place that spoke only once among several moments may have been mistaken.
    middles = [np.median(np.array(moves), axis=0) for moves in found.values() if len(moves) >= min(2, seen)]
    if not middles:
        return None
    middles.sort(key=lambda move: float(np.hypot(*move)))
    far = middles[ceil(MOST_PLACES * len(middles)) - 1]
    return Shift(float(far[0]), float(far[1]), len(middles))


def expected(plan: Plan, info: MediaInfo, source: Planes, placed: Placed) -> tuple[Luma, NDArray[np.bool_]]:
    """Luma of the picture where it is placed, (rows, columns) of the frame; and which samples are its own."""
    reading = resolve(info, plan.interpretation)
    upright = Orient(source.layout, reading, source.layout.colour, mirror=placed.mirror).apply(source)
    luma = upright.luma8.astype(np.float32)
    across, down = placed.rect.width / placed.picture.width, placed.rect.height / placed.picture.height
    # Reduced by area first; what is left to do hardly changes its size.
    size = (ceil(luma.shape[1] * min(across, 1)), ceil(luma.shape[0] * min(down, 1)))
    reduced = cv2.resize(luma, size, interpolation=cv2.INTER_AREA) if size != luma.shape[::-1] else luma
    back = np.diag([luma.shape[1] / size[0], luma.shape[0] / size[1], 1.0])
    matrix = _onto_centres(_to_frame(placed, reading) @ back)
    canvas = (plan.frame.width, plan.frame.height)
    drawn = cv2.warpAffine(reduced, matrix, canvas, flags=cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE)
    ones = np.ones(reduced.shape, np.float32)
    there = cv2.warpAffine(ones, matrix, canvas, flags=cv2.INTER_LINEAR) > 0.999
    active = plan.frame.drawn_rect
    inside = np.zeros_like(there)
    inside[ceil(active.y) : int(active.bottom), ceil(active.x) : int(active.right)] = True
    return np.asarray(drawn, np.float32), there & inside


def _to_frame(placed: Placed, reading: ResolvedInterpretation) -> Matrix:
    """From samples of the upright cut, edges at whole numbers, to pixels of the frame: 3×3."""
    picture, rect = placed.picture.rect, placed.rect
    left, top = float(picture.x - reading.cut.left), float(picture.y - reading.cut.top)
    if placed.mirror:
        left = reading.cut.right - reading.cut.left - left - float(picture.width)
    scale = float(rect.width / picture.width), float(rect.height / picture.height)
    straight = np.array(
        [[scale[0], 0, float(rect.x) - left * scale[0]], [0, scale[1], float(rect.y) - top * scale[1]], [0, 0, 1]]
    )
    shape = float(placed.frame.pixel_aspect)
    cos, sin = float(placed.turn.cos), float(placed.turn.sin)
    middle = np.array([float(rect.x + rect.width / 2), float(rect.y + rect.height / 2)])
    turn = np.array([[cos, -sin / shape], [sin * shape, cos]])  # clockwise as seen, of pixels that are not square
    turned = np.eye(3)
    turned[:2, :2], turned[:2, 2] = turn, middle - turn @ middle
    made: Matrix = turned @ straight
    return made


def _onto_centres(edges: Matrix) -> Matrix:
    """The 2×3 matrix that OpenCV wants, whose positions are those of the centres of samples."""
    half = np.array([[1, 0, 0.5], [0, 1, 0.5], [0, 0, 1]])
    made: Matrix = (np.linalg.inv(half) @ edges @ half)[:2]
    return made


def _patches(there: NDArray[np.bool_]) -> Iterator[tuple[tuple[int, int], tuple[slice, slice]]]:
    """Places all over the part of a picture that is in the frame."""
    rows, columns = np.flatnonzero(there.any(axis=1)), np.flatnonzero(there.any(axis=0))
    if not rows.size:
        return
    ends = [_inner(int(found[0]), int(found[-1]) + 1) for found in (rows, columns)]
    side = min(*((last - first) // PATCHES for first, last in ends), PATCH_SIDES[1])
    if side < PATCH_SIDES[0]:
        return
    steps = [[first + (last - first - side) * n // (PATCHES - 1) for n in range(PATCHES)] for first, last in ends]
    for row, top in enumerate(steps[0]):
        for column, left in enumerate(steps[1]):
            part = slice(top, top + side), slice(left, left + side)
            if there[part].all():
                yield (row, column), part


def _inner(first: int, last: int) -> tuple[int, int]:
    margin = int((last - first) * MARGIN)
    return first + margin, last - margin


def _moved(wanted: Luma, shown: Luma) -> tuple[float, float] | None:
    """How far right and down one patch lies of another; None where they do not say."""
    one, other = _detail(wanted), _detail(shown)
    if min(one.std(), other.std()) < PLAINEST or not _tells_both_ways(one):
        return None
    reach = max(REACHES[0], min(REACHES[1], one.shape[0] // 6))
    inner = np.ascontiguousarray(one[reach:-reach, reach:-reach])
    likeness = np.asarray(cv2.matchTemplate(other, inner, cv2.TM_CCOEFF_NORMED), np.float32)
    _, best, _, (right, down) = cv2.minMaxLoc(likeness)
    if best < LIKEST or best - _nearby(likeness, down, right, max(2, reach // 2)) < STEEPEST:
        return None
    return right - reach + _between(likeness[down], right), down - reach + _between(likeness[:, right], down)


def _nearby(likeness: Luma, row: int, column: int, step: int) -> float:
    """The highest likeness some steps away from a place, across and down, as far as it was searched."""
    places = ((row - step, column), (row + step, column), (row, column - step), (row, column + step))
    rows, columns = likeness.shape
    return max((float(likeness[at]) for at in places if 0 <= at[0] < rows and 0 <= at[1] < columns), default=1.0)


def _between(row: Luma, at: int) -> float:
    """Where between samples the top of a row lies, by the parabola through the highest and its neighbours."""
    if not 0 < at < len(row) - 1:
        return 0.0
    before, top, after = (float(value) for value in row[at - 1 : at + 2])
    bend = before - 2 * top + after
    return (before - after) / (2 * bend) if bend < 0 else 0.0


def _tells_both_ways(patch: Luma) -> bool:
    """Whether a patch has detail across and down; a straight edge says nothing of where along it one is."""
    across, down = cv2.Sobel(patch, cv2.CV_32F, 1, 0), cv2.Sobel(patch, cv2.CV_32F, 0, 1)
    mixed = float((across * down).mean())
    least, most = np.linalg.eigvalsh([[float((across**2).mean()), mixed], [mixed, float((down**2).mean())]])
    return bool(least > EVENEST * most)


def _detail(patch: Luma) -> Luma:
    """What a patch has besides smooth shading, which looks alike wherever it lies."""
    return np.ascontiguousarray(patch - cv2.GaussianBlur(patch, (0, 0), patch.shape[0] * FINEST), np.float32)
