"""Playback request: one plan or several side by side, from a time on, in a loop."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cached_property
from math import ceil, sqrt
from pathlib import Path

from cadrage.compose.shots import track_of
from cadrage.errors import BadRequest
from cadrage.footage import EMPTY, Interpretation, Library, MediaInfo, effective_timing
from cadrage.formats import Frame
from cadrage.output.settings import DEFAULT, Settings
from cadrage.plan import Plan, Range
from cadrage.render.frame_timing import FrameTiming
from cadrage.render.request import RenderRequest

LINES = 540
MOST_LINES = 1080
MOST_TILES = 9
SPEEDS = (1, 2, 4, 8)
MOST_PIXELS = 1920 * 1080
"""Limit for all tiles of one picture together."""
EVEN = 2  # 4:2:0 has one chroma sample for two by two pixels, and tiles begin at one


@dataclass(frozen=True, slots=True)
class Pass:
    """One pass of the loop; the first one may begin in the middle.

    Attributes:
        request: the plan, its clip and the range of the pass.
        timing: the time of each picture, from the start of this pass.
    """

    request: RenderRequest
    timing: FrameTiming


@dataclass(frozen=True)
class PlayRequest:
    """A request to play plans of one clip.

    Attributes:
        plans: of one clip, with one interpretation, into frames of one size; they are shown together, in rows of tiles.
        source: the clip's file.
        info: of the clip.
        start: time to start at, in seconds of the clip.
        library: other clips, pictures and captions that the plans may use.
        lines: maximum height of each frame, in square pixels.
        settings: file settings, for the tracks and channels of sound and the frame rate.
        speed: multiple of the delivered speed.
        shot_alone: whether only the shot at `start` is played, in a loop.
    """

    plans: tuple[Plan, ...]
    source: Path
    info: MediaInfo
    start: Fraction = Fraction(0)
    library: Library = EMPTY
    lines: int = LINES
    settings: Settings = DEFAULT
    speed: int = 1
    shot_alone: bool = False

    def __post_init__(self) -> None:
        alike = [(one.frame.raster, one.interpretation, one.range) for one in self.plans]
        if self.speed not in SPEEDS:
            raise BadRequest(f"It plays at {SPEEDS} times its speed.", remedy="Choose one of these.")
        if not self.plans or len(self.plans) > MOST_TILES or any(one != alike[0] for one in alike):
            raise BadRequest(
                f"Up to {MOST_TILES} ways of one clip in one frame can be played together.", remedy="Choose among them."
            )

    @property
    def frame(self) -> Frame:
        """The frame of every plan."""
        return self.plans[0].frame

    @property
    def interpretation(self) -> Interpretation:
        """The interpretation of the clip; with a frame in fields, one picture per field."""
        return self._whole.interpretation

    @property
    def _whole(self) -> RenderRequest:
        return RenderRequest(self.plans[0], self.source, self.info, self.library, self.settings)

    @cached_property
    def loop(self) -> FrameTiming:
        """The part that is looped: the range, the whole clip if `start` lies outside the range, or a shot."""
        if self.shot_alone:
            track = track_of(self.plans[0], self.info)
            return self._pass(track.shots[track.shot_at(self.start)].delivered(self.info)).timing
        span, plan = self.plans[0].range, self._unwoven
        lasts = effective_timing(self.info, plan.interpretation).duration
        inside = span.start <= self.start < (lasts if span.end is None else span.end)
        return self._pass(plan.range if inside else Range()).timing

    def passes(self) -> Iterator[Pass]:
        """Yield the rest of the loop from `start`, and then the whole loop without end."""
        loop = self.loop
        end = loop.start + loop.info.duration * loop.speed
        first = max(loop.start, min(self.start, end - loop.speed / loop.info.rate))
        yield self._pass(Range(start=first, end=end))
        while True:
            yield self._pass(Range(start=loop.start, end=end))

    def _pass(self, span: Range) -> Pass:
        plan = self._unwoven.model_copy(update={"range": span})
        request = RenderRequest(plan, self.source, self.info, self.library, self.settings)
        return Pass(request, _faster(request.timing, self.speed))

    @cached_property
    def _unwoven(self) -> Plan:
        """The first plan, with fields as separate pictures."""
        plan, frame = self.plans[0], self.plans[0].frame
        if frame.fields == "progressive":
            return plan
        progressive = {"fields": "progressive", "rate": frame.rate and 2 * frame.rate}
        taken = {"interpretation": self.interpretation, "frame": frame.model_copy(update=progressive)}
        return plan.model_copy(update=taken)

    @property
    def grid(self) -> tuple[int, int]:
        """Number of tiles in a row, and number of rows; the last row may have fewer tiles."""
        across = ceil(sqrt(len(self.plans)))
        return across, -(-len(self.plans) // across)

    def tile(self, part: int = 1) -> tuple[int, int]:
        """Width and height of each frame in square pixels; both even, which 4:2:0 needs.

        Args:
            part: divisor of both: 1 for full size, 2 for half the width and height.
        """
        aspect = self.frame.raster.display_aspect
        most = min(self.lines, MOST_LINES, int(sqrt(MOST_PIXELS / (aspect * len(self.plans)))))
        height = max(EVEN, round(Fraction(most, EVEN * part)) * EVEN)
        return max(EVEN, round(height * aspect / EVEN) * EVEN), height


def _faster(timing: FrameTiming, speed: int) -> FrameTiming:
    """Return the timing at a multiple of the speed and the same frame rate, with pictures in between skipped."""
    if speed == 1:
        return timing
    frames, lasts = -(-timing.info.frames // speed), timing.info.duration / speed
    info = timing.info.model_copy(update={"frames": frames, "duration": lasts, "rate_varies": False})
    return replace(timing, info=info, speed=timing.speed * speed, kept=False, blended=False)
