"""How large a file will be, before it is rendered: some frames are really composed and encoded, and counted."""

import os
from pathlib import Path

import av

from cadrage.compose import Compositor
from cadrage.footage import EMPTY, DecodedFrame, Facts, Library, open_footage
from cadrage.plan import Plan
from cadrage.render.encoder import blank, picture_track, tick_of
from cadrage.render.job import composed_for, plan_written
from cadrage.render.kinds import SoundName
from cadrage.render.pace import delivered
from cadrage.render.settings import Settings, Writing, writing_of
from cadrage.render.sound import CODINGS, STEREO, STUDIO_RATE
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


def estimate(plan: Plan, source: Path, facts: Facts, settings: Settings, library: Library = EMPTY) -> Estimate:
    """Estimate a file.

    Raises:
        BadRequest: the settings do not allow the frame. MissingSource, UnreadableFile: the clip cannot be read.
    """
    plan = plan_written(plan, facts, settings)
    writing, wanted = writing_of(settings, plan.frame), delivered(plan, facts)
    sound = sum(_sound_bits(settings, channels.channels) for channels in facts.sounds) * wanted.duration / 8
    if writing.bits_per_second is not None:
        return Estimate(bytes=int(writing.bits_per_second * wanted.duration / 8 + sound), measured=False)
    keys, others = [], []
    with open_footage(source, facts, plan.interpretation) as reader:
        for number in range(RUNS):
            at = wanted.duration * (2 * number + 1) / (2 * RUNS)
            pictures = [reader.frame_at(at + step / wanted.rate) for step in range(RUN)]
            first, *rest = _sizes(plan, facts, writing, library, pictures)
            keys.append(first)
            others += rest
    key_frames = -(-wanted.frames // KEY_FRAMES_APART)
    mean_other = sum(others) / len(others) if others else 0
    picture = key_frames * sum(keys) / len(keys) + (wanted.frames - key_frames) * mean_other
    return Estimate(bytes=int(picture + sound), measured=True)


def _sizes(plan: Plan, facts: Facts, writing: Writing, library: Library, pictures: list[DecodedFrame]) -> list[int]:
    """Bytes of each picture, encoded in a row."""
    wanted = _evenly(delivered(plan, facts))
    compositor: Compositor = composed_for(writing, plan, pictures[0].planes.layout, facts, library)
    tick, found = tick_of(wanted), []
    with av.open(os.devnull, "w", format="null") as container:
        stream = picture_track(container, plan, compositor.layout, wanted, writing)
        for number, picture in enumerate(pictures):
            frame, canvas = blank(compositor.layout, number * tick, tick, writing)
            compositor.compose(picture.planes, canvas, picture.time)
            found += [packet.size for packet in stream.encode(frame)]
        found += [packet.size for packet in stream.encode(None)]
    return sorted(found, reverse=True) if found else [0]


def _evenly(facts: Facts) -> Facts:
    """The same with frames that last equally long, as a row of them needs."""
    return facts.model_copy(update={"rate_varies": False})


def _sound_bits(settings: Settings, channels: int) -> int:
    """Bits a second of one stream of sound."""
    if settings.sound == "none":
        return 0
    if settings.stereo:
        channels = len(STEREO)
    bits = CODINGS[settings.sound].bits
    return SAMPLE_BITS[settings.sound] * STUDIO_RATE * channels if bits is None else bits * max(2, channels) // 2
