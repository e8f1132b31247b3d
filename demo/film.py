"""Writing drawn pictures and sound as a clip, with every flag a real one carries."""

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Literal

import av
import numpy as np
from numpy.typing import NDArray

from demo.pen import Image
from demo.sound import RATE

AAC_FRAME = 1024


@dataclass(frozen=True, slots=True)
class Film:
    """How a clip is stored.

    Attributes:
        width, height: stored pixels.
        rate: frames a second.
        seconds: how long, a whole number of frames.
        pixel_aspect: width of a pixel over its height.
        rotation: degrees clockwise by which a player must turn it, as a flag.
        colour: ITU-T H.273 code for matrix, primaries and transfer: 1 is BT.709, 5 and 6 the 625- and the 525-line
            BT.601.
        fields: whether pictures are pairs of fields, the upper one first.
    """

    width: int
    height: int
    rate: Fraction
    seconds: int
    pixel_aspect: Fraction = Fraction(1)
    rotation: int = 0
    colour: int = 1
    fields: Literal["", "upper_first"] = ""

    @property
    def frames(self) -> int:
        """Number of pictures: as many as begin before the end."""
        return int(self.seconds * self.rate)


def write(film: Film, path: Path, pictures: Iterator[Image], sound: NDArray[np.float32]) -> None:
    """Write a clip; it appears under its name only when it is complete."""
    part = path.with_name(f".{path.name}.part")
    with av.open(str(part), "w", format="mp4", options={"movflags": "+faststart"}) as container:
        interlaced = {"x264-params": "tff=1"} if film.fields else {}
        options = {"crf": "17", "preset": "veryfast", **interlaced}
        picture = container.add_stream("libx264", rate=film.rate, options=options)
        context = picture.codec_context
        context.width, context.height, context.pix_fmt = film.width, film.height, "yuv420p"
        context.sample_aspect_ratio = film.pixel_aspect
        context.gop_size = round(film.rate)
        context.colorspace = film.colour
        context.color_primaries = film.colour
        context.color_trc = 1 if film.colour == 1 else 6
        context.color_range = 1
        if film.rotation:
            picture.set_display_rotation(-film.rotation)
        track = container.add_stream("aac", rate=RATE, layout="mono")
        beats = _sound_frames(sound)
        written = 0
        for number, image in enumerate(pictures):
            frame = av.VideoFrame.from_ndarray(image, "rgb24").reformat(
                format="yuv420p",
                dst_colorspace=1 if film.colour == 1 else 5,
                dst_color_range=1,
            )
            frame.pts, frame.time_base = number, 1 / film.rate
            container.mux(picture.encode(frame))
            while written < (number + 1) / film.rate * RATE and (beat := next(beats, None)):
                container.mux(track.encode(beat))
                written += beat.samples
        container.mux(picture.encode(None))
        container.mux(track.encode(None))
    part.replace(path)


def _sound_frames(sound: NDArray[np.float32]) -> Iterator[av.AudioFrame]:
    for start in range(0, len(sound), AAC_FRAME):
        frame = av.AudioFrame.from_ndarray(sound[None, start : start + AAC_FRAME], "fltp", "mono")
        frame.sample_rate, frame.pts, frame.time_base = RATE, start, Fraction(1, RATE)
        yield frame
