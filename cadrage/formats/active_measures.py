"""The active picture of a frame, by aspect, by lines or by percent: each gives the others exactly."""

from fractions import Fraction
from typing import Literal

from cadrage.errors import BadRequest
from cadrage.formats.frames import MAX_ASPECT, MIN_ASPECT, Frame
from cadrage.geometry import active_picture
from cadrage.values import Exact, Value, parse_exact

Bars = Literal["above_below", "left_right"]
Measured = Literal["aspect", "pixels", "percent"]


class ActiveMeasures(Value):
    """An active picture in each of the ways in which people write it; all are exact.

    Attributes:
        bars: the sides where the bars are.
        aspect: display aspect of the active picture.
        pixels: its height in lines with bars above and below, or else its width, in frame pixels.
        percent: part of the frame's height, or width, that the bar on each side covers.
    """

    bars: Bars
    aspect: Exact
    pixels: Exact
    percent: Exact


def active_measures(frame: Frame) -> ActiveMeasures:
    """Return the measures of a frame's active picture; without one, those of the whole frame."""
    whole = frame.raster.display_aspect
    aspect = whole if frame.active is None else frame.active
    inner = active_picture(frame.raster, aspect)
    bars: Bars = "left_right" if aspect < whole else "above_below"
    pixels, side = (inner.width, frame.width) if bars == "left_right" else (inner.height, frame.height)
    return ActiveMeasures(bars=bars, aspect=aspect, pixels=pixels, percent=50 * (1 - pixels / side))


def active_aspect(frame: Frame, by: Measured, value: Fraction, bars: Bars) -> Fraction:
    """Return the aspect of the active picture that is written in one of three ways.

    The bars of p percent on each side leave 1 − p/50 of the side s: with bars above and below the aspect of the active
    picture is the frame's divided by that, with bars left and right multiplied by it. 12% in 16:9 is 400/171 (2.339),
    and 2.39 is 12.81%.

    Args:
        frame: with the active picture in it.
        by: the meaning of `value`: an aspect, pixels of height or width that stay, or percent on each side.
        value: more than 0 pixels, at most all; 0 to less than 50 percent.
        bars: the sides that pixels and percent are about.

    Raises:
        BadRequest: the value leaves no picture, or its aspect is out of range.
    """
    side = frame.height if bars == "above_below" else frame.width
    left = {"aspect": Fraction(1), "pixels": value / side, "percent": 1 - value / 50}[by]
    if not 0 < left <= 1:
        limits = f"1 to {side} pixels" if by == "pixels" else "0 to 49 percent"
        raise BadRequest("The active picture does not fit into its frame.", remedy=f"Enter {limits}.")
    whole = frame.raster.display_aspect
    aspect = value if by == "aspect" else whole / left if bars == "above_below" else whole * left
    if not MIN_ASPECT <= aspect <= MAX_ASPECT:
        raise BadRequest("The active picture is too narrow.", remedy="Enter an aspect from 0.1 to 10.")
    return aspect


def read_active(frame: Frame, text: str) -> Fraction:
    """Read an active picture as it is typed: "2.39" or "16:9", "804 lines", "606 columns", "12%" or "12% left-right".

    Raises:
        BadRequest: it cannot be read, or is out of range.
    """
    words = text.strip().replace("%", " percent ").split()
    units: dict[tuple[str, ...], tuple[Measured, Bars]] = {
        (): ("aspect", "above_below"),
        ("lines",): ("pixels", "above_below"),
        ("columns",): ("pixels", "left_right"),
        ("percent",): ("percent", "above_below"),
        ("percent", "left-right"): ("percent", "left_right"),
    }
    try:
        value = parse_exact(words[0])
        by, bars = units[tuple(words[1:])]
    except (ValueError, KeyError, IndexError) as error:
        remedy = "Write it like 2.39, 804 lines, 606 columns, 12% or 12% left-right."
        raise BadRequest(f"{text!r} is no active picture.", remedy=remedy) from error
    return active_aspect(frame, by, value, bars)
