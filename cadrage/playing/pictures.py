"""Composed pictures in playback order, skipping some if the machine is too slow."""

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

from av.video.frame import VideoFrame

from cadrage.compose import Compositor
from cadrage.compose.target import screen_colour
from cadrage.footage import PictureReader
from cadrage.pixels.planes import CHROMA_420, Crop, Layout, Planes
from cadrage.playing.clock import Clock
from cadrage.playing.request import PlayRequest
from cadrage.render.encoder import on_frame
from cadrage.render.frame_timing import FrameTiming, Segment, TimedPicture, conform, whole

DRAWN = "yuv420p"
BLACK = (16, 128, 128)  # Y'CbCr of 8 bits, ITU-R BT.709
AGAIN = Fraction(1, 2)  # seconds ahead of the playhead at which reading resumes after it was too slow


@dataclass(frozen=True, slots=True)
class Shown:
    """A picture that is played.

    Attributes:
        time: seconds since playing began.
        frame: in the encoder's pixel format.
        layout: of its samples.
    """

    time: Fraction
    frame: VideoFrame
    layout: Layout


def read(request: PlayRequest, reader: PictureReader, clock: Clock) -> Iterator[TimedPicture]:
    """Yield the clip's pictures in a loop, with times counted from the start of playback."""
    pass_start = Fraction(0)
    for part in request.passes():
        timing = part.timing
        for picture in _skipping(reader, timing, clock, pass_start):
            yield TimedPicture(pass_start + picture.time, picture.clip_time, picture.planes)
        pass_start += timing.info.duration


def _skipping(reader: PictureReader, timing: FrameTiming, clock: Clock, pass_start: Fraction) -> Iterator[TimedPicture]:
    """Yield the pictures of one pass; skip some if even reading them is too slow."""
    cut = whole(timing)
    while True:
        for picture in conform(reader, timing, cut):
            yield picture
            if clock.too_late(float(pass_start + picture.time)):
                cut = Segment(0, Fraction(clock.elapsed) - pass_start + AGAIN, cut.end)
                break
        else:
            return
        if cut.start >= cut.end:
            return


class Painter:
    """Draws every plan of a request on one frame.

    Holds scratch memory: one thread at a time.
    """

    def __init__(self, request: PlayRequest, clock: Clock) -> None:
        self._request, self._clock = request, clock
        self._part = 0
        self._tiles: list[tuple[Compositor, Crop]] = []
        self._layout: Layout
        self._number = 0

    def draw(self, picture: TimedPicture) -> Shown | None:
        """Draw one picture; return None if it is skipped because the machine is too slow."""
        self._number += 1
        if self._number % self._clock.every or self._clock.too_late(float(picture.time)):
            return None
        if self._part != self._clock.part:
            self._part = self._clock.part
            self._arrange(picture.planes.layout)
        frame, canvas = on_frame(self._layout, DRAWN)
        _blacken(canvas, len(self._tiles), self._request.grid)
        for compositor, place in self._tiles:
            compositor.compose(picture.planes, canvas.cut(place), picture.clip_time)
        return Shown(picture.time, frame, self._layout)

    def _arrange(self, source: Layout) -> None:
        """Create the compositor of each tile, at the size that the machine can draw in time."""
        request = self._request
        wide, tall = request.tile(self._part)
        across, down = request.grid
        self._layout = Layout(across * wide, down * tall, 8, CHROMA_420, screen_colour(request.frame))
        self._tiles = []
        for number, plan in enumerate(request.plans):
            left, top = number % across * wide, number // across * tall
            compositor = Compositor(plan, source, request.info, (wide, tall), library=request.library)
            self._tiles.append((compositor, Crop(left, top, left + wide, top + tall)))


def _blacken(canvas: Planes, tiles: int, grid: tuple[int, int]) -> None:
    """Fill a frame with black if its tiles do not cover it."""
    if tiles < grid[0] * grid[1]:
        for array, code in zip(canvas.arrays, BLACK, strict=True):
            array[...] = code
