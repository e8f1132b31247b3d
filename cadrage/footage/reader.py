"""Reading the pictures of a clip, in order or at a moment."""

from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path

import av
from av.video.frame import VideoFrame

from cadrage.errors import UnreadableFile
from cadrage.footage.container import COPY_AGAIN, opened, picture_stream
from cadrage.footage.deinterlace import deinterlaced
from cadrage.footage.facts import Facts
from cadrage.footage.interpretation import Interpretation, colour_of, fields_of, taken_as
from cadrage.footage.pictures import DecodedFrame, PictureReader
from cadrage.footage.unpack import unpack

# Nearer ahead than this it is cheaper to decode on than to seek.
DECODE_ON = Fraction(1, 2)
# How much further back to seek, in seconds, where that went too far.
FURTHER_BACK = (Fraction(0), Fraction(2), Fraction(10))
# Pictures before and after one that deinterlacing looks at, and one more.
NEIGHBOURS = 3


class ClipReader(PictureReader):
    """Reads one clip; one thread at a time. Use it as a context manager.

    Args:
        path: the file.
        facts: what it is.
        interpretation: what its samples are taken to mean.

    Raises:
        MissingSource, UnreadableFile: on opening, and UnreadableFile from any read that meets damage.
    """

    def __init__(self, path: Path | str, facts: Facts, interpretation: Interpretation | None = None) -> None:
        self.path = Path(path)
        self.facts = facts
        said = interpretation or Interpretation()
        self._colour = colour_of(facts, said)
        self._fields, self._method = fields_of(facts, said), said.deinterlace
        self._frame_length = 1 / taken_as(facts, said).rate
        self._context = opened(self.path)
        self._container = self._context.__enter__()
        self._stream = picture_stream(self._container, self.path)
        self._stream.thread_type = "AUTO"
        self._tick = self._stream.time_base or Fraction(1, 1000)
        self._origin: Fraction | None = None
        self._coming: Iterator[DecodedFrame] = self._decode()
        self._last: DecodedFrame | None = None
        self._ahead: DecodedFrame | None = None

    def close(self) -> None:
        """See `PictureReader`."""
        self._last = self._ahead = None
        self._coming = iter(())
        self._context.__exit__(None, None, None)

    @property
    def picture_start(self) -> Fraction:
        """See `PictureReader`."""
        if self._origin is None:
            self._origin = self._first_time()
        return self._origin

    def frames(self) -> Iterator[DecodedFrame]:
        """See `PictureReader`."""
        self._seek(Fraction(0))
        return self._coming

    def frame_at(self, time: Fraction) -> DecodedFrame:
        """See `PictureReader`."""
        if self._last and self._last.time <= time < self._last.end:
            return self._last
        if self._last is None or time < self._last.time or time > self._last.end + DECODE_ON:
            self._stand_before(time)
        shown = self._last
        while (frame := self._next()) is not None:
            if frame.time > time and shown is not None:
                self._ahead = frame
                break
            shown = frame
            if time < frame.end:
                break
        if shown is None:
            raise UnreadableFile("There is no picture at that time.", remedy=COPY_AGAIN, clip=self.path)
        self._last = shown
        return shown

    def frames_from(self, time: Fraction) -> Iterator[DecodedFrame]:
        """See `PictureReader`. Asking on from where it was left costs nothing."""
        yield self.frame_at(time)
        while (frame := self._next()) is not None:
            self._last = frame
            yield frame

    def _next(self) -> DecodedFrame | None:
        if self._ahead is not None:
            frame, self._ahead = self._ahead, None
            return frame
        return next(self._coming, None)

    def _stand_before(self, time: Fraction) -> None:
        """Stand before a picture that does not come after a time; some containers seek only roughly, and too far."""
        for back in FURTHER_BACK:
            self._seek(time - back)
            self._ahead = next(self._coming, None)
            if self._ahead is not None and self._ahead.time <= max(time, Fraction(0)):
                return
        self._seek(Fraction(0))

    def _seek(self, time: Fraction) -> None:
        """Stand before the last key frame that does not come after a time, as far as the container knows."""
        if self._fields != "progressive":
            time -= NEIGHBOURS / self.facts.rate
        target = int((self.picture_start + max(time, Fraction(0))) / self._tick)
        try:
            self._container.seek(target, stream=self._stream)
        except av.FFmpegError:
            self._container.seek(0)
        self._coming = self._decode()
        self._last = self._ahead = None

    def _first_time(self) -> Fraction:
        for frame in self._container.decode(self._stream):
            return (frame.pts or 0) * self._tick
        return Fraction(0)

    def _decode(self) -> Iterator[DecodedFrame]:
        """Decode on from where the container stands."""
        try:
            pictures: Iterator[VideoFrame] = map(self._checked, self._container.decode(self._stream))
            if self._fields != "progressive":
                pictures = deinterlaced(pictures, self._stream, self._fields, self._method)
            for frame in pictures:
                yield self._decoded(frame)
        except av.FFmpegError as error:
            raise UnreadableFile("A part of it cannot be decoded.", remedy=COPY_AGAIN, clip=self.path) from error

    def _checked(self, frame: VideoFrame) -> VideoFrame:
        if (frame.width, frame.height) != (self.facts.width, self.facts.height):
            raise UnreadableFile(
                f"Its picture changes size to {frame.width}×{frame.height} on the way.",
                remedy="Split it where the size changes.",
                clip=self.path,
            )
        return frame

    def _decoded(self, frame: VideoFrame) -> DecodedFrame:
        tick = frame.time_base or self._tick
        time = (frame.pts or 0) * tick - self.picture_start
        stated = frame.duration * tick if self._fields == "progressive" else Fraction(0)
        return DecodedFrame(time, time + (stated or self._frame_length), unpack(frame, self._colour))
