"""Fields: two moments of a picture woven into one frame, line by line."""

from fractions import Fraction
from typing import Literal

from av.filter import Graph
from av.video.frame import VideoFrame

from cadrage.footage.deinterlace import PARITIES
from cadrage.formats import Frame
from cadrage.pixels.planes import Planes

FieldOrder = Literal["upper_first", "lower_first"]
CODES: dict[FieldOrder, int] = {"upper_first": 2, "lower_first": 3}
"""libavcodec's AVFieldOrder: AV_FIELD_TT and AV_FIELD_BB."""
WEAVING = ("libx264", "prores_ks", "ffv1")
"""Encoders that code fields as fields, and say so."""


def field_order(frame: Frame) -> FieldOrder:
    """Which field of a frame of fields is shown first."""
    return "lower_first" if frame.fields == "lower_first" else "upper_first"


def field_options(encoder: str, order: FieldOrder) -> dict[str, str]:
    """Options of an encoder for pictures of fields."""
    if encoder == "libx264":
        return {"flags": "+ildct+ilme", "x264-params": f"{PARITIES[order]}=1"}
    return {"flags": "+ildct"}


def weave(canvas: Planes, second: Planes, order: FieldOrder) -> None:
    """Put the lines of the field that is shown second into a frame, which has the first moment throughout.

    Chroma of 4:2:0 comes to lie where fields have it: its lines alternate as those of luma do, and stand at a quarter
    of each field's (ISO/IEC 13818-2, figure 6-2).
    """
    since = 1 if order == "upper_first" else 0
    for target, lines in zip(canvas.arrays, second.arrays, strict=True):
        target[since::2] = lines[since::2]


class FieldFlag:
    """Marks frames as woven of fields, which encoders look for."""

    def __init__(self, order: FieldOrder) -> None:
        self._order = order
        self._graph: Graph | None = None

    def mark(self, frame: VideoFrame) -> VideoFrame:
        """The same frame, marked."""
        if self._graph is None:
            self._graph = graph = Graph()
            source = graph.add_buffer(
                width=frame.width,
                height=frame.height,
                format=frame.format,
                time_base=frame.time_base or Fraction(1, 25),
            )
            marker = graph.add("setparams", f"field_mode={PARITIES[self._order]}")
            graph.link_nodes(source, marker, graph.add("buffersink")).configure()
        self._graph.push(frame)
        marked = self._graph.pull()
        assert isinstance(marked, VideoFrame)
        return marked
