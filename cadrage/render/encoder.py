"""Writing pictures into a file."""

import os
from dataclasses import dataclass, replace
from fractions import Fraction
from pathlib import Path
from typing import Literal, cast

import numpy as np
from av.container import OutputContainer
from av.video.frame import VideoFrame
from av.video.stream import VideoStream
from numpy.typing import NDArray

from cadrage.footage import MediaInfo
from cadrage.footage.unpack import canvas
from cadrage.output.rate_control import joined
from cadrage.output.settings import EncoderConfig
from cadrage.output.weaving import CODES, field_options
from cadrage.pixels.colour import UNSPECIFIED, Colour
from cadrage.pixels.planes import Layout, Planes
from cadrage.pixels.rgb import SWSCALE_MATRIX
from cadrage.plan import Plan
from cadrage.render.light_metadata import light_options
from cadrage.render.scheduling import scheduled_as_before

os.environ.setdefault("SVT_LOG", "1")  # that encoder reports every setting on the console unless told to keep to errors

BT470_BG = 5  # ITU-T H.273, table 4: BT.601 for 625 lines, what readers take JFIF for
BT709 = 1  # ITU-T H.273, tables 2 and 3
LIMITED_RANGE, FULL_RANGE = 1, 2  # libavutil's AVColorRange for "MPEG" and "JPEG"
HEVC_FOR_PLAYERS = "hvc1"  # ISO/IEC 14496-15: parameter sets in the header, which players insist on
MOTION_JPEG = Colour("bt601", full_range=True, primaries=BT709)  # JFIF 1.02; an AVI has no place to say so


def stored_colour(writing: EncoderConfig, colour: Colour) -> Colour:
    """What samples must mean in a kind of file: the frame's own, or the one colour that the kind knows."""
    if writing.kind.encoder == "mjpeg":
        return MOTION_JPEG
    # What shows stills takes them for sRGB, which has these primaries (IEC 61966-2-1).
    return replace(colour, primaries=BT709, transfer=BT709) if writing.kind.folder else colour


@dataclass(frozen=True, slots=True)
class Share:
    """What one part of a clip is given of the rate that was asked for.

    Attributes:
        pass_number: 1 while the clip is measured, 2 when it is written by what was found.
        stats: the file of the encoder's own statistics.
        rate: bits a second of this part; None while it is measured.
    """

    pass_number: Literal[1, 2]
    stats: Path
    rate: int | None = None


def picture_track(
    target: OutputContainer,
    plan: Plan,
    layout: Layout,
    info: MediaInfo,
    writing: EncoderConfig,
    share: Share | None = None,
) -> VideoStream:
    """Add the picture to a file: the frame's size and pixel shape, the rate delivered, the colour it has."""
    kind, rate, options = writing.kind, writing.bits_per_second, writing.options
    if share is not None:
        rate, options = share.rate, joined(options, _passing(writing, share))
    options = joined(options, light_options(plan, info, kind))
    fields = plan.frame.fields
    if fields != "progressive":
        options = joined(options, field_options(kind.encoder, fields))
    stream = cast("VideoStream", target.add_stream(kind.encoder, rate=info.rate, options=options))
    context = stream.codec_context
    context.thread_type = "AUTO"  # several frames at once, which slices of one would do worse and slower
    context.width, context.height, context.pix_fmt = layout.width, layout.height, writing.format.name
    context.sample_aspect_ratio = plan.frame.pixel_aspect
    context.colorspace = layout.colour.matrix_code
    context.color_primaries = layout.colour.primaries
    context.color_trc = layout.colour.transfer
    context.color_range = FULL_RANGE if writing.kind.folder else _range(layout)
    if fields != "progressive":
        context.field_order = CODES[fields]
    if writing.format.alpha and kind.muxer == "webm":
        stream.metadata["alpha_mode"] = "1"
    if rate is not None:
        context.bit_rate = rate
    if kind.encoder == "libx265" and kind.muxer in ("mp4", "mov"):
        context.codec_tag = HEVC_FOR_PLAYERS
    context.time_base = tick_of(info)
    stream.time_base = context.time_base
    with scheduled_as_before():
        context.open()
    return stream


def _passing(writing: EncoderConfig, share: Share) -> dict[str, str]:
    """Options of an encoder that goes through a clip twice. Measuring is done at constant quality."""
    options: dict[str, str] = {}
    if share.pass_number == 1:
        options["crf"] = writing.kind.quality["high"]["crf"]
    if writing.kind.encoder == "libx265":
        stats = str(share.stats).replace("\\", "\\\\").replace(":", "\\:")
        return options | {"x265-params": f"pass={share.pass_number}:stats={stats}"}
    return options | {"flags": f"+pass{share.pass_number}", "stats": str(share.stats)}


def tick_of(info: MediaInfo) -> Fraction:
    """The clock that pictures are stamped with: one frame, or a fine one where frames last unequally long."""
    return Fraction(1, 90_000) if info.rate_varies else 1 / info.rate


def blank(layout: Layout, time: Fraction, tick: Fraction, writing: EncoderConfig) -> tuple[VideoFrame, Planes]:
    """A frame to draw on, stamped, and the planes that are its memory."""
    frame, planes = on_frame(layout, writing.format.drawn)
    frame.pts, frame.time_base = round(time / tick), tick
    return frame, planes


def on_frame(layout: Layout, name: str) -> tuple[VideoFrame, Planes]:
    """A frame to draw on, of a named pixel format, and the planes that are its memory."""
    frame = VideoFrame(layout.width, layout.height, name)
    frame.colorspace = layout.colour.matrix_code
    frame.color_range = _range(layout)
    # Some encoders write what a frame says, not what was said of the stream.
    frame.color_primaries, frame.color_trc = layout.colour.primaries, layout.colour.transfer
    return frame, canvas(frame, layout)


def cover(frame: VideoFrame, coverage: NDArray[np.float32], depth: int) -> None:
    """Write how much the picture covers, 0 to 1, into the fourth plane of a frame."""
    plane = frame.planes[3]
    top = 2**depth - 1
    memory = np.frombuffer(plane, np.uint8 if depth == 8 else np.uint16)  # type: ignore[call-overload]
    rows, columns = coverage.shape
    stride = plane.line_size // memory.itemsize
    memory[: rows * stride].reshape(rows, stride)[:, :columns] = np.rint(coverage * top)


def as_stored(frame: VideoFrame, layout: Layout, writing: EncoderConfig) -> VideoFrame:
    """A composed frame in the samples that a file holds: itself, or turned into R'G'B' of the full range."""
    if writing.format.drawn == writing.format.name:
        return frame
    stored = frame.reformat(
        format=writing.format.name,
        src_colorspace=SWSCALE_MATRIX[layout.colour.matrix],
        src_color_range=LIMITED_RANGE,
        dst_color_range=FULL_RANGE,
    )
    stored.pts, stored.time_base = frame.pts, frame.time_base
    return stored


def _range(layout: Layout) -> int:
    return FULL_RANGE if layout.colour.full_range else LIMITED_RANGE


def tagged(colour: Colour, writing: EncoderConfig) -> Colour:
    """What a reader finds in the file: of an AVI, only what motion JPEG always means."""
    if writing.kind.muxer != "avi":
        return colour
    return replace(colour, matrix_code=BT470_BG, primaries=UNSPECIFIED, transfer=UNSPECIFIED)
