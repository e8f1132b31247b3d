"""The way of the window over the picture, for drawing: where it is at enough moments to see it move."""

from fractions import Fraction

from cadrage.compose.measure import Corner, corners_of
from cadrage.compose.shots import ShotsTrack, track_of
from cadrage.footage import MediaInfo
from cadrage.geometry import window_of
from cadrage.motion import MovingTrack
from cadrage.motion.track import moments
from cadrage.plan import Plan
from cadrage.values import Value

BETWEEN = 24
"""Moments between two keys: straight lines between them look like the curve."""
MOST_MOMENTS = 1500


class PathPoint(Value):
    """Where the window is at a moment.

    Attributes:
        time: in seconds of the clip.
        shot: the number of the shot, from 0.
        x, y: its middle, in source pixels from the picture's upper left corner.
        corners: of the window, in the same, clockwise from its upper left.
        reach: how far its middle may be from that of the picture, across and down, while nothing beside the picture
            shows; None where something does at any place.
        tightness: how large the picture is; see `Placement`.
        angle: degrees clockwise that the picture is turned.
    """

    time: float
    shot: int
    x: float
    y: float
    corners: tuple[Corner, ...]
    reach: Corner | None
    tightness: float
    angle: float


def path_of(plan: Plan, info: MediaInfo) -> tuple[PathPoint, ...]:
    """The way of the window over all that is delivered, in the order of time; two moments of a shot that stands."""
    track = track_of(plan, info)
    between = max(1, min(BETWEEN, MOST_MOMENTS // track.gaps))
    found: list[PathPoint] = []
    for number, shot in enumerate(track.shots):
        own = track.track(number)
        times = moments((shot.first, shot.last), own.times, between) if isinstance(own, MovingTrack) else ()
        found += [_point(track, number, time) for time in times or sorted({shot.first, shot.last})]
    return tuple(found)


def _point(track: ShotsTrack, number: int, time: Fraction) -> PathPoint:
    own = track.track(number)
    placed = own.at(time)
    window, picture = window_of(placed), placed.picture
    reach = own.reach(time) if isinstance(own, MovingTrack) else None
    return PathPoint(
        time=float(time),
        shot=number,
        x=round(float(window.x), 3),
        y=round(float(window.y), 3),
        corners=corners_of(window.corners(picture.pixel_aspect)),
        reach=reach
        and Corner(x=round(float(reach[0] * picture.width), 3), y=round(float(reach[1] * picture.height), 3)),
        tightness=float(placed.tightness),
        angle=float(placed.angle),
    )
