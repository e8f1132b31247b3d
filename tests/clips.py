"""Small clips made for tests."""

from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import av
import numpy as np

SOUND_RATE = 48_000
Painter = Callable[[int], np.ndarray]


def moving_square(width: int, height: int) -> Painter:
    """A light square that moves over a gradient; every frame differs from its neighbours."""

    def paint(number: int) -> np.ndarray:
        image = np.empty((height, width, 3), np.uint8)
        image[..., 0] = np.linspace(30, 200, width).astype(np.uint8)
        image[..., 1] = np.linspace(60, 160, height).astype(np.uint8)[:, None]
        image[..., 2] = 90
        side = max(4, height // 6)
        left = (number * 5) % max(1, width - side)
        image[height // 3 : height // 3 + side, left : left + side] = (240, 230, 60)
        return image

    return paint


def write_clip(
    path: Path,
    *,
    size: tuple[int, int] = (320, 180),
    frames: int = 25,
    rate: Fraction = Fraction(25),
    paint: Painter | None = None,
    codec: str = "libx264",
    pixel_format: str = "yuv420p",
    pixel_aspect: Fraction = Fraction(1),
    rotation: int = 0,
    sound: str | None = "aac",
    stamps: list[int] | None = None,
    tags: tuple[int, int, int] | None = None,
    full_range: bool = False,
    options: dict[str, str] | None = None,
) -> Path:
    """Write a clip; `stamps` are time stamps in thousandths of a second for rates that vary."""
    paint = paint or moving_square(*size)
    lossless = {"crf": "0", "g": "10", "preset": "superfast"} if codec == "libx264" else {}
    with av.open(str(path), "w") as container:
        stream = container.add_stream(codec, rate=rate, options=lossless if options is None else options)
        context = stream.codec_context
        context.width, context.height, context.pix_fmt = *size, pixel_format
        context.sample_aspect_ratio = pixel_aspect
        if tags:
            context.colorspace, context.color_primaries, context.color_trc = tags
        context.color_range = 2 if full_range else 1
        if stamps:
            context.time_base = Fraction(1, 1000)
        if rotation:
            stream.set_display_rotation(-rotation)
        track = container.add_stream(sound, rate=SOUND_RATE, layout="mono") if sound else None
        matrix = 5 if tags and tags[0] in (5, 6) else 1
        for number in range(frames):
            frame = av.VideoFrame.from_ndarray(paint(number), "rgb24").reformat(
                format=pixel_format, dst_colorspace=matrix, dst_color_range=2 if full_range else 1
            )
            frame.pts, frame.time_base = (stamps[number], Fraction(1, 1000)) if stamps else (number, 1 / rate)
            container.mux(stream.encode(frame))
        container.mux(stream.encode(None))
        if track:
            _write_tone(container, track, frames / rate)
    return path


def _write_tone(container: av.container.OutputContainer, track: av.AudioStream, seconds: Fraction) -> None:
    samples = (0.2 * np.sin(np.arange(round(seconds * SOUND_RATE)) * 0.05)).astype(np.float32)
    layout = track.codec_context.format.name
    piece = 1024
    for start in range(0, len(samples), piece):
        part = samples[None, start : start + piece]
        if layout.startswith("s16"):
            part = (part * 32767).astype(np.int16)
        if layout.startswith("s32"):
            part = (part * (2**31 - 1)).astype(np.int32)
        frame = av.AudioFrame.from_ndarray(part, layout, "mono")
        frame.sample_rate, frame.pts, frame.time_base = SOUND_RATE, start, Fraction(1, SOUND_RATE)
        container.mux(track.encode(frame))
    container.mux(track.encode(None))
