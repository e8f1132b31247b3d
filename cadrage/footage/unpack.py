"""From a decoder's frame to planes, without copying where the layout is one of ours."""

import re

import numpy as np
from av.video.frame import VideoFrame
from av.video.plane import VideoPlane

from cadrage.pixels.colour import Colour
from cadrage.pixels.planes import Layout, Planes, Samples, Subsampling

PLANAR = re.compile(r"yuvj?(420|422|444|440|411)p(10le)?")
BLOCKS = {"420": (2, 2), "422": (2, 1), "444": (1, 1), "440": (1, 2), "411": (4, 1)}
BT709_IN_SWSCALE, LIMITED_IN_SWSCALE, FULL_IN_SWSCALE = 1, 1, 2


def unpack(frame: VideoFrame, colour: Colour) -> Planes:
    """The planes of a frame. Views of the decoder's memory for planar 8 and 10 bit; all else is converted first.

    Chroma is taken as left-sited (ITU-T H.273 type 0, what MPEG-2 and H.264 assume when they do not say), except
    where samples are full range as in still images, where it is centred (JFIF 1.02).
    """
    if frame.format.is_rgb:
        colour = Colour("bt709", primaries=colour.primaries, transfer=colour.transfer)
        frame = frame.reformat(
            format=_planar_name(frame),
            dst_colorspace=BT709_IN_SWSCALE,
            src_color_range=FULL_IN_SWSCALE,
            dst_color_range=LIMITED_IN_SWSCALE,
        )
    elif not PLANAR.fullmatch(frame.format.name):
        frame = frame.reformat(format=_planar_name(frame))
    match = PLANAR.fullmatch(frame.format.name)
    assert match is not None
    across, down = BLOCKS[match[1]]
    centred = frame.format.name.startswith("yuvj")
    chroma = Subsampling(across, down) if centred else Subsampling.left(across, down)
    layout = Layout(frame.width, frame.height, 10 if match[2] else 8, chroma, colour)
    y, cb, cr = (_view(plane, layout, index) for index, plane in enumerate(frame.planes))
    return Planes((y, cb, cr), layout)


def _planar_name(frame: VideoFrame) -> str:
    """The nearest planar layout that loses nothing but bits beyond ten and transparency."""
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
