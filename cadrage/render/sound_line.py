"""One track of sound from packets to an unbroken line of samples: decoded, placed, joined, mixed, and peaks limited."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from itertools import chain
from math import log10

import av
import numpy as np
from av.audio.stream import AudioStream
from av.packet import Packet

from cadrage.footage.container import LAYOUTS
from cadrage.footage.soundtrack import SoundDecoder
from cadrage.render.mixing import Mix
from cadrage.render.peaks import PEAK_DECIBELS, PeakLimiter, Sound
from cadrage.render.sound_placing import AudioTrim, SoundPlacer


@dataclass(frozen=True, slots=True)
class Level:
    """How loud sound is written.

    Attributes:
        gain: what samples are multiplied with.
        ceiling: dBTP that its true peak is held under, where samples are changed at all.
    """

    gain: float = 1.0
    ceiling: float = PEAK_DECIBELS

    @property
    def decibels(self) -> float:
        """The gain in decibels."""
        return 20 * log10(self.gain)


@dataclass(slots=True)
class _Member:
    """One of the streams that a line is made of, with samples that wait for those of the others."""

    decoder: SoundDecoder
    placer: SoundPlacer
    waiting: list[Sound] = field(default_factory=list)

    @property
    def samples(self) -> int:
        return sum(map(len, self.waiting))

    def taken(self, count: int) -> Sound:
        """The next samples, of which there are so many, or silence behind the last."""
        line = np.concatenate([*self.waiting, np.zeros(max(0, count - self.samples), np.float32)])
        self.waiting = [line[count:]]
        return line[:count].astype(np.float32, copy=False)


class SoundLine:
    """The line of one track.

    Args:
        streams: it is decoded from: one, or several mono ones that become its channels.
        rate: samples a second of what comes out.
        sample_format: of the same, its channels interleaved; where anything is computed, that is done in float.
        mix: what becomes of its channels.
        trim: the part that is delivered.
        level: how loud it comes out.
        steady: whether the source's time stamps are too rough to show a gap.

    Attributes:
        sample_format: of what comes out.
    """

    def __init__(
        self,
        streams: Sequence[AudioStream],
        rate: int,
        sample_format: str,
        mix: Mix,
        trim: AudioTrim,
        *,
        level: Level | None = None,
        steady: bool = False,
    ) -> None:
        self._rate, self._mix, self._level = rate, mix, level or Level()
        changed = mix.matrix is not None or self._level.gain != 1
        self.sample_format = "flt" if changed or len(streams) > 1 else sample_format
        own = streams[0].codec_context.layout.name if len(streams) == 1 else LAYOUTS[len(streams)]
        layout = mix.layout if mix.matrix is None else own
        each = layout if len(streams) == 1 else "mono"
        self._members = {
            stream.index: _Member(
                SoundDecoder(stream), SoundPlacer(rate, each, self.sample_format, trim, steady=steady)
            )
            for stream in streams
        }
        self._layout, self._channels = layout, av.AudioLayout(layout).nb_channels
        self._limiter: PeakLimiter | None = None
        if changed:
            self._limiter = PeakLimiter(rate, av.AudioLayout(mix.layout).nb_channels, self._level.ceiling)

    def take(self, packet: Packet[AudioStream]) -> Iterator[av.AudioFrame]:
        """What comes out for a packet of one of the streams; nothing for any other."""
        member = self._members.get(packet.stream_index)
        return iter(()) if member is None else self._decoded(member, packet)

    def finish(self) -> Iterator[av.AudioFrame]:
        """All that is still held."""
        for member in self._members.values():
            yield from self._decoded(member, None)
            for frame in member.placer.finish():
                yield from self._placed(member, frame)
        yield from self._joined(max(member.samples for member in self._members.values()))
        if self._limiter is not None:
            yield from self._framed(self._limiter.finish(), self._mix.layout)

    def _decoded(self, member: _Member, packet: Packet[AudioStream] | None) -> Iterator[av.AudioFrame]:
        placed = (frame for piece in member.decoder.heard(packet) for frame in member.placer.place(piece))
        return chain.from_iterable(self._placed(member, frame) for frame in placed)

    def _placed(self, member: _Member, frame: av.AudioFrame) -> Iterator[av.AudioFrame]:
        if len(self._members) == 1:
            yield from self._mixed(frame)
            return
        member.waiting.append(frame.to_ndarray().reshape(-1).astype(np.float32))
        yield from self._joined(min(one.samples for one in self._members.values()))

    def _joined(self, count: int) -> Iterator[av.AudioFrame]:
        """So many samples of every member, as channels of one frame."""
        if count:
            sound = np.stack([member.taken(count) for member in self._members.values()], axis=1)
            for frame in self._framed(sound, self._layout):
                yield from self._mixed(frame)

    def _mixed(self, frame: av.AudioFrame) -> Iterator[av.AudioFrame]:
        if self._limiter is None:
            yield frame
            return
        sound = frame.to_ndarray().reshape(-1, self._channels)
        mixed = sound if self._mix.matrix is None else sound @ self._mix.matrix.T
        loud = (mixed * np.float32(self._level.gain)).astype(np.float32, copy=False)
        yield from self._framed(self._limiter.take(loud), self._mix.layout)

    def _framed(self, sound: Sound, layout: str) -> Iterator[av.AudioFrame]:
        if not len(sound):
            return
        made = av.AudioFrame.from_ndarray(np.ascontiguousarray(sound.reshape(1, -1)), "flt", layout)
        made.sample_rate = self._rate
        yield made
