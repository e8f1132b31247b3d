"""From a decoder's frame to planes, without copying where the layout is one of ours."""

import re

import numpy as np
from av.video.frame import VideoFrame
from av.video.plane import VideoPlane

from cadrage.footage.media_info import Siting
from cadrage.footage.siting import subsampled
from cadrage.pixels.colour import Colour
from cadrage.pixels.light import codes_of
from cadrage.pixels.planes import LUMA, Layout, Planes, Samples
from cadrage.pixels.resample import quantise

PLANAR = re.compile(r"yuvj?(420|422|444|440|411)p(10le)?")
BLOCKS = {"420": (2, 2), "422": (2, 1), "444": (1, 1), "440": (1, 2), "411": (4, 1)}
BT709_IN_SWSCALE, LIMITED_IN_SWSCALE, FULL_IN_SWSCALE = 1, 1, 2


def unpack(frame: VideoFrame, colour: Colour, siting: Siting | None = None, matte: str = "#000000") -> Planes:
    """The planes of a frame. Views of the decoder's memory for planar 8 and 10 bit; all else is converted first.

    Chroma is taken as left-sited where nobody says (ITU-T H.273 type 0, what MPEG-2 and H.264 assume then). What is
    transparent shows the matte.
    """
    if is_transparent(frame):
        return _over_matte(frame, colour, matte)
    if frame.format.is_rgb:
        frame = _from_rgb(frame, _planar_name(frame))
    elif not PLANAR.fullmatch(frame.format.name):
        frame = frame.reformat(format=_planar_name(frame))
    match = PLANAR.fullmatch(frame.format.name)
    assert match is not None
    across, down = BLOCKS[match[1]]
    chroma = subsampled(siting, across, down)
    layout = Layout(frame.width, frame.height, 10 if match[2] else 8, chroma, colour)
    y, cb, cr = (_view(plane, layout, index) for index, plane in enumerate(frame.planes))
    return Planes((y, cb, cr), layout)


def is_transparent(frame: VideoFrame) -> bool:
    """Whether a frame says what is transparent in it."""
    return any(part.is_alpha for part in frame.format.components)


def _from_rgb(frame: VideoFrame, name: str) -> VideoFrame:
    return frame.reformat(
        format=name,
        dst_colorspace=BT709_IN_SWSCALE,
        src_color_range=FULL_IN_SWSCALE,
        dst_color_range=LIMITED_IN_SWSCALE,
    )


def _over_matte(frame: VideoFrame, colour: Colour, matte: str) -> Planes:
    """A frame whose colours are straight, laid over the matte: 4:4:4."""
    depth = 8 if frame.format.components[0].bits == 8 else 10
    name = "yuva444p" if depth == 8 else "yuva444p10le"
    frame = _from_rgb(frame, name) if frame.format.is_rgb else frame.reformat(format=name)
    layout = Layout(frame.width, frame.height, depth, LUMA, colour)
    result = Planes.empty(layout)
    share = _view(frame.planes[3], layout, 0).astype(np.float32) / np.float32(2**depth - 1)
    for number, code in enumerate(codes_of(matte, colour, depth)):
        drawn = np.float32(code) + share * (_view(frame.planes[number], layout, number) - np.float32(code))
        quantise(drawn, result.arrays[number], depth)
    return result


def _planar_name(frame: VideoFrame) -> str:
    """The nearest planar layout that loses nothing but bits beyond ten."""
    parts = frame.format.components
    depth = "10le" if parts[0].bits > 8 else ""
    chroma = [] if len(parts) < 3 else parts[1:3]  # PyAV's own mark of chroma is missing from some deep formats
    if frame.format.is_rgb or not chroma:
        return ("yuv444p" if frame.format.is_rgb else "yuv420p") + depth
    across, down = round(frame.width / chroma[0].width), round(frame.height / chroma[0].height)
    name = next((name for name, block in BLOCKS.items() if block == (across, down)), "444")
    return f"yuv{name}p{depth}"


def _view(plane: VideoPlane, layout: Layout, index: int) -> Samples:
    rows, columns = layout.shape(index)
    stride = plane.line_size // np.dtype(layout.dtype).itemsize
    whole = np.frombuffer(plane, layout.dtype)  # type: ignore[call-overload]
    view: Samples = whole[: rows * stride].reshape(rows, stride)[:, :columns]
    return view


def canvas(frame: VideoFrame, layout: Layout) -> Planes:
    """The planes of a frame that is still to be drawn, as views of its memory; a fourth, of coverage, is left out."""
    y, cb, cr = (_view(plane, layout, index) for index, plane in enumerate(frame.planes[:3]))
    return Planes((y, cb, cr), layout)
