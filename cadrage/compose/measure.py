"""A framing in numbers, without drawing it."""

from collections.abc import Iterable
from fractions import Fraction

from cadrage.compose.framed import stage_of
from cadrage.compose.shots import track_of
from cadrage.compose.summary import Summary, summarise
from cadrage.compose.title_places import TitlePlace, new_title, title_places
from cadrage.finish import Title
from cadrage.footage import MediaInfo, resolve
from cadrage.geometry import (
    Box,
    Caution,
    Cost,
    FrameRect,
    Placed,
    Placement,
    PlacementLimits,
    Snap,
    Window,
    cautions,
    cost_of,
    snaps,
    window_of,
)
from cadrage.motion import Stage, pose_of
from cadrage.plan import Plan
from cadrage.values import Exact, Value


class Corner(Value):
    """A point of the frame, in frame pixels; to a thousandth, for drawing."""

    x: float
    y: float


class Bars(Value):
    """Empty frame on each side of the picture, in frame pixels; 0 where the picture reaches the edge or past it."""

    left: Exact
    right: Exact
    top: Exact
    bottom: Exact


class Measure(Value):
    """A framing in numbers.

    Attributes:
        stored: the upright source, stored pixels across and down.
        picture: the part of it that is the picture, without blanking and without bars.
        pixel_aspect: of the upright picture.
        display_aspect: of the picture, as a number.
        rotation: degrees clockwise from stored to upright.
        mirrored: whether it is seen mirrored.
        scale: frame lines for one source line.
        tightness: the tightness that gives this scale, or the nearest there is.
        box: where the picture lands, before it is turned about its centre.
        corners: its corners as they land, clockwise from its upper left.
        seen: the box around the part of it inside the frame.
        bars: what is left beside it.
        active: the active picture, exact; the whole frame where there is none.
        drawn: the same as it is drawn, with even sides.
        window: the other view: what the frame shows of the picture, on the picture.
        window_corners: its corners, in source pixels from the picture's corner, clockwise from its upper left.
        cost: what the placement takes and gives.
        cautions: what to know about it.
        snaps_across, snaps_down: offsets at which the picture sits in a way people look for.
        titles: where its titles stand.
        new_title: the default for a title that is added.
        limits: how far the values of a placement go.
        placement: as it is at that time, where it moves.
        summary: the same, said.
    """

    stored: Box
    picture: Box
    pixel_aspect: Exact
    display_aspect: float
    rotation: int
    mirrored: bool
    scale: Exact
    tightness: Exact
    box: Box
    corners: tuple[Corner, ...]
    seen: Box
    bars: Bars
    active: Box
    drawn: Box
    window: Window
    window_corners: tuple[Corner, ...]
    cost: Cost
    cautions: tuple[Caution, ...]
    snaps_across: tuple[Snap, ...]
    snaps_down: tuple[Snap, ...]
    titles: tuple[TitlePlace, ...]
    new_title: Title
    limits: PlacementLimits = PlacementLimits()
    placement: Placement
    summary: Summary


def measure(plan: Plan, info: MediaInfo, time: Fraction = Fraction(0)) -> Measure:
    """Work out the numbers of a framing at a time, in seconds of the clip."""
    track = track_of(plan, info)
    plan = track.shots[track.shot_at(time)].plan
    reading = resolve(info, plan.interpretation)
    frame, picture = plan.frame.raster, reading.picture
    placed = track.at(time)
    corners, cost = placed.corners, cost_of(placed)
    seen = FrameRect.around(corners).clipped(placed.opening.rect)
    across, down = snaps(placed)
    window = window_of(placed)
    return Measure(
        stored=Box.of(FrameRect.whole(reading.raster)),
        picture=Box.of(picture.rect),
        pixel_aspect=picture.pixel_aspect,
        display_aspect=float(picture.display_aspect),
        rotation=reading.rotation,
        mirrored=placed.mirror,
        scale=placed.scale,
        tightness=placed.tightness,
        box=Box.of(placed.rect),
        corners=corners_of(corners),
        seen=Box.of(seen),
        bars=Bars(left=seen.x, right=frame.width - seen.right, top=seen.y, bottom=frame.height - seen.bottom),
        active=Box.of(placed.opening.rect),
        drawn=Box.of(plan.frame.drawn_rect),
        window=window,
        window_corners=corners_of(window.corners(picture.pixel_aspect)),
        cost=cost,
        cautions=cautions(cost),
        snaps_across=across,
        snaps_down=down,
        titles=title_places(plan.finish.titles, placed),
        new_title=new_title(plan.frame),
        placement=_placement(plan, stage_of(plan, reading), placed),
        summary=summarise(plan, reading, cost),
    )


def _placement(plan: Plan, stage: Stage, placed: Placed) -> Placement:
    """What puts the picture where it is, in the terms of the plan."""
    if plan.motion.still:
        return plan.placement
    return stage.placement(pose_of(placed)).model_copy(update={"mirror": plan.placement.mirror})


def corners_of(corners: Iterable[tuple[Fraction, Fraction]]) -> tuple[Corner, ...]:
    """Points, in the pixels that they are given in, for drawing."""
    return tuple(Corner(x=round(float(x), 3), y=round(float(y), 3)) for x, y in corners)
