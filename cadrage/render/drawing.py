"""Drawing an order: its pictures decoded, composed and encoded, each in a thread of its own."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

from collections.abc import Generator
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
from cadrage.pixels.planes import Layout, Planes
from cadrage.render.encoder import Share, as_stored, blank, cover, picture_track, tick_of
from cadrage.render.order import Order
from cadrage.render.pace import Cut, Paced, paced
from cadrage.render.pipeline import ahead, each
from cadrage.render.settings import check_undamaged


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
    """Draws cuts of an order, one after another; cuts that follow one another are cheapest. A context manager.

    Args:
        order: what is asked for.

    Raises:
        MissingSource, UnreadableFile: on entering, where the clip cannot be read. BadRequest: the settings do not
            allow the frame.
    """

    def __init__(self, order: Order) -> None:
        self.order = order
        self.writing, self.pace, self.layout = order.writing, order.pace, order.layout
        self._reader: PictureReader | None = None
        self._compositor: Compositor | PictureAlone | None = None

    def __enter__(self) -> Self:
        order = self.order
        check_undamaged(order.settings, order.facts, order.clip or order.source.name)
        self._reader = open_footage(order.source, order.facts, order.plan.interpretation).__enter__()
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
        return picture_track(container, self.order.written, self.layout, self.pace.facts, self.writing, share)

    def encoded(self, stream: VideoStream, cut: Cut) -> Generator[Encoded, None, None]:
        """Draw a cut and encode it, frame by frame."""
        with (
            closing(ahead(paced(self.reader, self.pace, cut))) as pictures,
            closing(each(pictures, _Painter(self).draw)) as drawn,
        ):
            for time, frame in drawn:
                yield Encoded(time, list(stream.encode(frame)))
            yield Encoded(None, list(stream.encode(None)))

    def compositor(self, source: Layout) -> Compositor | PictureAlone:
        """What composes; made once."""
        if self._compositor is None:
            self._compositor = self.order.compositor(source)
        return self._compositor


class _Painter:
    """Draws pictures on frames for an encoder. A still, or a picture that is repeated, is composed once."""

    def __init__(self, drawing: Drawing) -> None:
        self.drawing = drawing
        self.tick = tick_of(drawing.pace.facts)
        self.held: tuple[Planes, Planes] | None = None

    def draw(self, picture: Paced) -> tuple[Fraction, VideoFrame]:
        drawing = self.drawing
        compositor = drawing.compositor(picture.planes.layout)
        frame, canvas = blank(drawing.layout, picture.time, self.tick, drawing.writing)
        if self.held is None or self.held[0] is not picture.planes or compositor.moves:
            compositor.compose(picture.planes, canvas, picture.clip_time)
            self.held = (picture.planes, canvas)
        else:
            canvas.copy_from(self.held[1])
        if isinstance(compositor, PictureAlone):
            cover(frame, compositor.coverage, drawing.layout.depth)
        return picture.time, as_stored(frame, drawing.layout, drawing.writing)
