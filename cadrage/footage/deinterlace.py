"""Whole frames from pairs of fields, before anything is scaled."""

from collections.abc import Iterator
from fractions import Fraction
from itertools import chain
from typing import Literal

import av
from av.filter import Graph
from av.video.frame import VideoFrame

MODES = {"one_per_pair": "send_frame", "one_per_field": "send_field"}
PARITIES = {"upper_first": "tff", "lower_first": "bff"}


def deinterlaced(
    pictures: Iterator[VideoFrame],
    order: Literal["upper_first", "lower_first"],
    method: Literal["one_per_pair", "one_per_field"],
) -> Iterator[VideoFrame]:
    """Turn pictures of two fields into whole frames with libavfilter's `bwdif`, which adapts to motion.

    It weaves where nothing moves, and where something does it rebuilds the missing lines from their neighbours in space
    and time (the filters of BBC R&D White Paper 020, as its authors say). Every stored picture counts as interlaced,
    whatever its flag says: the order was settled before.
    """
    first = next(pictures, None)
    if first is None:
        return
    graph = Graph()
    source = graph.add_buffer(
        width=first.width, height=first.height, format=first.format, time_base=first.time_base or Fraction(1, 1000)
    )
    bwdif = graph.add("bwdif", mode=MODES[method], parity=PARITIES[order], deint="all")
    graph.link_nodes(source, bwdif, graph.add("buffersink")).configure()
    for picture in chain((first,), pictures):
        graph.push(picture)
        yield from ready(graph)
    graph.push(None)
    yield from ready(graph)


def ready(graph: Graph) -> Iterator[VideoFrame]:
    """The frames that a graph gives without being given more."""
    while True:
        try:
            frame = graph.pull()
        except (av.BlockingIOError, av.EOFError):
            return
        assert isinstance(frame, VideoFrame)
        yield frame
