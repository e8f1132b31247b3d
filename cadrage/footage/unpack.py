"""From a decoder's frame to planes, without copying where the layout is one of ours."""

import re
from dataclasses import dataclass, replace

import numpy as np
from av.video.frame import VideoFrame
from av.video.plane import VideoPlane

from cadrage.footage.media_info import Siting
from cadrage.footage.siting import subsampled
from cadrage.pixels.colour import Colour, rgb_from_ycc
from cadrage.pixels.light import codes_of
from cadrage.pixels.planes import LUMA, Layout, Planes, Samples, Working
from cadrage.pixels.resample import clip_codes, quantise

PLANAR = re.compile(r"yuvj?(420|422|444|440|411)p(10le|16le)?")
SUFFIX_OF_DEPTH = {8: "", 10: "10le", 16: "16le"}
DEPTH_OF_SUFFIX = {suffix: depth for depth, suffix in SUFFIX_OF_DEPTH.items()}
BLOCKS = {"420": (2, 2), "422": (2, 1), "444": (1, 1), "440": (1, 2), "411": (4, 1)}
BT709_IN_SWSCALE, LIMITED_IN_SWSCALE, FULL_IN_SWSCALE = 1, 1, 2
PALETTE, BITMAPS = "pal8", ("monob", "monow")
RED, GREEN, BLUE = 2, 0, 1  # planes of "gbrp"


@dataclass(frozen=True, slots=True)
class Unpacker:
    """Makes planes of the frames of one piece of footage.

    Attributes:
        colour: what the planes mean. R'G'B' becomes Y'CbCr of this matrix, of limited range.
        siting: where chroma samples lie; None is on the left (ITU-T H.273 type 0, what MPEG-2 and H.264 assume).
        matte: "#rrggbb" that shows through where a frame is transparent.
        full_rgb: whether R'G'B' samples are of the full range, not 16 to 235.
    """

    colour: Colour
    siting: Siting | None = None
    matte: str = "#000000"
    full_rgb: bool = True

    def planes(self, frame: VideoFrame) -> Planes:
        """The planes of a frame, of 8, 10 or 16 bit.

        They are views of the decoder's memory where its samples are planar and of one of these depths; all else is
        converted first, and loses no bits.
        """
        frame = _without_palette(frame)
        if is_transparent(frame):
            return self._over_matte(frame)
        if self._converts_rgb(frame):
            return self._of_rgb(frame)
        if not PLANAR.fullmatch(frame.format.name):
            frame = _reformatted(frame, _planar_name(frame))
        match = PLANAR.fullmatch(frame.format.name)
        assert match is not None
        across, down = BLOCKS[match[1]]
        chroma = subsampled(self.siting, across, down)
        layout = Layout(frame.width, frame.height, DEPTH_OF_SUFFIX[match[2] or ""], chroma, self.colour)
        return canvas(frame, layout)

    def _over_matte(self, frame: VideoFrame) -> Planes:
        """A frame whose colours are straight, laid over the matte: 4:4:4."""
        depth = _depth(frame)
        drawn = _reformatted(frame, f"yuva444p{SUFFIX_OF_DEPTH[depth]}")
        layout = Layout(frame.width, frame.height, depth, LUMA, self.colour)
        planes = self._of_rgb(frame) if self._converts_rgb(frame) else canvas(drawn, layout)
        share = _view(drawn.planes[3], layout, 0).astype(np.float32) / np.float32(2**depth - 1)
        result = Planes.empty(layout)
        for number, code in enumerate(codes_of(self.matte, self.colour, depth)):
            working = np.float32(code) + share * (planes.arrays[number] - np.float32(code))
            quantise(working, result.arrays[number], depth)
        return result

    def _converts_rgb(self, frame: VideoFrame) -> bool:
        """Whether R'G'B' is converted here.

        libswscale is quicker, but takes all R'G'B' as full range, and white of more than 8 bits as 2^depth, which is up
        to 3 codes of 10 bits off.
        """
        return is_rgb(frame) and (not self.full_rgb or _depth(frame) > 8)

    def _of_rgb(self, frame: VideoFrame) -> Planes:
        """R'G'B' as Y'CbCr of limited range, 4:4:4."""
        depth = _depth(frame)
        frame = frame.reformat(format=f"gbrp{SUFFIX_OF_DEPTH[depth]}")
        layout = Layout(frame.width, frame.height, depth, LUMA, self.colour)
        black, luma, chroma = self.colour.code_range(depth)
        source_black, source_span, _ = replace(self.colour, full_range=self.full_rgb).code_range(depth)
        coded = [_view(frame.planes[plane], layout, 0).astype(np.float32) for plane in (RED, GREEN, BLUE)]
        to_ycc = np.linalg.inv(rgb_from_ycc(self.colour.matrix)).astype(np.float32)
        result = Planes.empty(layout)
        for plane, weights in enumerate(to_ycc):
            origin, span = (2.0 ** (depth - 1), chroma) if plane else (black, luma)
            origin -= source_black * float(weights.sum()) * span / source_span
            mixed = zip(weights * np.float32(span / source_span), coded, strict=True)
            working: Working = np.float32(origin) + sum(weight * part for weight, part in mixed)
            clip_codes(working, depth)
            quantise(working, result.arrays[plane], depth)
        return result


def is_transparent(frame: VideoFrame) -> bool:
    """Whether a frame says what is transparent in it."""
    return any(part.is_alpha for part in _without_palette(frame).format.components)


def is_rgb(frame: VideoFrame) -> bool:
    """Whether the samples of a frame are R'G'B', or numbers of colours of a palette."""
    return bool(frame.format.is_rgb) or frame.format.name == PALETTE


def is_grey(frame: VideoFrame) -> bool:
    """Whether a frame has luma and nothing else but perhaps coverage."""
    colours = [part for part in frame.format.components if not part.is_alpha]
    return len(colours) == 1 and not is_rgb(frame)


def _depth(frame: VideoFrame) -> int:
    """The least depth of planes that holds all bits of a frame."""
    bits = frame.format.components[0].bits
    return next(depth for depth in SUFFIX_OF_DEPTH if bits <= depth)


def _without_palette(frame: VideoFrame) -> VideoFrame:
    """A frame of a palette as R'G'B', with coverage where some of it is transparent; of one bit, as grey."""
    if frame.format.name in BITMAPS:
        return frame.reformat(format="gray", src_color_range=FULL_IN_SWSCALE, dst_color_range=FULL_IN_SWSCALE)
    if frame.format.name != PALETTE:
        return frame
    coloured = frame.reformat(format="rgba")
    opaque = bool((coloured.to_ndarray()[..., 3] == 255).all())
    return coloured.reformat(format="rgb24") if opaque else coloured


def _reformatted(frame: VideoFrame, name: str) -> VideoFrame:
    """A frame in another layout: R'G'B' as limited BT.709, all else with the same codes."""
    if is_rgb(frame):
        return frame.reformat(
            format=name,
            dst_colorspace=BT709_IN_SWSCALE,
            src_color_range=FULL_IN_SWSCALE,
            dst_color_range=LIMITED_IN_SWSCALE,
        )
    if is_grey(frame):  # which libswscale takes as full range whatever it is told, and would bring to limited range
        return frame.reformat(format=name, src_color_range=FULL_IN_SWSCALE, dst_color_range=FULL_IN_SWSCALE)
    return frame.reformat(format=name)


def _planar_name(frame: VideoFrame) -> str:
    """The nearest planar layout that loses nothing."""
    parts = frame.format.components
    depth = SUFFIX_OF_DEPTH[_depth(frame)]
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
    """Views of the memory of a planar frame, to be read or drawn on; a fourth plane, of coverage, is left out."""
    y, cb, cr = (_view(plane, layout, index) for index, plane in enumerate(frame.planes[:3]))
    return Planes((y, cb, cr), layout)
