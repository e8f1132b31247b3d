"""Whether the sound of a file is that of its clip: where it lies and how loud it is, at some places."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import chain
from pathlib import Path

import av
import numpy as np
from av.audio.stream import AudioStream
from numpy.typing import NDArray

from cadrage.footage import MediaInfo, SoundInfo, effective_timing
from cadrage.footage.container import opened
from cadrage.footage.packets import Packets
from cadrage.footage.soundtrack import SoundDecoder, sound_streams
from cadrage.inspection.report import Line, line
from cadrage.render.levelling import LineSource
from cadrage.render.mixing import Mix
from cadrage.render.request import RenderRequest
from cadrage.render.sound_line import SoundLine
from cadrage.render.sound_placing import AudioTrim
from cadrage.render.sound_reading import SoundReading
from cadrage.render.sound_tracks import ROUGH, is_rough, mix_for
from cadrage.render.written_tracks import WrittenTrack

RATE = 48_000
"""Samples a second that are compared, of all channels together: fewer would leave out what lies high, and compare only
what coding added."""
PLACES = 8
WINDOW, REACH = 1.0, 0.75  # seconds that are compared, and by which they may be off
FAINT = 1e-3  # of the most energy of any place
SILENT = 1e-4  # root mean square below which nothing is heard
QUIET_SHARE = 0.03  # of the loudest place's: below it, coding may make other noise of what masks itself
CREST = round(0.0005 * RATE)  # samples each way in which the top of a crest is looked for
AS_GOOD = 0.97  # of the best likeness: of several so good, as in tones, the nearest counts
NEAR_SECONDS, NEAR_DECIBELS = 0.002, 1.5  # by which it may come early or late, and be louder or softer
LEAST_LIKENESS = 0.5  # below it, sounds are not taken for the same

Samples = NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class Heard:
    """How sound differs.

    Attributes:
        late: seconds by which it comes too late at the worst place; negative where too early.
        decibels: by which it is louder, on the whole.
        like: whether it is the same sound at all.
    """

    late: float
    decibels: float
    like: bool


def compared(asked: Iterable[av.AudioFrame], found: Iterable[av.AudioFrame], seconds: float) -> Heard | None:
    """Compare two lines of sound that both begin with the picture; None where there is nothing to be heard.

    Args:
        asked: what should be there.
        found: what is.
        seconds: how long the picture lasts.
    """
    starts = [max(0.0, seconds - WINDOW) * place / max(1, PLACES - 1) for place in range(PLACES)]
    wanted = _pieces(asked, [(start, start + WINDOW) for start in starts])
    given = _pieces(found, [(start - REACH, start + WINDOW + REACH) for start in starts])
    late, loud, like = [], [], []
    levels = [float(np.sqrt((one**2).mean())) for one in wanted]
    least = max(SILENT, QUIET_SHARE * max(levels))
    for one, other, level in zip(wanted, given, levels, strict=True):
        if level < least:
            continue
        lag, likeness = _lag(one, other)
        late.append(lag)
        like.append(likeness)
        start = round((REACH + lag) * RATE)
        loud.append(float((other[start : start + len(one)] ** 2).sum() / (one**2).sum()))
    if not late:
        return None
    worst = max(late, key=abs)
    return Heard(worst, 10 * float(np.log10(max(1e-9, np.median(loud)))), min(like) >= LEAST_LIKENESS)


def _lag(one: Samples, other: Samples) -> tuple[float, float]:
    """Seconds by which a piece comes later in a longer one than in its middle, and how like they are there, 0 to 1."""
    size = 1 << (len(other) + len(one)).bit_length()
    product = np.fft.rfft(other, size) * np.conj(np.fft.rfft(one, size))
    likeness = np.fft.irfft(product, size)[: len(other) - len(one) + 1]
    sums = np.concatenate([[0.0], np.cumsum(other.astype(np.float64) ** 2)])
    energy = sums[len(one) :] - sums[: len(other) - len(one) + 1]
    energy = np.maximum(energy, max(1e-9, FAINT * float(energy.max())))  # next to nothing is like anything
    likeness /= np.sqrt(energy * float((one.astype(np.float64) ** 2).sum()))
    good = np.flatnonzero(likeness >= AS_GOOD * likeness.max())
    middle = round(REACH * RATE)
    nearest = good[np.abs(good - middle).argmin()]
    # Of a broad crest the top counts.
    around = likeness[max(0, nearest - CREST) : nearest + CREST + 1]
    at = max(0, nearest - CREST) + int(around.argmax())
    return (at - middle) / RATE, float(likeness.max())


def _pieces(frames: Iterable[av.AudioFrame], spans: list[tuple[float, float]]) -> list[Samples]:
    """Some spans of seconds of a line of sound, all channels together; silence before its start and behind its end."""
    pieces = [np.zeros(round((end - start) * RATE), np.float32) for start, end in spans]
    firsts = [round(start * RATE) for start, _ in spans]
    position = 0
    resampler = av.AudioResampler(format="flt", layout="mono", rate=RATE)
    for frame in chain(frames, (None,)):
        if frame is not None:
            frame.pts = None
        for made in resampler.resample(frame):
            sound = made.to_ndarray()[0]
            for piece, first in zip(pieces, firsts, strict=True):
                low, high = max(first, position), min(first + len(piece), position + len(sound))
                if low < high:
                    piece[low - first : high - first] = sound[low - position : high - position]
            position += len(sound)
    return pieces


def heard_lines(path: Path, found: MediaInfo, request: RenderRequest) -> Iterator[Line]:
    """Compare every track of a file with what should be in it; not where it runs at another speed.

    Raises:
        MissingSource, UnreadableFile: one of them cannot be read.
    """
    if request.timing.speed != 1:
        return
    seconds = float(request.wanted.duration)
    for asked, made in zip(request.tracks, found.sounds, strict=False):
        heard = compared(_asked(request, asked), _found(path, made, steady=found.demuxer in ROUGH), seconds)
        if heard is None:
            continue
        louder = request.settings.loudness is None and abs(heard.decibels) > NEAR_DECIBELS
        right = heard.like and abs(heard.late) <= NEAR_SECONDS and not louder
        told = f"{1000 * heard.late:+.1f} ms, {heard.decibels:+.1f} dB" if heard.like else "another sound"
        yield line(
            "Sound sync and level", "in sync, same level", told, right, "Render again; sound is not where it was."
        )


def _asked(request: RenderRequest, track: WrittenTrack) -> Iterator[av.AudioFrame]:
    """The sound of a clip as it should be in the file."""
    member = track.members[0]
    first = _first(request.source, member)
    if first is None:
        return iter(())
    picture = first - member.start
    trim = AudioTrim.of(request.timing, picture, effective_timing(request.info, request.interpretation).duration)

    def read() -> SoundReading:
        return SoundReading(request, trim, picture)

    def mix(streams: Sequence[AudioStream]) -> Mix:
        return mix_for(streams, request)

    numbers = tuple(one.stream for one in track.members if one.stream is not None)
    return LineSource(numbers or None, read, mix, trim, is_rough(request)).frames()


def _found(path: Path, info: SoundInfo, *, steady: bool) -> Iterator[av.AudioFrame]:
    """The sound of a file from its first picture on, as a player lets it be heard."""
    first = _first(path, info)
    if first is None:
        return
    with opened(path) as container:
        stream = next(one for one in sound_streams(container) if info.stream in (None, one.index))
        own = Mix(stream.codec_context.layout.name)
        made = SoundLine((stream,), stream.rate, "flt", own, AudioTrim(first - info.start), steady=steady)
        for packet in Packets(container, (stream,)):
            yield from made.take(packet)
        yield from made.finish()


def _first(path: Path, info: SoundInfo) -> Fraction | None:
    """When the first sound of a track is heard, on the clock of its file; None where nothing is."""
    with opened(path) as container:
        stream = next(one for one in sound_streams(container) if info.stream in (None, one.index))
        decoder = SoundDecoder(stream)
        for packet in Packets(container, (stream,)):
            for piece in decoder.heard(packet):
                return piece.start
    return None
