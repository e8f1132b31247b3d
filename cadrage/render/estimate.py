"""How large a file will be, before it is rendered: some frames are really composed and encoded, and counted."""

import os
from collections.abc import Callable
from contextlib import closing
from fractions import Fraction

import av

from cadrage.output.kinds import SoundName
from cadrage.output.settings import EncoderConfig
from cadrage.render.drawing import Drawing
from cadrage.render.frame_timing import Segment
from cadrage.render.request import RenderRequest
from cadrage.render.sound import STEREO
from cadrage.render.sound_coding import CODINGS, STUDIO_RATE
from cadrage.values import Value

RUNS, RUN = 3, 10  # places in the clip, and frames at each
KEY_FRAMES_APART = 250  # of the players' encoders, unless a scene changes; the others have none but key frames
SAMPLE_BITS: dict[SoundName, int] = {"pcm-16": 16, "pcm-24": 24}


class Estimate(Value):
    """About how large a file will be.

    Attributes:
        bytes: in all.
        measured: whether frames were encoded for it; a rate that was asked for needs none.
    """

    bytes: int
    measured: bool


def stated(request: RenderRequest) -> Estimate | None:
    """The size of a file whose rate was asked for, without composing anything; None where nobody asked for one.

    Raises:
        BadRequest: the settings do not allow the frame.
    """
    rate = request.encoder_config.bits_per_second
    if rate is None:
        return None
    return Estimate(bytes=int(rate * request.wanted.duration / 8 + _sound(request)), measured=False)


def estimate(request: RenderRequest, report: Callable[[float], None] = lambda _: None) -> Estimate:
    """Estimate a file.

    Args:
        request: what is to be written.
        report: is told which fraction of the frames for it is encoded, and may stop that by raising something.

    Raises:
        BadRequest: the settings do not allow the frame. MissingSource, UnreadableFile: the clip cannot be read.
    """
    if (known := stated(request)) is not None:
        return known
    wanted = request.wanted
    keys, others = [], []
    with Drawing(request) as drawing:
        for number in range(RUNS):
            at = wanted.duration * (2 * number + 1) / (2 * RUNS)
            cut = Segment(number, at, at + RUN / wanted.rate)
            first, *rest = _sizes(drawing, cut, _part(report, number))
            keys.append(first)
            others += rest
    key_frames = -(-wanted.frames // KEY_FRAMES_APART)
    mean_other = sum(others) / len(others) if others else 0
    picture = key_frames * sum(keys) / len(keys) + (wanted.frames - key_frames) * mean_other
    return Estimate(bytes=int(picture + _sound(request)), measured=True)


def _part(report: Callable[[float], None], number: int) -> Callable[[float], None]:
    """What is told how far one of the runs is."""
    return lambda share: report((number + share) / RUNS)


def _sizes(drawing: Drawing, cut: Segment, report: Callable[[float], None]) -> list[int]:
    """Bytes of each picture of a cut, the largest first: the key frame."""
    with av.open(os.devnull, "w", format="null") as container:
        stream = drawing.track(container)
        with closing(drawing.encoded(stream, cut)) as coded:
            found = []
            for number, one in enumerate(coded):
                found += [packet.size for packet in one.packets]
                report(min(1.0, (number + 1) / RUN))
    return sorted(found, reverse=True) if found else [0]


def _sound(request: RenderRequest) -> Fraction:
    """Bytes of all sound of a file."""
    writing = request.encoder_config
    bits = sum(_sound_bits(writing, channels.channels) for channels in request.sounds)
    return bits * request.wanted.duration / 8


def _sound_bits(writing: EncoderConfig, channels: int) -> int:
    """Bits a second of one stream of sound."""
    if writing.sound == "none":
        return 0
    if writing.settings.stereo:
        channels = STEREO
    bits = CODINGS[writing.sound_encoded].bits
    return SAMPLE_BITS[writing.sound_encoded] * STUDIO_RATE * channels if bits is None else bits * max(2, channels) // 2
