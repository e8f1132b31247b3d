"""Going through a file once: when its pictures are shown, where its sound lies, and what is wrong with either."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

from array import array
from collections.abc import Callable
from dataclasses import dataclass, field
from fractions import Fraction
from pathlib import Path
from typing import Any

from av.audio.stream import AudioStream
from av.container import InputContainer
from av.packet import Packet
from av.video.frame import VideoFrame
from av.video.stream import VideoStream

from cadrage.footage.conforming import same_shape
from cadrage.footage.container import picture_stream
from cadrage.footage.decoding import Picture, PictureDecoder, ShownBy, step_of
from cadrage.footage.findings import Finding, FindingKind
from cadrage.footage.packets import Packets
from cadrage.footage.soundtrack import SoundDecoder, sound_streams

COUNTED = ("mpeg", "avi", "mpegvideo", "h264", "hevc")
"""Containers that state no time for some pictures; what is worked out for these may come twice, or run ahead."""
GUESSED = ("h264", "hevc")
"""Codecs whose order of pictures an AVI says nothing of; when they are shown is guessed, and better by decoding."""
FOR_GOOD = 8  # pictures of another shape; fewer are damage (tried out)
ONE_EACH = ("mov", "matroska")  # containers that hold one picture in each packet
SHOWN = ("h264", "hevc", "mpeg4", "mpeg2video")  # codecs in which every packet is then shown
EDITED = ("mov",)  # containers whose header says how long a stream is heard (ISO/IEC 14496-12, edit list)


@dataclass(frozen=True, slots=True)
class Budget:
    """How much of a file may be gone through while somebody waits.

    Attributes:
        samples: luma samples of pictures that are decoded; behind these, packets are only counted.
        bytes, packets: that are read.
    """

    samples: int = 200_000_000
    bytes: int = 48 * 2**20
    packets: int = 20_000


WITHOUT_DECODING = Budget(samples=0, bytes=2**62, packets=2**62)
"""All packets are counted, and only the first picture is decoded."""


@dataclass(slots=True)
class SoundSpan:
    """Where one stream of sound lies, in seconds on the file's clock.

    Attributes:
        stream: it is of.
        start, end: of what is heard; None where nothing could be decoded.
        errors: times at which packets could not be decoded.
    """

    stream: AudioStream
    start: Fraction | None = None
    end: Fraction | None = None
    errors: list[Fraction] = field(default_factory=list)


@dataclass(slots=True)
class Scan:
    """What going through a file showed.

    Attributes:
        stream: of the pictures.
        times: when each picture is shown, in ticks of the stream, in order.
        last_length: ticks that the last one lasts as the file says; 0 where it does not.
        first: the first picture.
        shown_by: which time stamps count.
        decoded: whether all pictures were decoded; else they are counted by their packets.
        complete: whether the file was read to its end.
        read: bytes of packets that were.
        leading: pictures before the first that cannot be decoded, since what they refer to is not in the file.
        errors, concealed: times, in ticks, of what could not be decoded, and of pictures that were patched up.
        failed: whether the container could not be read at some place.
        jumps: times at which the clock jumped, in seconds.
        changes: of size, samples or shape of pixels on the way; times in ticks beside them.
        sounds: where each stream of sound lies.
        keys: time stamps of key pictures, with their places in the file in bytes, where those are known.
        shuffled: whether time stamps of the other kind should count: too many of these do not come in order.
    """

    stream: VideoStream
    times: array[int] = field(default_factory=lambda: array("q"))
    last_length: int = 0
    first: VideoFrame | None = None
    shown_by: ShownBy = "presentation"
    decoded: bool = True
    complete: bool = True
    read: int = 0
    leading: int = 0
    errors: list[int] = field(default_factory=list)
    concealed: list[int] = field(default_factory=list)
    failed: bool = False
    jumps: list[Fraction] = field(default_factory=list)
    changes: list[tuple[int, Finding]] = field(default_factory=list)
    sounds: list[SoundSpan] = field(default_factory=list)
    keys: list[tuple[int, int]] = field(default_factory=list)
    shuffled: bool = False

    @property
    def tick(self) -> Fraction:
        """Seconds of one tick."""
        return self.stream.time_base or Fraction(1, 1000)


def scan(
    container: InputContainer,
    path: Path,
    shown_by: ShownBy,
    budget: Budget | None = None,
    report: Callable[[float], None] | None = None,
) -> Scan:
    """Go through a file that was just opened, all of it or as much as a budget allows. `report` is told the fraction
    of it that is read, now and then, and may raise what it likes.

    Raises:
        NoPicture: there is none.
    """
    size = path.stat().st_size if report and path.is_file() else 0
    watched = _Watched(report, size) if report and size else None
    return _Pass(container, picture_stream(container, path), shown_by, budget, watched).run()


@dataclass(slots=True)
class _Watched:
    """Tells how far a pass is, each time that another hundredth is read."""

    report: Callable[[float], None]
    size: int
    told: int = -1

    def at(self, read: int) -> None:
        if (hundredth := min(99, 100 * read // self.size)) > self.told:
            self.told = hundredth
            self.report(hundredth / 100)


class _Pass:
    """One pass through a file."""

    def __init__(
        self,
        container: InputContainer,
        stream: VideoStream,
        shown_by: ShownBy,
        budget: Budget | None,
        watched: _Watched | None,
    ) -> None:
        self._watched = watched
        self._budget = budget
        self._stamps = array("q")  # of all packets that are shown
        self._last = (0, 0)  # the stamp and the length of the last of them
        self._samples = self._packets = 0
        self._decoding = True
        self._states: dict[FindingKind, str] = {}
        self._misshapen: list[tuple[int, str]] = []
        stream.thread_type = "AUTO"
        self.scan = Scan(stream, shown_by=shown_by)
        self._decoder = PictureDecoder(stream, shown_by, step_of(stream.guessed_rate, self.scan.tick))
        sounds = sound_streams(container)
        self._sounds = {one.index: (SoundSpan(one), SoundDecoder(one)) for one in sounds}
        self._source = Packets(container, (stream, *sounds))
        self._guessed = self._source.format == "avi" and stream.codec_context.name in GUESSED
        self._counted = self._source.format in COUNTED and shown_by == "presentation"

    def run(self) -> Scan:
        self._through(self._source)
        self._drain()
        self._settle()
        return self.scan

    def _through(self, packets: Packets) -> None:
        for packet in packets:
            self._packets += 1
            self.scan.read += packet.size
            if packet.stream_index == self.scan.stream.index:
                self._picture(packet)
            else:
                self._sound(packet)
            if self._watched:
                self._watched.at(self.scan.read)
            if self._spent():
                self.scan.complete = False
                break
        self.scan.failed = packets.failed
        self.scan.jumps = packets.clock.jumps if packets.clock else []

    def _spent(self) -> bool:
        budget = self._budget
        if budget is None or not self.scan.times:
            return False
        self._decoding = self._samples < budget.samples
        return self.scan.read > budget.bytes or self._packets > budget.packets

    def _picture(self, packet: Packet[VideoStream]) -> None:
        stamp = packet.pts if packet.pts is not None else packet.dts
        if stamp is not None and not packet.is_discard:  # what an edit list hides is decoded but never shown
            self._stamps.append(stamp)
            self._last = max(self._last, (stamp, packet.duration or 0))
            if packet.is_keyframe and packet.pos is not None:
                self.scan.keys.append((stamp, packet.pos))
        if packet.is_corrupt and stamp is not None:
            self.scan.concealed.append(stamp)
        if self._decoding or not self.scan.times:
            for picture in self._decoder.pictures(packet):
                self._take(picture)
        else:
            self.scan.decoded = False

    def _take(self, picture: Picture) -> None:
        found, frame = self.scan, picture.frame
        found.first = found.first or frame
        self._samples += frame.width * frame.height
        if not same_shape(frame, found.first.width, found.first.height):
            self._misshapen.append((picture.ticks, f"{frame.width}×{frame.height}"))
            return
        found.times.append(picture.stamp if self._counted else picture.ticks)
        found.last_length = frame.duration or 0
        if frame.is_corrupt:
            found.concealed.append(picture.ticks)
        size, samples = f"{frame.width}×{frame.height}", frame.format.name
        self._changed(picture.ticks, "size_changes", size)
        self._changed(picture.ticks, "samples_change", samples)
        self._changed(picture.ticks, "pixel_aspect_changes", str(self.scan.stream.codec_context.sample_aspect_ratio))

    def _changed(self, ticks: int, kind: FindingKind, now: str) -> None:
        """Note that something is not as it was with the picture before."""
        before = self._states.setdefault(kind, now)
        if now != before:
            self._states[kind] = now
            self.scan.changes.append((ticks, Finding(kind=kind, told=now.replace("/", ":"))))

    def _sound(self, packet: Packet[Any]) -> None:
        span, decoder = self._sounds[packet.stream_index]
        if self._decoding or span.start is None:
            _hear(span, decoder, packet)
        elif packet.pts is not None and packet.time_base:
            end = (packet.pts + (packet.duration or 0)) * packet.time_base
            span.end = end if span.end is None else max(span.end, end)

    def _drain(self) -> None:
        """What the decoders still hold."""
        if not self.scan.complete:
            return
        if self.scan.decoded:
            for picture in self._decoder.pictures(None):
                self._take(picture)
        if self._decoding:
            for span, sound in self._sounds.values():
                _hear(span, sound, None)

    def _settle(self) -> None:
        """Sum up; packets stand for pictures that were not decoded."""
        found, decoder = self.scan, self._decoder
        found.sounds = [span for span, _ in self._sounds.values()]
        for span in found.sounds:
            span.end = _heard_until(span, self._source.format)
        found.errors = decoder.errors
        ends_so = bool(self._misshapen and found.times and self._misshapen[-1][0] > found.times[-1])
        if len(self._misshapen) >= FOR_GOOD and (ends_so or not (found.errors or found.concealed)):
            at, size = self._misshapen[0]
            found.changes.append((at, Finding(kind="size_changes", told=size)))
        else:
            found.errors += [at for at, _ in self._misshapen]
        by_presentation = found.shown_by == "presentation"
        late = decoder.late_presentation > decoder.late_decoding
        found.shuffled = by_presentation and (late or self._guessed)
        if not found.times:
            return
        first = found.times[0]
        if by_presentation:
            found.leading = sum(stamp < first for stamp in self._stamps)
        if not found.decoded:
            found.times = array("q", (stamp for stamp in self._stamps if stamp >= first))
            found.last_length = self._last[1]
        elif by_presentation and self._source.format in ONE_EACH and found.stream.codec_context.name in SHOWN:
            # A decoder may leave a picture out without a word.
            lost = {stamp for stamp in self._stamps if stamp > first}.difference(found.times, found.errors)
            found.errors += sorted(lost)
        shown = found.times if self._counted else set(found.times)
        found.times = array("q", sorted(shown))


def _hear(span: SoundSpan, decoder: SoundDecoder, packet: Packet[AudioStream] | None) -> None:
    for piece in decoder.heard(packet):
        span.start = piece.start if span.start is None else min(span.start, piece.start)
        span.end = piece.end if span.end is None else max(span.end, piece.end)
    span.errors = decoder.errors


def _heard_until(span: SoundSpan, container: str) -> Fraction | None:
    """The end of what is heard: an edit list may leave out what only fills the last packet."""
    stream, tick = span.stream, span.stream.time_base
    if span.end is None or container not in EDITED or not stream.duration or not tick:
        return span.end
    return min(span.end, ((stream.start_time or 0) + stream.duration) * tick)
