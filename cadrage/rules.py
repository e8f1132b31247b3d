"""Rules: every clip of a source format goes into a frame so, unless it has a framing of its own."""

from fractions import Fraction
from functools import lru_cache

from cadrage.footage import MediaInfo
from cadrage.formats import Frame
from cadrage.geometry import Picture, Placement, cost_of, place
from cadrage.plan import ReusableStyle
from cadrage.surrounds import Blurred, Surround
from cadrage.values import format_exact

NEARLY_ALL = Fraction(95)
"""Percent of the picture that filling must keep to be done unasked: it then hides what is no more than a rim."""


COPY = Blurred()
RULES_KEPT = 4096


class Rule(ReusableStyle):
    """How clips of one source format go into one frame."""


def format_key(info: MediaInfo) -> str:
    """What makes clips one source format: stored size, pixel shape as stated, the way they are turned, kind."""
    aspect = "" if info.pixel_aspect is None else format_exact(info.pixel_aspect)
    return f"{info.width}x{info.height} {aspect or 'unstated'} {info.rotation}{'m' if info.mirrored else ''}"


def format_summary(info: MediaInfo) -> str:
    """A source format in words: "720×576, 12:11 pixels"."""
    turned = f" turned {info.rotation}°" if info.rotation else ""
    aspect = info.pixel_aspect or Fraction(1)
    pixels = "" if aspect == 1 else f", {aspect.numerator}:{aspect.denominator} pixels"
    return f"{info.width}×{info.height}{turned}{pixels}"


@lru_cache(RULES_KEPT)
def sensible_rule(picture: Picture, frame: Frame, copy: Surround = COPY) -> Rule:
    """What is done before anyone asks: fill where the shapes nearly agree, else whole over a blurred copy.

    `copy` is that copy, where one is known that is calm beside the clip.
    """
    fill = Placement(tightness=Fraction(1))
    kept = cost_of(place(picture, frame.raster, fill, frame.active_rect)).kept_percent
    return Rule(placement=fill if kept >= NEARLY_ALL else Placement(), surround=copy)
