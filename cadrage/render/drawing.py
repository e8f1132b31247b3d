"""Drawing what is asked for: pictures decoded, composed and encoded, each in a thread of its own."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

from collections.abc import Generator, Iterable, Iterator
from contextlib import closing
from dataclasses import dataclass
from fractions import Fraction
from types import TracebackType
from typing import Self

from av.container import OutputContainer
from av.packet import Packet
from av.video.frame import VideoFrame
from av.video.stream import VideoStream

from cadrage.compose import Compositor
from cadrage.compose.layers import PictureAlone
from cadrage.footage import PictureReader, open_footage
from cadrage.output.settings import check_undamaged
from cadrage.output.weaving import FieldFlag, field_order, weave
from cadrage.pixels.planes import Layout, Planes
from cadrage.render.encoder import Share, as_stored, blank, cover, picture_track, tick_of
from cadrage.render.frame_timing import Segment, TimedPicture, conform
from cadrage.render.pipeline import map_in_thread, prefetch
from cadrage.render.request import RenderRequest


@dataclass(frozen=True, slots=True)
class Encoded:
    """What an encoder gives for one frame.

    Attributes:
        time: of the frame, in delivered seconds; None for what comes after the last.
        packets: coded pictures, which may be of earlier frames.
    """

    time: Fraction | None
    packets: list[Packet[VideoStream]]


class Drawing:
    """Draws segments of a request, one after another; those that follow one another are cheapest. A context manager.

    Args:
        request: what is asked for.

    Raises:
        MissingSource, UnreadableFile: on entering, where the clip cannot be read. BadRequest: the settings do not
            allow the frame.
    """

    def __init__(self, request: RenderRequest) -> None:
        self.request = request
        self.encoder_config, self.timing, self.layout = request.encoder_config, request.timing, request.layout
        self._reader: PictureReader | None = None
        self._compositor: Compositor | PictureAlone | None = None

    def __enter__(self) -> Self:
        request = self.request
        check_undamaged(request.settings, request.info, request.clip or request.source.name)
        self._reader = open_footage(request.source, request.info, request.interpretation).__enter__()
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        if self._reader is not None:
            self._reader.__exit__(kind, error, trace)

    @property
    def reader(self) -> PictureReader:
        """The clip."""
        assert self._reader is not None
        return self._reader

    def track(self, container: OutputContainer, share: Share | None = None) -> VideoStream:
        """Add the picture's stream to a file."""
        return picture_track(container, self.request.written, self.layout, self.timing.info, self.encoder_config, share)

    def encoded(self, stream: VideoStream, cut: Segment) -> Generator[Encoded, None, None]:
        """Draw a cut and encode it, frame by frame."""
        painter = _Weaver(self) if self.timing.woven else _Painter(self)
        with (
            closing(prefetch(conform(self.reader, self.timing, cut))) as pictures,
            closing(painter.frames(pictures)) as drawn,
        ):
            for time, frame in drawn:
                yield Encoded(time, list(stream.encode(frame)))
            yield Encoded(None, list(stream.encode(None)))

    def compositor(self, source: Layout) -> Compositor | PictureAlone:
        """What composes; made once."""
        if self._compositor is None:
            self._compositor = self.request.compositor(source)
        return self._compositor


class _Painter:
    """Draws pictures on frames for an encoder. A still, or a picture that is repeated, is composed once."""

    def __init__(self, drawing: Drawing) -> None:
        self.drawing = drawing
        self.tick = tick_of(drawing.timing.info)
        self.held: tuple[Planes, Planes] | None = None

    def frames(self, pictures: Iterable[TimedPicture]) -> Generator[tuple[Fraction, VideoFrame], None, None]:
        """Draw pictures, each on a frame."""
        return map_in_thread(pictures, self.draw)

    def draw(self, picture: TimedPicture) -> tuple[Fraction, VideoFrame]:
        drawing = self.drawing
        compositor = drawing.compositor(picture.planes.layout)
        frame, canvas = blank(drawing.layout, picture.time, self.tick, drawing.encoder_config)
        if self.held is None or self.held[0] is not picture.planes or compositor.animated:
            compositor.compose(picture.planes, canvas, picture.clip_time)
            self.held = (picture.planes, canvas)
        else:
            canvas.copy_from(self.held[1])
        if isinstance(compositor, PictureAlone):
            cover(frame, compositor.coverage_at(picture.clip_time), drawing.layout.depth)
        return picture.time, as_stored(frame, drawing.layout, drawing.encoder_config)


class _Weaver:
    """Draws pictures two by two, and weaves each pair into a frame."""

    def __init__(self, drawing: Drawing) -> None:
        self._drawing, self._request = drawing, field_order(drawing.request.plan.frame)
        self._tick = tick_of(drawing.timing.info)
        self._flag = FieldFlag(self._request)
        self._second = Planes.empty(drawing.layout)

    def frames(self, pictures: Iterable[TimedPicture]) -> Generator[tuple[Fraction, VideoFrame], None, None]:
        """Draw pictures, two on a frame."""
        return map_in_thread(_by_two(pictures), self._draw)

    def _draw(self, pair: tuple[TimedPicture, TimedPicture]) -> tuple[Fraction, VideoFrame]:
        drawing, (first, second) = self._drawing, pair
        compositor = drawing.compositor(first.planes.layout)
        frame, canvas = blank(drawing.layout, first.time, self._tick, drawing.encoder_config)
        compositor.compose(first.planes, canvas, first.clip_time)
        if second.planes is not first.planes or compositor.animated:
            compositor.compose(second.planes, self._second, second.clip_time)
            weave(canvas, self._second, self._request)
        return first.time, self._flag.mark(as_stored(frame, drawing.layout, drawing.encoder_config))


def _by_two(pictures: Iterable[TimedPicture]) -> Iterator[tuple[TimedPicture, TimedPicture]]:
    """Pictures in pairs."""
    coming = iter(pictures)
    return zip(coming, coming, strict=True)
