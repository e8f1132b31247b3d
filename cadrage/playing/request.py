"""What is to be played: one plan or several at once, from a moment on, round and round."""

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
"""Of all that is composed for one picture."""
EVEN = 2  # 4:2:0 has one chroma sample for two by two pixels, and tiles begin at one


@dataclass(frozen=True, slots=True)
class Pass:
    """Once through what is played, or through the rest of it.

    Attributes:
        request: what is read.
        timing: when each picture is seen, from the beginning of this pass.
    """

    request: RenderRequest
    timing: FrameTiming


@dataclass(frozen=True)
class PlayRequest:
    """What is to be played.

    Attributes:
        plans: of one clip, taken one way, into frames of one size; all are seen at the same time, in rows of tiles.
        source: the clip.
        info: what it is.
        start: the moment to begin with, in seconds of the clip.
        library: what the plans may use besides.
        lines: how tall each frame is drawn at most, in square pixels.
        settings: which tracks and channels of sound are delivered, and at which rate pictures are.
        speed: how many times as fast as it is delivered.
        shot_alone: whether only the shot of that moment is played, round and round.
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
        """What all of them go into."""
        return self.plans[0].frame

    @property
    def interpretation(self) -> Interpretation:
        """What the clip is taken to be; its fields are each a moment of their own where fields are delivered."""
        return self._whole.interpretation

    @property
    def _whole(self) -> RenderRequest:
        return RenderRequest(self.plans[0], self.source, self.info, self.library, self.settings)

    @cached_property
    def loop(self) -> FrameTiming:
        """What is played round and round: the range, or all of the clip where the moment lies outside it; or a shot."""
        if self.shot_alone:
            track = track_of(self.plans[0], self.info)
            return self._pass(track.shots[track.shot_at(self.start)].delivered(self.info)).timing
        span, plan = self.plans[0].range, self._unwoven
        lasts = effective_timing(self.info, plan.interpretation).duration
        inside = span.start <= self.start < (lasts if span.end is None else span.end)
        return self._pass(plan.range if inside else Range()).timing

    def passes(self) -> Iterator[Pass]:
        """What is played from the moment to the end, and then again and again: all of the loop."""
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
        """The first plan, whose fields come one after another."""
        plan, frame = self.plans[0], self.plans[0].frame
        if frame.fields == "progressive":
            return plan
        progressive = {"fields": "progressive", "rate": frame.rate and 2 * frame.rate}
        taken = {"interpretation": self.interpretation, "frame": frame.model_copy(update=progressive)}
        return plan.model_copy(update=taken)

    @property
    def grid(self) -> tuple[int, int]:
        """Tiles side by side, and rows of them; the last may not be full."""
        across = ceil(sqrt(len(self.plans)))
        return across, -(-len(self.plans) // across)

    def tile(self, part: int = 1) -> tuple[int, int]:
        """Width and height of each frame as drawn, in square pixels; both even, as 4:2:0 needs them.

        Args:
            part: 1 as asked for, 2 half as tall and half as wide.
        """
        aspect = self.frame.raster.display_aspect
        most = min(self.lines, MOST_LINES, int(sqrt(MOST_PIXELS / (aspect * len(self.plans)))))
        height = max(EVEN, round(Fraction(most, EVEN * part)) * EVEN)
        return max(EVEN, round(height * aspect / EVEN) * EVEN), height


def _faster(timing: FrameTiming, speed: int) -> FrameTiming:
    """The same pictures at their rate, as many times as fast: the clip's are left out between."""
    if speed == 1:
        return timing
    frames, lasts = -(-timing.info.frames // speed), timing.info.duration / speed
    info = timing.info.model_copy(update={"frames": frames, "duration": lasts, "rate_varies": False})
    return replace(timing, info=info, speed=timing.speed * speed, kept=False, blended=False)
