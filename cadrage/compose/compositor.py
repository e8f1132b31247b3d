"""A plan and a picture make one finished frame."""

from fractions import Fraction
from pathlib import Path

from cachetools import LRUCache

from cadrage.compose.extending import plate_in, plate_of_shot
from cadrage.compose.moment import moment_of
from cadrage.compose.shot_compositor import Drawn, ShotCompositor
from cadrage.compose.shots import PlannedShot, track_of
from cadrage.compose.target import screen_layout
from cadrage.extend.plate import Plate
from cadrage.footage import EMPTY, Library, MediaInfo, open_footage, resolve
from cadrage.motion import PlacementTrack
from cadrage.pixels.planes import Layout, Planes
from cadrage.plan import Plan
from cadrage.surrounds import Extended

SHOTS_KEPT = 2
"""Compositors of shots that are kept: of what plays, one after the other is needed."""


class Compositor:
    """Composes the frames of one plan at one size. All that does not change within a shot is worked out once for it.

    Holds scratch memory: one thread at a time.

    Args:
        plan: the framing.
        source: the layout of the clip's pictures as decoded.
        info: what the clip is.
        target: luma samples (width, height) to draw the frame on, or all that its samples are to be; as a file of
            the frame's own size usually has them unless given.
        library: what the plan may use besides its own clip.
        picture: drawn over the surround; or left out, where the surround goes on in its place; or cut out, where
            nothing is drawn in its place.
    """

    def __init__(
        self,
        plan: Plan,
        source: Layout,
        info: MediaInfo,
        target: tuple[int, int] | Layout | None = None,
        *,
        library: Library = EMPTY,
        picture: Drawn = "over",
    ) -> None:
        self.layout = target if isinstance(target, Layout) else screen_layout(plan.frame, target)
        self.track = track_of(plan, info)
        self._given = (source, info, library, picture)
        self._made: LRUCache[int, ShotCompositor] = LRUCache(SHOTS_KEPT)
        # Shots that are composed alike share a compositor: the first of them stands for all.
        still = [
            shot.plan if self.track.track(number).constant else None for number, shot in enumerate(self.track.shots)
        ]
        self._alike = [number if one is None else still.index(one) for number, one in enumerate(still)]
        self.animated = len(set(self._alike)) > 1 or self._of(0).animated

    def compose(self, stored: Planes, canvas: Planes | None = None, time: Fraction = Fraction(0)) -> Planes:
        """Compose one frame from a picture as decoded, into given planes or new ones.

        `time` is the picture's, in seconds of the clip; what moves by itself follows it.
        """
        return self._of(self.track.shot_at(time)).compose(stored, canvas or Planes.empty(self.layout), time)

    def _of(self, number: int) -> ShotCompositor:
        first = self._alike[number]
        made = self._made.get(first)
        if made is None:
            source, info, library, picture = self._given
            shot, track = self.track.shots[first], self.track.track(first)
            seen = (shot.first, shot.last)
            plate = _plate(shot, first, track, info, library)
            made = ShotCompositor(shot.plan, track, source, info, self.layout, library, picture, seen, plate)
            self._made[first] = made
        return made


def _plate(shot: PlannedShot, number: int, track: PlacementTrack, info: MediaInfo, library: Library) -> Plate | None:
    """The plate of a shot, where it asks for one and it is there."""
    if not isinstance(shot.plan.surround, Extended):
        return None
    asked = plate_of_shot(shot, number, track, info)
    return None if asked is None else plate_in(library, asked.asked, resolve(info, shot.plan.interpretation))


def compose(
    plan: Plan,
    info: MediaInfo,
    path: Path,
    time: Fraction,
    size: tuple[int, int] | None = None,
    library: Library = EMPTY,
) -> Planes:
    """One finished frame of a clip at a time in seconds, at the frame's own size unless another is given."""
    with open_footage(path, info, plan.interpretation) as reader:
        stored = reader.frame_at(time)
        made = Compositor(plan, stored.planes.layout, info, size, library=library)
        return made.compose(stored.planes, time=moment_of(info, stored, time))
