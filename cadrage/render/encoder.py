"""Writing pictures into a file."""

from fractions import Fraction

from av.container import OutputContainer
from av.video.frame import VideoFrame
from av.video.stream import VideoStream

from cadrage.errors import BadRequest
from cadrage.footage import Facts
from cadrage.footage.unpack import canvas
from cadrage.pixels.planes import Layout, Planes
from cadrage.plan import Plan
from cadrage.values import Value

LIMITED_RANGE = 1  # libavutil's AVColorRange for "MPEG" range


class H264(Value):
    """How H.264 is encoded.

    Attributes:
        quality: constant rate factor, 0 (lossless) to 51; 18 is hard to tell from the original (common practice).
        preset: the encoder's effort.
    """

    quality: int = 18
    preset: str = "medium"


DEFAULT = H264()


def check(plan: Plan, clip: str | None = None) -> None:
    """Make sure that a plan's frame can be encoded.

    Raises:
        BadRequest: 4:2:0 needs even sides.
    """
    frame = plan.frame
    if frame.width % 2 or frame.height % 2:
        raise BadRequest(
            f"A frame of {frame.width}×{frame.height} cannot be written as H.264 with 4:2:0 chroma.",
            remedy="Make both sides even.",
            clip=clip,
        )


def picture_track(target: OutputContainer, plan: Plan, layout: Layout, facts: Facts, how: H264) -> VideoStream:
    """Add the picture to a file: the frame's size and pixel shape, the rate delivered, the colour it has.

    Raises:
        BadRequest: see `check`.
    """
    check(plan)
    stream = target.add_stream("libx264", rate=facts.rate, options={"preset": how.preset, "crf": str(how.quality)})
    context = stream.codec_context
    context.width, context.height, context.pix_fmt = layout.width, layout.height, "yuv420p"
    context.sample_aspect_ratio = plan.frame.pixel_aspect
    context.colorspace = layout.colour.matrix_code
    context.color_primaries = layout.colour.primaries
    context.color_trc = layout.colour.transfer
    context.color_range = LIMITED_RANGE
    context.time_base = tick_of(facts)
    stream.time_base = context.time_base
    return stream


def tick_of(facts: Facts) -> Fraction:
    """The clock that pictures are stamped with: one frame, or a fine one where frames last unequally long."""
    return Fraction(1, 90_000) if facts.rate_varies else 1 / facts.rate


def blank(layout: Layout, time: Fraction, tick: Fraction) -> tuple[VideoFrame, Planes]:
    """A frame to draw on, stamped, and the planes that are its memory."""
    frame = VideoFrame(layout.width, layout.height, "yuv420p")
    frame.pts, frame.time_base = round(time / tick), tick
    frame.colorspace = layout.colour.matrix_code
    frame.color_range = LIMITED_RANGE
    return frame, canvas(frame, layout)
