"""Writing pictures into a file."""

import os
from dataclasses import replace
from fractions import Fraction
from typing import cast

from av.container import OutputContainer
from av.video.frame import VideoFrame
from av.video.stream import VideoStream

from cadrage.footage import Facts
from cadrage.footage.unpack import canvas
from cadrage.pixels.colour import UNSPECIFIED, Colour
from cadrage.pixels.planes import Layout, Planes
from cadrage.plan import Plan
from cadrage.render.settings import Writing

os.environ.setdefault("SVT_LOG", "1")  # that encoder reports every setting on the console unless told to keep to errors

BT470_BG = 5  # ITU-T H.273, table 4: BT.601 for 625 lines, what readers take JFIF for
LIMITED_RANGE, FULL_RANGE = 1, 2  # libavutil's AVColorRange for "MPEG" and "JPEG"
HEVC_FOR_PLAYERS = "hvc1"  # ISO/IEC 14496-15: parameter sets in the header, which players insist on
MOTION_JPEG = Colour("bt601", full_range=True)  # JFIF 1.02; an AVI has no place to say so


def stored_colour(writing: Writing, colour: Colour) -> Colour:
    """What samples must mean in a kind of file: the frame's own, or the one colour that the kind knows."""
    return MOTION_JPEG if writing.kind.encoder == "mjpeg" else colour


def picture_track(target: OutputContainer, plan: Plan, layout: Layout, facts: Facts, writing: Writing) -> VideoStream:
    """Add the picture to a file: the frame's size and pixel shape, the rate delivered, the colour it has."""
    kind, rate = writing.kind, writing.bits_per_second
    stream = cast("VideoStream", target.add_stream(kind.encoder, rate=facts.rate, options=writing.options))
    context = stream.codec_context
    context.width, context.height, context.pix_fmt = layout.width, layout.height, writing.format.name
    context.sample_aspect_ratio = plan.frame.pixel_aspect
    context.colorspace = layout.colour.matrix_code
    context.color_primaries = layout.colour.primaries
    context.color_trc = layout.colour.transfer
    context.color_range = _range(layout)
    if rate is not None:
        context.bit_rate = rate
    if kind.encoder == "libx265" and kind.muxer in ("mp4", "mov"):
        context.codec_tag = HEVC_FOR_PLAYERS
    context.time_base = tick_of(facts)
    stream.time_base = context.time_base
    return stream


def tick_of(facts: Facts) -> Fraction:
    """The clock that pictures are stamped with: one frame, or a fine one where frames last unequally long."""
    return Fraction(1, 90_000) if facts.rate_varies else 1 / facts.rate


def blank(layout: Layout, time: Fraction, tick: Fraction, writing: Writing) -> tuple[VideoFrame, Planes]:
    """A frame to draw on, stamped, and the planes that are its memory."""
    frame = VideoFrame(layout.width, layout.height, writing.format.name)
    frame.pts, frame.time_base = round(time / tick), tick
    frame.colorspace = layout.colour.matrix_code
    frame.color_range = _range(layout)
    return frame, canvas(frame, layout)


def _range(layout: Layout) -> int:
    return FULL_RANGE if layout.colour.full_range else LIMITED_RANGE


def tagged(colour: Colour, writing: Writing) -> Colour:
    """What a reader finds in the file: of an AVI, only what motion JPEG always means."""
    if writing.kind.muxer != "avi":
        return colour
    return replace(colour, matrix_code=BT470_BG, primaries=UNSPECIFIED, transfer=UNSPECIFIED)
