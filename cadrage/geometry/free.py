"""The places beside a picture where something can stand."""

from fractions import Fraction
from typing import Literal

from cadrage.geometry.shapes import FrameRect, Opening, Raster

Side = Literal["left", "right", "above", "below"]
NEARLY_AS_LARGE = Fraction(3, 5)


def free_places(
    picture: FrameRect, frame: Raster, opening: Opening, inset: Fraction, gap: Fraction
) -> dict[Side, FrameRect]:
    """What is free on each side of the picture, inside a safe area; sides where nothing is are left out.

    Args:
        picture: all that the picture takes of the frame.
        frame: the whole of it.
        opening: the part of the frame that is filled.
        inset: how far inside the frame's edges to stay, as a fraction of its width and height.
        gap: frame lines to keep from the picture.
    """
    safe = safe_area(frame, inset).clipped(opening.rect)
    aside = gap / frame.pixel_aspect
    found: dict[Side, FrameRect] = {
        "left": _between(safe.x, safe.y, picture.x - aside, safe.bottom),
        "right": _between(picture.right + aside, safe.y, safe.right, safe.bottom),
        "above": _between(safe.x, safe.y, safe.right, picture.y - gap),
        "below": _between(safe.x, picture.bottom + gap, safe.right, safe.bottom),
    }
    inside = {side: rect.clipped(safe) for side, rect in found.items()}
    return {side: rect for side, rect in inside.items() if rect.area > 0}


def safe_area(frame: Raster, inset: Fraction) -> FrameRect:
    """A frame without a margin, a fraction of its width and height on each side."""
    return FrameRect.whole(frame).scaled(1 - 2 * inset)


def chosen_places(places: dict[Side, FrameRect]) -> tuple[FrameRect, ...]:
    """The largest place, and the one across from it where that is nearly as large; first left, or above."""
    if not places:
        return ()
    largest = max(places, key=lambda side: places[side].area)
    pair: tuple[Side, Side] = ("left", "right") if largest in ("left", "right") else ("above", "below")
    found = [places[side] for side in pair if side in places]
    if len(found) == 2 and min(place.area for place in found) >= NEARLY_AS_LARGE * places[largest].area:
        return tuple(found)
    return (places[largest],)


def _between(left: Fraction, top: Fraction, right: Fraction, bottom: Fraction) -> FrameRect:
    return FrameRect(left, top, max(Fraction(0), right - left), max(Fraction(0), bottom - top))
