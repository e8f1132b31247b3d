"""Sound put where it belongs: one unbroken line of samples from pieces that may overlap or leave gaps."""

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from typing import Any, Self

import av
import numpy as np

from cadrage.footage.soundtrack import Heard
from cadrage.render.frame_timing import FrameTiming

JUMP = Fraction(1, 200)
"""Seconds by which a piece may be off where the one before it ended before that is a gap, or sound that is there twice.
Clocks of containers round off half a millisecond; the shortest frames of codecs last 2.5 (Opus, RFC 6716)."""
DRIFT = Fraction(1, 25)
"""Seconds by which time stamps may run away from counted samples, little by little, before that is mended."""
SILENCE = 4096  # samples that are made at a time


@dataclass(frozen=True, slots=True)
class AudioTrim:
    """The part of a clip's sound that is delivered.

    Attributes:
        start: of what is delivered, in the clip's own time stamps, in seconds.
        end: in the same; None is the clip's end.
        speed: seconds of the clip in one delivered second.
        length: seconds of the clip that its pictures are delivered of.
        longest: seconds that silence may last; more than that is a time stamp that is wrong.
    """

    start: Fraction
    end: Fraction | None = None
    speed: Fraction = Fraction(1)
    length: Fraction = Fraction(1)
    longest: Fraction = Fraction(3600)

    @classmethod
    def of(cls, timing: FrameTiming, picture_start: Fraction, own: Fraction) -> Self:
        """What is delivered of a clip whose pictures last `own` seconds; of all of a clip, its sound to the end."""
        length = timing.info.duration * timing.speed
        end = None if timing.start + length >= own else picture_start + timing.start + length
        return cls(picture_start + timing.start, end, timing.speed, length, max(own, Fraction(1)))

    def whole_from(self, picture_start: Fraction) -> bool:
        """Whether nothing is cut off or drawn out."""
        return self.start == picture_start and self.end is None and self.speed == 1


class SoundPlacer:
    """Makes one line of samples of pieces of sound.

    What lies before the start or behind the end is cut off, what is there twice is left out, and where nothing is there
    is silence: before sound that begins late, too, so that players that know no late start are right as well. Time runs
    by the count of samples; time stamps count where they jump.

    Args:
        rate, layout, sample_format: of what comes out; its channels are interleaved.
        trim: what is delivered.
        steady: whether the source's time stamps are too rough to show a gap, as those of AVI.

    Attributes:
        position: samples from the start at which the next piece comes.
    """

    def __init__(
        self,
        rate: int,
        layout: str,
        sample_format: str,
        trim: AudioTrim,
        *,
        steady: bool,
    ) -> None:
        self._rate, self._layout, self._format, self._trim = rate, layout, sample_format, trim
        self._steady = steady
        self._end = None if trim.end is None else round((trim.end - trim.start) * rate)
        self.position = 0
        self._resampler: av.AudioResampler | None = None
        self._like: tuple[object, ...] = ()
        self._run_start, self._run_length = Fraction(0), Fraction(0)  # seconds, of pieces that follow one another
        self._before = Fraction(0)
        self._coming = 0  # the position of what the resampler gives next

    def place(self, piece: Heard) -> Iterator[av.AudioFrame]:
        """What comes out for a piece; times are samples from the start."""
        like = (piece.frame.format.name, piece.frame.layout.name, piece.frame.sample_rate)
        if self._resampler is None or like != self._like or self._jumps(piece.start):
            yield from self._flushed()
            self._begin(piece.start, like)
        self._run_length += piece.end - piece.start
        self._before = piece.end
        piece.frame.pts = None
        assert self._resampler is not None
        for frame in self._resampler.resample(piece.frame):
            yield from self._put(frame)

    def finish(self) -> Iterator[av.AudioFrame]:
        """What is still held back; silence throughout where there was nothing."""
        yield from self._flushed()
        if not self.position:
            self._end = None
            yield from self._silence(max(1, round(self._trim.length * self._rate)))

    def _jumps(self, start: Fraction) -> bool:
        if self._steady:
            return False
        jump = abs(start - self._before)
        if jump > self._trim.longest:
            return False
        return jump > JUMP or abs(start - self._run_start - self._run_length) > DRIFT

    def _begin(self, start: Fraction, like: tuple[object, ...]) -> None:
        self._like = like
        self._run_start, self._run_length = start, Fraction(0)
        self._resampler = av.AudioResampler(format=self._format, layout=self._layout, rate=self._rate)
        late = start - self._trim.start
        if late > self._trim.longest:
            late = Fraction(self.position, self._rate)
        self._coming = round(late * self._rate)

    def _flushed(self) -> Iterator[av.AudioFrame]:
        if self._resampler is not None:
            for frame in self._resampler.resample(None):
                yield from self._put(frame)
        self._resampler = None

    def _put(self, frame: av.AudioFrame) -> Iterator[av.AudioFrame]:
        begins, ends = self._coming, self._coming + frame.samples
        self._coming = ends
        yield from self._silence(begins)
        since = max(begins, self.position)
        until = ends if self._end is None else min(ends, self._end)
        if until <= since:
            return
        yield self._stamped(_part(frame, since - begins, until - begins), since)

    def _silence(self, until: int) -> Iterator[av.AudioFrame]:
        """Silence from where the last piece ended."""
        until = until if self._end is None else min(until, self._end)
        while self.position < until:
            count = min(SILENCE, until - self.position)
            yield self._stamped(_quiet(count, self._format, self._layout, self._rate), self.position)

    def _stamped(self, frame: av.AudioFrame, position: int) -> av.AudioFrame:
        frame.pts, frame.time_base = position, Fraction(1, self._rate)
        self.position = position + frame.samples
        return frame


def _part(frame: av.AudioFrame, since: int, until: int) -> av.AudioFrame:
    """Some samples of a frame whose channels are interleaved; itself where that is all of them."""
    if since == 0 and until == frame.samples:
        return frame
    each = frame.layout.nb_channels
    samples: Any = np.ascontiguousarray(frame.to_ndarray()[:, since * each : until * each])
    part = av.AudioFrame.from_ndarray(samples, frame.format.name, frame.layout.name)
    part.sample_rate = frame.sample_rate
    return part


def _quiet(count: int, sample_format: str, layout: str, rate: int) -> av.AudioFrame:
    frame = av.AudioFrame(sample_format, layout, count)
    frame.planes[0].update(bytes(frame.planes[0].buffer_size))
    frame.sample_rate = rate
    return frame
