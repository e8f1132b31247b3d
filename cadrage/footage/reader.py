"""Reading the pictures of a clip, in order or at a moment."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

from collections.abc import Iterator
from contextlib import ExitStack
from fractions import Fraction
from itertools import chain
from pathlib import Path
from typing import Literal

import av
from av.packet import Packet
from av.video.frame import VideoFrame
from av.video.stream import VideoStream

from cadrage.errors import UnreadableFile
from cadrage.footage.clusters import FromCluster, clusters_of
from cadrage.footage.conforming import Conform
from cadrage.footage.container import COPY_AGAIN, opened, picture_stream
from cadrage.footage.decoding import Picture, PictureDecoder, step_of
from cadrage.footage.deinterlace import deinterlaced
from cadrage.footage.film import film_pictures
from cadrage.footage.index import index_of, needs_index, seekable
from cadrage.footage.interpretation import (
    Interpretation,
    Method,
    colour_of,
    effective_timing,
    fields_of,
    is_full_range,
)
from cadrage.footage.interruption import check_interrupted
from cadrage.footage.media_info import MediaInfo
from cadrage.footage.packets import Packets, Track
from cadrage.footage.pictures import DecodedFrame, PictureReader
from cadrage.footage.soundtrack import sound_streams
from cadrage.footage.unpack import Unpacker

# Nearer ahead than this it is cheaper to decode on than to seek.
DECODE_ON = Fraction(1, 2)
# How much further back to seek, in seconds, where that went too far; some containers seek only roughly.
FURTHER_BACK = (Fraction(0), Fraction(1), Fraction(4), Fraction(12), Fraction(40))
# Seconds behind damage at which nothing of it is left, as a rule; and how long before it is begun to decode.
MENDED, CLEAR = Fraction(20), Fraction(1)
# Pictures before one that deinterlacing looks at, and one more; of film, of whole cycles.
NEIGHBOURS: dict[Method, int] = {"one_per_pair": 3, "one_per_field": 3, "film": 12}


class ClipReader(PictureReader):
    """Reads one clip; one thread at a time. Use it as a context manager.

    What is damaged is read past: a picture that cannot be decoded is left out, and the one before it stays.

    Args:
        path: the file.
        info: what it is.
        interpretation: what its samples are taken to mean.
        rough: whether block edges may show, for who only looks at what moves; it is quicker.

    Raises:
        MissingSource, UnreadableFile: on opening, and UnreadableFile from any read that meets a picture of another
            shape.
    """

    def __init__(
        self, path: Path | str, info: MediaInfo, interpretation: Interpretation | None = None, *, rough: bool = False
    ) -> None:
        self.path = Path(path)
        self.info = info
        stated = interpretation or Interpretation()
        full = is_full_range(info, stated)
        self._unpacker = Unpacker(colour_of(info, stated), info.siting, stated.matte, full_rgb=full)
        self._fields, self._method = fields_of(info, stated), stated.deinterlace
        self._frame_length = 1 / effective_timing(info, stated).rate
        self._conform = Conform(info, self.path)
        self._index = index_of(self.path, info) if needs_index(info) else None
        self._clusters = clusters_of(self.path) if info.container.startswith("matroska") else None
        self._rough = rough
        self._opened = ExitStack()
        self._open()
        self._origin: Fraction | None = None
        self._coming: Iterator[DecodedFrame] = self._decode(None)
        self._last: DecodedFrame | None = None
        self._next_one: DecodedFrame | None = None

    def _open(self, since: FromCluster | None = None) -> None:
        """Open the file, or open it anew, which is the one way back to its very beginning that all containers have."""
        self._opened.close()
        self._container = self._opened.enter_context(opened(self.path, since))
        self._stream = picture_stream(self._container, self.path)
        # Several pictures at once, but for damage: how it is patched up must not depend on which was ready first.
        self._stream.thread_type = "SLICE" if self.info.damage else "AUTO"
        if self._rough:
            context = self._stream.codec_context
            context.options = {**context.options, "skip_loop_filter": "all"}
        self._tick = self._stream.time_base or Fraction(1, 1000)

    def close(self) -> None:
        """See `PictureReader`."""
        self._last = self._next_one = None
        self._coming = iter(())
        self._opened.close()

    @property
    def picture_start(self) -> Fraction:
        """See `PictureReader`."""
        if self._origin is None:  # nothing was read yet, and whatever is read first begins at the first picture
            self._next_one = self._next()
        return self._origin or Fraction(0)

    def frames(self) -> Iterator[DecodedFrame]:
        """See `PictureReader`."""
        self._restart()
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
                self._next_one = frame
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
        if self._next_one is not None:
            frame, self._next_one = self._next_one, None
            return frame
        return next(self._coming, None)

    def _stand_before(self, time: Fraction) -> None:
        """Stand before a picture that does not come after a time."""
        if self._fields != "progressive":
            time -= NEIGHBOURS[self._method] / self.info.rate
        whole = self._before_damage(time)
        for back in FURTHER_BACK if seekable(self.info) else ():
            if whole - back <= 0 or not self._seek(whole - back):
                break
            self._next_one = next(self._coming, None)
            if self._next_one is not None and self._next_one.time <= time:
                return
        self._restart()

    def _before_damage(self, time: Fraction) -> Fraction:
        """A moment before all damage that a time comes soon after: pictures are patched up with those before them."""
        for one in reversed(self.info.damage):
            if one.start - CLEAR <= time <= (one.end or one.start) + MENDED:
                time = one.start - 2 * CLEAR
        return time

    def _restart(self) -> None:
        if self._origin is None:
            return  # nothing was read yet
        self._coming = iter(())
        self._open()
        self._coming = self._decode(None)
        self._last = self._next_one = None

    def _seek(self, time: Fraction) -> bool:
        """Stand before the last key picture that does not come after a time, as far as the container knows."""
        moment = self.picture_start + time
        target = int(moment / self._tick)
        self._coming = iter(())
        if self._clusters is not None:
            self._open(FromCluster(self._clusters, self._clusters.before(moment)))
        else:
            try:
                self._container.seek(target, stream=self._stream)
            except av.FFmpegError:
                return False
        self._coming = self._decode(target)
        self._last = self._next_one = None
        return True

    def _pictures(self, target: int | None) -> Iterator[Picture]:
        """Decode on from where the container stands."""
        decoder = PictureDecoder(self._stream, self.info.shown_by, step_of(self.info.rate, self._tick))
        streams: tuple[Track, ...] = (self._stream, *sound_streams(self._container))
        packets = (one for one in Packets(self._container, streams) if one.stream_index == self._stream.index)
        if self._index is not None:
            return self._index.counted(decoder, packets, sought=target is not None)
        return _timed(decoder, packets) if target is None else _clean(decoder, packets)

    def _decode(self, target: int | None) -> Iterator[DecodedFrame]:
        """Every picture from where the container stands, each with its end: where the next begins."""
        conformed = map(self._conform.apply, self._stamped(self._pictures(target)))
        frames: Iterator[VideoFrame] = (frame for frame in conformed if frame is not None)
        if self._fields != "progressive":
            frames = self._whole(frames, self._fields)
        before: VideoFrame | None = None
        for frame in frames:
            if before is not None:
                yield self._decoded(before, frame)
            before = frame
        if before is not None:
            yield self._decoded(before, None)

    def _whole(
        self, frames: Iterator[VideoFrame], fields: Literal["upper_first", "lower_first"]
    ) -> Iterator[VideoFrame]:
        """Whole frames of pairs of fields."""
        if self._method != "film":
            return deinterlaced(frames, fields, self._method)
        first = next(frames, None)  # which sets where the clip begins
        if first is None:
            return iter(())
        return film_pictures(chain((first,), frames), fields, self.info.rate, self.picture_start)

    def _stamped(self, pictures: Iterator[Picture]) -> Iterator[VideoFrame]:
        for picture in pictures:
            check_interrupted()
            if self._origin is None:
                self._origin = picture.ticks * self._tick
            picture.frame.pts = picture.ticks
            picture.frame.time_base = self._tick
            yield picture.frame

    def _decoded(self, frame: VideoFrame, following: VideoFrame | None) -> DecodedFrame:
        time = self._time(frame)
        stated = frame.duration * (frame.time_base or self._tick) if self._fields == "progressive" else Fraction(0)
        end = time + (stated or self._frame_length) if following is None else self._time(following)
        return DecodedFrame(time, end, self._unpacker.planes(frame))

    def _time(self, frame: VideoFrame) -> Fraction:
        return (frame.pts or 0) * (frame.time_base or self._tick) - self.picture_start


def _timed(decoder: PictureDecoder, packets: Iterator[Packet[VideoStream]]) -> Iterator[Picture]:
    for packet in chain(packets, (None,)):
        yield from decoder.pictures(packet)


def _clean(decoder: PictureDecoder, packets: Iterator[Packet[VideoStream]]) -> Iterator[Picture]:
    """Pictures from the first key picture on; what is shown before that may refer to pictures before it."""
    key = next((packet for packet in packets if packet.is_keyframe), None)
    if key is None:
        return
    stamps = (key.pts, key.dts) if decoder.shown_by == "presentation" else (key.dts,)
    since = next((stamp for stamp in stamps if stamp is not None), None)
    for picture in _timed(decoder, chain((key,), packets)):
        if since is None or picture.ticks >= since:
            yield picture
