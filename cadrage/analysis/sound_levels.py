"""How loud a clip's sound is from moment to moment: the peaks that a waveform and a meter show.

Sample peaks of all channels together, in steps of 10 ms; not the loudness of EBU R 128, which needs longer spans.
"""

from fractions import Fraction
from itertools import chain
from math import ceil
from pathlib import Path

import av
import numpy as np
from numpy.typing import NDArray

from cadrage import files
from cadrage.analysis.base import Analysis, Found, NotFound, Outcome, Report, Subject, no_progress
from cadrage.footage import MediaInfo
from cadrage.footage.container import opened
from cadrage.footage.packets import Packets
from cadrage.footage.soundtrack import SoundDecoder, sound_streams
from cadrage.values import Value

FILE = "levels.bin"
RATE = 100
"""Levels a second."""
FLOOR_DECIBELS = 60
"""Decibels below full scale that are level 0."""
HIGHEST = 255
"""The level of full scale; others lie between in equal steps of decibels."""
LONGEST_SECONDS = 24 * 3600

Levels = NDArray[np.uint8]


class SoundLevelsFound(Value):
    """A summary of the levels, which are in a file beside it; see `levels_in`.

    Attributes:
        count: how many there are, from the first picture on.
        highest: the highest of them.
    """

    count: int
    highest: int


class SoundLevelsAnalysis(Analysis[SoundLevelsFound]):
    """The levels of a clip's first sound track; only sound is decoded."""

    kind = "sound_levels"
    slow = True
    background = True
    keeps_files = True
    result = SoundLevelsFound

    def find(self, subject: Subject, report: Report = no_progress) -> Outcome[SoundLevelsFound]:
        """Measure them."""
        if not subject.info.sounds:
            return NotFound("There is no sound in this clip.")
        assert subject.workspace is not None, "it keeps files"
        levels = sound_levels(subject.path, subject.info, report)
        files.write_whole_data(subject.workspace / FILE, levels.tobytes())
        return Found(SoundLevelsFound(count=len(levels), highest=int(levels.max(initial=0))))


def levels_in(folder: Path) -> bytes:
    """The levels that an analysis left in its folder: one byte for each step of 1/`RATE` second."""
    return (folder / FILE).read_bytes()


def sound_levels(path: Path, info: MediaInfo, report: Report = no_progress) -> Levels:
    """The levels of a clip's first sound track, from its first picture to its end.

    Raises:
        MissingSource, UnreadableFile: it cannot be read. Cancelled: `report` said so.
    """
    sound, lasts = info.sounds[0], max(info.duration, Fraction(1, RATE))
    peaks = np.zeros(ceil(min(lasts, Fraction(LONGEST_SECONDS)) * RATE), np.float32)
    with opened(path) as container:
        stream = next(one for one in sound_streams(container) if sound.stream in (None, one.index))
        decoder, first = SoundDecoder(stream), None
        for packet in chain(Packets(container, (stream,)), [None]):
            for piece in decoder.heard(packet):
                first = piece.start if first is None else first
                start = sound.start + piece.start - first
                _add(peaks, piece.frame, start)
                report(min(1.0, max(0.0, float(start / lasts))))
    decibels = 20 * np.log10(np.maximum(peaks, 10 ** (-FLOOR_DECIBELS / 20)))
    return np.asarray(np.clip(np.rint((1 + decibels / FLOOR_DECIBELS) * HIGHEST), 0, HIGHEST), np.uint8)


def _add(peaks: NDArray[np.float32], frame: av.AudioFrame, start: Fraction) -> None:
    """Take in the peaks of a piece of sound that begins at some seconds."""
    samples = _loudest(frame)
    steps = np.floor(float(start * RATE) + np.arange(samples.size) * (RATE / frame.sample_rate) + 1e-6).astype(np.int64)
    inside = (steps >= 0) & (steps < len(peaks))
    np.maximum.at(peaks, steps[inside], samples[inside])


def _loudest(frame: av.AudioFrame) -> NDArray[np.float32]:
    """The largest sample of all channels, 0 to 1, for each moment of a piece of sound."""
    stored = frame.to_ndarray()
    bits = 8 * stored.itemsize
    samples = stored if frame.format.is_planar else stored.reshape(-1, frame.layout.nb_channels).T
    scaled = samples.astype(np.float32)
    if stored.dtype.kind == "u":
        scaled = scaled / 2 ** (bits - 1) - 1
    elif stored.dtype.kind == "i":
        scaled = scaled / 2 ** (bits - 1)
    return np.asarray(np.abs(scaled).max(axis=0), np.float32)
