"""Film brought back from fields: each picture of 23.976 a second that was spread over two or three fields, once."""

from collections.abc import Iterator
from fractions import Fraction
from itertools import chain
from typing import Literal

from av.filter import Graph
from av.video.frame import VideoFrame

from cadrage.footage.deinterlace import PARITIES, ready

CYCLE, KEPT = 5, 4
"""Pictures of two fields, and the pictures of film that are in them."""


def film_pictures(
    pictures: Iterator[VideoFrame],
    order: Literal["upper_first", "lower_first"],
    rate: Fraction,
    origin: Fraction,
) -> Iterator[VideoFrame]:
    """Match fields that belong together and leave out the picture of every five that comes twice.

    By libavfilter's `fieldmatch` and `decimate`, which look at each cycle anew, so that a cadence may change; what
    finds no match, as in video between film, is made whole by `bwdif`.

    Args:
        pictures: as stored, stamped; they may begin anywhere.
        order: of their fields.
        rate: of the stored pictures.
        origin: time stamp of the clip's first picture, in seconds; cycles are counted from there, so that pictures are
            the same wherever reading began.
    """
    numbered = _numbered(pictures, rate, origin)
    first = next((one for one in numbered if one[0] % CYCLE == 0), None)
    if first is None:
        return
    cycle, frame = first[0] // CYCLE, first[1]
    tick = frame.time_base or Fraction(1, 90_000)
    graph = _graph(frame, order, rate)
    made = 0
    for number, picture in chain((first,), numbered):
        for found in _through(graph, picture, (number - first[0], 1 / rate)):
            yield _stamped(found, origin + (cycle * CYCLE + Fraction(made * CYCLE, KEPT)) / rate, tick)
            made += 1
    for found in _through(graph, None):
        yield _stamped(found, origin + (cycle * CYCLE + Fraction(made * CYCLE, KEPT)) / rate, tick)
        made += 1


def _numbered(pictures: Iterator[VideoFrame], rate: Fraction, origin: Fraction) -> Iterator[tuple[int, VideoFrame]]:
    """Pictures with their numbers; where some are missing, the one before comes again."""
    before: tuple[int, VideoFrame] | None = None
    for picture in pictures:
        number = round(((picture.pts or 0) * (picture.time_base or Fraction(1)) - origin) * rate)
        for missing in range(before[0] + 1, number) if before else ():
            assert before is not None
            yield missing, before[1]
        if before is None or number > before[0]:
            yield number, picture
        before = (number, picture)


def _graph(first: VideoFrame, order: Literal["upper_first", "lower_first"], rate: Fraction) -> Graph:
    graph = Graph()
    source = graph.add_buffer(width=first.width, height=first.height, format=first.format, time_base=1 / rate)
    constant = graph.add("fps", f"{rate.numerator}/{rate.denominator}")  # which nothing else says to those behind it
    match = graph.add("fieldmatch", order=PARITIES[order], mode="pc_n_ub", combmatch="full")
    whole = graph.add("bwdif", mode="send_frame", parity=PARITIES[order], deint="interlaced")
    thinned = graph.add("decimate", cycle=str(CYCLE))
    graph.link_nodes(source, constant, match, whole, thinned, graph.add("buffersink")).configure()
    return graph


def _through(
    graph: Graph, picture: VideoFrame | None, at: tuple[int, Fraction] = (0, Fraction(1))
) -> Iterator[VideoFrame]:
    if picture is not None:
        picture.pts, picture.time_base = at
        picture.duration = 1
    graph.push(picture)
    yield from ready(graph)


def _stamped(frame: VideoFrame, time: Fraction, tick: Fraction) -> VideoFrame:
    frame.pts, frame.time_base = round(time / tick), tick
    return frame
