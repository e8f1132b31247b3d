"""Where chroma samples lie among luma samples, as a file says or its codec always has it."""

import io
import re

import av
from av.bitstream import BitStreamFilterContext
from av.video.stream import VideoStream

from cadrage.footage.media_info import Siting
from cadrage.pixels.planes import Subsampling

SHIFTS: dict[Siting, tuple[int, int]] = {
    "left": (-1, 0),
    "centre": (0, 0),
    "top_left": (-1, -1),
    "top": (0, -1),
    "bottom_left": (-1, 1),
    "bottom": (0, 1),
}
"""For each, whether chroma lies at the first, the middle or the last luma sample of its block, across and down."""

ACROSS, DOWN = b"\x55\xb7", b"\x55\xb8"
"""ChromaSitingHorz and ChromaSitingVert, RFC 9559, 5.1.4.1.28.20 and 21: 1 at the left or the top, 2 half way."""
OF_ELEMENTS: dict[tuple[int | None, int | None], Siting] = {
    (1, 2): "left",
    (2, 2): "centre",
    (1, 1): "top_left",
    (2, 1): "top",
}
TELLING = ("h264", "hevc")  # codecs that have more to say than Matroska
BOTTOM: dict[Siting, int] = {"bottom_left": 4, "bottom": 5}
"""Types of ITU-T H.273, figure 2."""
ALWAYS: dict[str, Siting] = {"dvvideo": "top_left"}
"""Codecs that Matroska cannot hold, with the siting they have. Of DV as FFmpeg's decoder tells it: IEC 61834-2 has Cb
and Cr on lines of their own."""


def subsampled(siting: Siting | None, across: int, down: int) -> Subsampling:
    """Chroma of so many luma samples each way, sited as is said; on the left where nothing is."""
    x, y = SHIFTS[siting or "left"]
    far = Subsampling.left(across, down).shift_x, Subsampling.left(down, across).shift_x
    return Subsampling(across, down, -x * far[0], -y * far[1])


def siting_of(stream: VideoStream) -> Siting | None:
    """What a stream says of it; None where it says nothing.

    FFmpeg knows, but PyAV hands it on to nobody except a writer of files: so a header is written to memory, and looked
    into.
    """
    name = stream.codec_context.name
    if name in ALWAYS:
        return ALWAYS[name]
    try:
        header = _header(stream)
        found = OF_ELEMENTS.get((_element(header, ACROSS), _element(header, DOWN)))
        return _bottom(stream, name) if found is None and name in TELLING else found
    except (av.FFmpegError, ValueError):
        return None


def _header(stream: VideoStream) -> bytes:
    """A header of Matroska for a stream like this."""
    memory = io.BytesIO()
    with av.open(memory, "w", format="matroska") as target:
        target.add_stream_from_template(stream, opaque=True)
        target.start_encoding()
    return memory.getvalue()


def _bottom(stream: VideoStream, name: str) -> Siting | None:
    """Which of the two that Matroska has no elements for: a header that says so already is not changed by saying so."""
    with av.open(io.BytesIO(), "w", format="matroska") as target:
        copy = target.add_stream_from_template(stream, opaque=True)
        BitStreamFilterContext(f"{name}_metadata", stream, copy)
        as_it_is = copy.codec_context.extradata
        for kind, number in BOTTOM.items():
            BitStreamFilterContext(f"{name}_metadata=chroma_sample_loc_type={number}", stream, copy)
            if as_it_is is not None and copy.codec_context.extradata == as_it_is:
                return kind
    return None


def _element(header: bytes, name: bytes) -> int | None:
    found = re.search(re.escape(name) + rb"\x81(.)", header, re.DOTALL)
    return found[1][0] if found else None
