"""A framing in numbers and in words, without drawing it."""

from fractions import Fraction

from cadrage.footage import Facts, read_as
from cadrage.formats import Frame
from cadrage.formats.words import aspect_name
from cadrage.geometry import Cost, FrameRect, Placement, Raster, Snap, cautions, cost_of, place, snaps
from cadrage.plan import Plan
from cadrage.values import Exact, Value, format_exact

MANY_DIGITS = 6


class Box(Value):
    """A rectangle in frame pixels."""

    x: Exact
    y: Exact
    width: Exact
    height: Exact


class Bars(Value):
    """Empty frame on each side of the picture, in frame pixels; 0 where the picture reaches the edge or past it."""

    left: Exact
    right: Exact
    top: Exact
    bottom: Exact


class Words(Value):
    """The state of each step in few words.

    Attributes:
        source, frame, placement, surround: what is set there.
        lost: "nothing lost", or how much is.
        loses: whether anything is lost.
    """

    source: str
    frame: str
    placement: str
    surround: str
    lost: str
    loses: bool


class Measure(Value):
    """A framing in numbers.

    Attributes:
        picture_width, picture_height: stored pixels of the upright picture.
        pixel_aspect: of the upright picture.
        display_aspect: of the picture, as a number.
        rotation: degrees clockwise from stored to upright.
        scale: frame lines for one source line.
        tightness: the tightness that gives this scale, or the nearest there is.
        box: where the picture lands.
        seen: the part of it inside the frame.
        bars: what is left beside it.
        active: the active picture, exact; the whole frame where there is none.
        drawn: the same as it is drawn, with even sides.
        cost: what the placement takes and gives.
        cautions: what to know about it, in words.
        snaps_across, snaps_down: offsets at which the picture sits in a way people look for.
        words: the same, said.
    """

    picture_width: int
    picture_height: int
    pixel_aspect: Exact
    display_aspect: float
    rotation: int
    scale: Exact
    tightness: Exact
    box: Box
    seen: Box
    bars: Bars
    active: Box
    drawn: Box
    cost: Cost
    cautions: tuple[str, ...]
    snaps_across: tuple[Snap, ...]
    snaps_down: tuple[Snap, ...]
    words: Words


def measure(plan: Plan, facts: Facts) -> Measure:
    """Work out the numbers of a framing."""
    reading = read_as(facts, plan.interpretation)
    frame = plan.frame.raster
    placed = place(reading.picture, frame, plan.placement, plan.frame.active_rect)
    seen = placed.rect.clipped(placed.opening.rect)
    rect, cost = placed.rect, cost_of(placed)
    across, down = snaps(placed)
    return Measure(
        picture_width=reading.picture.width,
        picture_height=reading.picture.height,
        pixel_aspect=reading.picture.pixel_aspect,
        display_aspect=float(reading.picture.display_aspect),
        rotation=reading.rotation,
        scale=placed.scale,
        tightness=placed.tightness,
        box=_box(rect),
        seen=_box(seen),
        bars=Bars(
            left=seen.x,
            right=frame.width - seen.right,
            top=seen.y,
            bottom=frame.height - seen.bottom,
        ),
        active=_box(placed.opening.rect),
        drawn=_box(plan.frame.drawn_rect),
        cost=cost,
        cautions=cautions(cost),
        snaps_across=across,
        snaps_down=down,
        words=_words(plan, reading.picture, cost),
    )


def _box(rect: FrameRect) -> Box:
    return Box(x=rect.x, y=rect.y, width=rect.width, height=rect.height)


def _words(plan: Plan, picture: Raster, cost: Cost) -> Words:
    frame = plan.frame.raster
    same_shape = picture.display_aspect == (plan.frame.active or frame.display_aspect)
    covered = cost.covered_percent == 100
    lost = 100 - cost.kept_percent
    return Words(
        source=_picture_words(picture),
        frame=_frame_words(plan.frame),
        placement=_placement_words(plan.placement, cost, same_shape=same_shape),
        surround="nothing to fill" if covered else plan.surround.words,
        lost=f"{_tidy(lost)} % of the picture lost" if lost else "nothing lost",
        loses=bool(lost),
    )


def _frame_words(frame: Frame) -> str:
    words = f"{aspect_name(frame.raster.display_aspect)} {frame.width}×{frame.height}"
    return words if frame.active is None else f"{aspect_name(frame.active)} in {words}"


def _picture_words(picture: Raster) -> str:
    aspect = picture.display_aspect
    way = "upright" if aspect < 1 else "square" if aspect == 1 else "wide"
    shape = "" if picture.pixel_aspect == 1 else f", {_ratio(picture.pixel_aspect)} pixels"
    return f"{aspect_name(aspect)} {way}{shape}"


def _ratio(value: Fraction) -> str:
    exact = format_exact(value)
    return f"{value.numerator}:{value.denominator}" if len(exact) <= MANY_DIGITS else f"{float(value):.4f}"


SIZINGS = {"width": "fits the width", "height": "fits the height", "native": "native size", "stretch": "stretched"}


def _placement_words(placement: Placement, cost: Cost, *, same_shape: bool) -> str:
    if placement.sizing in SIZINGS:
        words = SIZINGS[placement.sizing]
    elif placement.sizing == "scale":
        words = f"scaled to {_tidy(100 * cost.enlargement_down)} %"
    elif same_shape and placement.tightness <= 1:
        words = "fills exactly"
    elif placement.tightness == 0:
        words = "whole picture"
    elif placement.tightness == 1:
        words = "fills the frame"
    else:
        words = f"{_tidy(100 * placement.tightness)} % tight"
    return f"{words}, moved" if placement.offset_x or placement.offset_y else words


def _tidy(value: Fraction) -> str:
    """One decimal, none where it would be 0; never rounded to nothing."""
    if 0 < value < Fraction(1, 10):
        return "under 0.1"
    return f"{float(value):.1f}".removesuffix(".0")
