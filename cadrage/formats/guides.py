"""Guides to judge a frame by: safe areas by standard, thirds, the outlines of other frames, own margins."""

from fractions import Fraction
from typing import Annotated, Literal

from pydantic import Field

from cadrage.formats.aspect_names import aspect_name
from cadrage.formats.frames import Frame
from cadrage.geometry import Box, FrameRect, active_picture
from cadrage.values import Exact, PositiveExact, Value

GuideKind = Literal["active", "action", "title", "thirds", "centre", "frame", "margins"]

CrossPercent = Annotated[Exact, Field(ge=0, le=40)]


class Margins(Value):
    """What a screen's surround covers on each side, in percent of the frame's width or height; 0 to 40."""

    left: CrossPercent = Fraction(0)
    right: CrossPercent = Fraction(0)
    top: CrossPercent = Fraction(0)
    bottom: CrossPercent = Fraction(0)


class Delivery(Value):
    """What is asked of a frame besides its picture.

    Attributes:
        longest: seconds a clip may last; longer ones are flagged, never cut.
        margins: what its screen covers.
    """

    longest: PositiveExact | None = None
    margins: Margins = Margins()


class SafeArea(Value):
    """One published safe area.

    Attributes:
        name: what it is called.
        kind: for action, or for titles and graphics.
        inset_percent: how far in from each edge, in percent of width and of height.
        source: where it is published; all from memory.
    """

    name: str
    kind: Literal["action", "title"]
    inset_percent: Exact
    source: str


_TUBES = "SMPTE RP 218, for 4:3 tubes"
SAFE_AREAS = (
    SafeArea(name="Action safe 93%", kind="action", inset_percent=Fraction(7, 2), source="SMPTE ST 2046-1"),
    SafeArea(name="Title safe 90%", kind="title", inset_percent=Fraction(5), source="SMPTE ST 2046-1"),
    SafeArea(name="Action safe, 3.5% in", kind="action", inset_percent=Fraction(7, 2), source="EBU R 95"),
    SafeArea(name="Graphics safe, 5% in", kind="title", inset_percent=Fraction(5), source="EBU R 95"),
    SafeArea(name="Action safe 90%", kind="action", inset_percent=Fraction(5), source=_TUBES),
    SafeArea(name="Title safe 80%", kind="title", inset_percent=Fraction(10), source=_TUBES),
)
TITLE_SAFE_INSET = Fraction(5, 100)
"""How far words stay inside the frame, of its width and height: where both standards of today have it."""


class Guide(Value):
    """One guide on a frame.

    Attributes:
        kind: what it is for.
        name: what it is called; with `source`, unlike any other's.
        source: where it is published, or empty.
        box: where it lies, in frame pixels. Of thirds, the middle one; its sides are carried on to the frame's edges.
    """

    kind: GuideKind
    name: str
    source: str
    box: Box


def guides_for(frame: Frame, delivery: Delivery | None = None, others: tuple[Frame, ...] = ()) -> tuple[Guide, ...]:
    """Every guide that a frame has.

    Args:
        frame: the frame.
        delivery: with own margins, if any.
        others: frames whose outlines are drawn as large as they go into this one's picture.
    """
    whole = FrameRect.whole(frame.raster)
    found = []
    if frame.active is not None:
        name = f"Active picture {aspect_name(frame.active)}"
        found.append(Guide(kind="active", name=name, source="", box=Box.of(frame.drawn_rect)))
    found += [
        Guide(kind=area.kind, name=area.name, source=area.source, box=_inset(whole, area.inset_percent))
        for area in SAFE_AREAS
    ]
    found.append(Guide(kind="thirds", name="Thirds", source="", box=_inset(frame.active_rect, Fraction(100, 3))))
    found.append(Guide(kind="centre", name="Centre", source="", box=_inset(frame.active_rect, Fraction(50))))
    found += [_outline(frame, other) for other in others]
    margins = (delivery or Delivery()).margins
    if margins != Margins():
        found.append(Guide(kind="margins", name="Covered by the screen's edge", source="", box=_within(whole, margins)))
    return tuple(found)


def _outline(frame: Frame, other: Frame) -> Guide:
    """The largest crop of another frame's shape."""
    opening = frame.active_rect
    inner = active_picture(frame.raster, other.active or other.raster.display_aspect)
    part = min(Fraction(1), opening.width / inner.width, opening.height / inner.height)
    width, height = inner.width * part, inner.height * part
    rect = FrameRect((frame.width - width) / 2, (frame.height - height) / 2, width, height)
    name = f"{other.name or 'Frame'} {aspect_name(other.active or other.raster.display_aspect)}"
    return Guide(kind="frame", name=name, source="", box=Box.of(rect))


def _inset(rect: FrameRect, percent: Fraction) -> Box:
    return _within(rect, Margins.model_construct(left=percent, right=percent, top=percent, bottom=percent))


def _within(rect: FrameRect, margins: Margins) -> Box:
    left, top = rect.width * margins.left / 100, rect.height * margins.top / 100
    width = rect.width * (100 - margins.left - margins.right) / 100
    height = rect.height * (100 - margins.top - margins.bottom) / 100
    return Box(x=rect.x + left, y=rect.y + top, width=width, height=height)
