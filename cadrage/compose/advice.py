"""What the verdict on a clip's sides advises: from which stretch to extend, and whether its camera moves."""

from fractions import Fraction
from itertools import pairwise

from cadrage.analysis.sides.analysis import SidesFound
from cadrage.analysis.sides.verdict import ShotSides
from cadrage.extend.request import SIDES, Side
from cadrage.surrounds import Extended

MOVES = ("panning", "drifting")


def advised(extended: Extended, found: SidesFound, time: Fraction) -> Extended:
    """An extension made of the pictures of the shot of a time that are best for it.

    Args:
        extended: which sides.
        found: the verdict on the clip's sides.
        time: in seconds of the clip.
    """
    shot = shot_of(found, time)
    camera = "moving" if shot.camera.move in MOVES else "still"
    start, end = stretch_of(shot, tuple(extended.sides)) if camera == "still" else (shot.start, shot.end)
    whole = (start, end) == (found.shots[0].start, found.shots[-1].end)
    return extended.model_copy(
        update={"camera": camera, "start": None if whole else start, "end": None if whole else end}
    )


def shot_of(found: SidesFound, time: Fraction) -> ShotSides:
    """The shot of a time."""
    return next((shot for shot in reversed(found.shots) if shot.start <= time), found.shots[0])


def stretch_of(shot: ShotSides, sides: tuple[Side, ...]) -> tuple[Fraction, Fraction]:
    """The longest stretch in which no side is touched; the shot where there is none."""
    marks = sorted({time for side in sides for one in shot.sides[side].stretches for time in (one.start, one.end)})
    best, begun = (shot.start, shot.start), None
    for low, high in pairwise(marks):
        fit = all(_at(shot, side, low) == "fits" for side in sides)
        begun = (low if begun is None else begun) if fit else None
        if begun is not None and high - begun > best[1] - best[0]:
            best = (begun, high)
    return best if best[1] > best[0] else (shot.start, shot.end)


def _at(shot: ShotSides, side: Side, time: Fraction) -> str:
    return next((one.verdict for one in shot.sides[side].stretches if one.start <= time < one.end), "unfit")


def extendable_sides(found: SidesFound) -> list[Side]:
    """Sides that can go on in some shot, left and right before top and bottom."""
    return [side for side in SIDES if any(shot.sides[side].verdict == "fits" for shot in found.shots)]
