"""Bars that are part of a picture: how wide, how sure, and where they change."""

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise
from pathlib import Path
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.analysis.bar_edges import NO_BAR, Blocks, Side, is_flat, side_of
from cadrage.analysis.base import Analysis, Found, Outcome, Report, Subject, no_progress
from cadrage.analysis.soft_sidebars import soft_sidebars
from cadrage.footage.interpretation import Edges, Interpretation, resolve
from cadrage.footage.media_info import MediaInfo
from cadrage.footage.opening import open_footage
from cadrage.footage.pictures import PictureReader
from cadrage.pixels.planes import ROTATIONS
from cadrage.values import Exact, Value

MOMENTS = 24
LIT = 24  # codes of 8 bits that a moment must span to tell anything
STEADY = 3  # moments in a row that make a separate stretch
ALIKE = 3  # pixels by which moments of one stretch may differ
SURE = 0.5
BLACKEST = 20  # code of 8 bits; black is 16, or 0 at full range
SAME_LEVEL = 3  # codes of 8 bits
CENTRED = 4  # pixels by which opposite bars of a short stretch may differ

Luma = NDArray[np.uint8]


class BarInterval(Value):
    """A part of a clip with different bars.

    Attributes:
        start, end: seconds; exact to a picture.
        edges: its bars.
    """

    start: Exact
    end: Exact
    edges: Edges


class BurnedInBars(Value):
    """The result.

    Attributes:
        kind: "none"; "bars", flat ones; "surround", soft wings that look like one; "changing", bars in parts only;
            "dark", too dark to tell.
        edges: the bars, in stored pixels of the upright picture; in changing material what is bars throughout.
        colour: "black", "grey", "white" or "coloured", or empty where there is no flat bar.
        confidence_percent: of the least sure side; 0 to 100.
        stretches: where the bars change, each stretch with its own; empty where they do not.
        summary: as text.
    """

    kind: Literal["none", "bars", "surround", "changing", "dark"]
    edges: Edges = Edges()
    colour: str = ""
    confidence_percent: int = 0
    stretches: tuple[BarInterval, ...] = ()
    summary: str


@dataclass(frozen=True, slots=True)
class _Found:
    """Four sides."""

    left: Side
    right: Side
    top: Side
    bottom: Side

    @property
    def sides(self) -> tuple[Side, Side, Side, Side]:
        return self.left, self.right, self.top, self.bottom

    @property
    def widths(self) -> tuple[int, int, int, int]:
        return self.left.width, self.right.width, self.top.width, self.bottom.width

    @property
    def any(self) -> bool:
        return any(self.widths)

    @property
    def confidence(self) -> float:
        return min((side.confidence for side in self.sides if side.width), default=0.0)

    @property
    def edges(self) -> Edges:
        left, right, top, bottom = (Fraction(width) for width in self.widths)
        return Edges(left=left, right=right, top=top, bottom=bottom)


NOTHING = _Found(NO_BAR, NO_BAR, NO_BAR, NO_BAR)


class BarsAnalysis(Analysis[BurnedInBars]):
    """Bars that are part of a clip's pictures."""

    kind = "bars"
    result = BurnedInBars

    def decoding(self, subject: Subject) -> Interpretation:
        """Which way is up, and what codes stand for; pictures are looked at as they are stored."""
        plain = Interpretation(fields="progressive")
        kept = {name: getattr(subject.stated, name) for name in ("rotation", "range", "matte")}
        return plain.model_copy(update=kept)

    def find(self, subject: Subject, report: Report = no_progress) -> Outcome[BurnedInBars]:
        """Look at moments throughout."""
        return Found(result=find_bars(subject.path, subject.info, self.decoding(subject), report))


def find_bars(
    path: Path, info: MediaInfo, interpretation: Interpretation | None = None, report: Report = no_progress
) -> BurnedInBars:
    """Look for bars at moments throughout a clip.

    Raises:
        MissingSource, UnreadableFile: it cannot be read.
    """
    stated = interpretation or Interpretation()
    rotation = resolve(info, stated.model_copy(update={"burned_in_bars": None})).rotation
    with open_footage(path, info, stated.model_copy(update={"fields": "progressive"})) as reader:

        def look(time: Fraction) -> Luma:
            return _luma(reader, time, rotation)

        count = 1 if info.kind == "still" else MOMENTS
        times = [info.duration * (2 * number + 1) / (2 * count) for number in range(count)]
        lumas = []
        for number, time in enumerate(times):
            report(number / count)
            lumas.append(look(time))
        return judge(lumas, times, info, look)


def _luma(reader: PictureReader, time: Fraction, rotation: int) -> Luma:
    """Luma of the upright picture at a moment, brought to 8 bits."""
    luma = reader.frame_at(time).planes.luma8
    upright = luma.copy() if rotation == 0 else cv2.rotate(luma, ROTATIONS[rotation])
    return np.asarray(upright, np.uint8)


def judge(lumas: list[Luma], times: list[Fraction], info: MediaInfo, look: Callable[[Fraction], Luma]) -> BurnedInBars:
    """Weigh what some moments show.

    Args:
        lumas: luma of the upright pictures, 8 bits.
        times: when they are, in seconds.
        info: what the clip is.
        look: luma at any other moment, for finding where bars change.
    """
    lit = [number for number, luma in enumerate(lumas) if _span(luma) >= LIT]
    if not lit:
        return BurnedInBars(kind="dark", summary="too dark to tell")
    shown = [lumas[number] for number in lit]
    rows, columns = Blocks.of(shown), Blocks.of([np.ascontiguousarray(luma.T) for luma in shown])
    whole = _found(rows, columns)
    each = [_trusted(_found(rows.at(moment), columns.at(moment)), whole) for moment in range(len(lit))]
    stretches = _stretches(each, [times[number] for number in lit], info, look)
    if stretches:
        return BurnedInBars(
            kind="changing",
            edges=whole.edges,
            colour=_colour(whole) if whole.any else "",
            confidence_percent=round(100 * whole.confidence),
            stretches=stretches,
            summary=f"bars change {len(stretches) - 1} {'time' if len(stretches) == 2 else 'times'}",
        )
    if whole.any:
        return BurnedInBars(
            kind="bars",
            edges=whole.edges,
            colour=_colour(whole),
            confidence_percent=round(100 * whole.confidence),
            summary=f"{_colour(whole)} bars, {edges_summary(whole.edges)}",
        )
    return _sidebars(shown)


def _span(luma: Luma) -> float:
    low, high = np.percentile(luma[::4, ::4], (1, 99))
    return float(high - low)


def _found(rows: Blocks, columns: Blocks) -> _Found:
    across = _believed(side_of(columns), side_of(columns.reversed()))
    return _Found(*across, *_believed(side_of(rows), side_of(rows.reversed())))


def _believed(first: Side, second: Side) -> tuple[Side, Side]:
    """Two opposite sides. A bar that is not black comes with one like it: alone it is a wall, a street, a sky."""
    pair = first.width and second.width and abs(first.level - second.level) <= SAME_LEVEL
    return (
        first if pair or first.level <= BLACKEST else NO_BAR,
        second if pair or second.level <= BLACKEST else NO_BAR,
    )


def _colour(found: _Found) -> str:
    level = float(np.median([side.level for side in found.sides if side.width]))
    return "black" if level <= BLACKEST else "white" if level > 220 else "grey or coloured"


def edges_summary(edges: Edges) -> str:
    """The sides that have a bar, as text."""
    sides = {"left": edges.left, "right": edges.right, "top": edges.top, "bottom": edges.bottom}
    return ", ".join(f"{side} {float(width):g}" for side, width in sides.items() if width) or "none"


def _sidebars(lumas: list[Luma]) -> BurnedInBars:
    across = soft_sidebars(lumas)
    down = soft_sidebars([np.ascontiguousarray(luma.T) for luma in lumas])
    if across is None and down is None:
        return BurnedInBars(kind="none", summary="no bars in the picture")
    left, right = across or (0, 0)
    top, bottom = down or (0, 0)
    edges = Edges(left=Fraction(left), right=Fraction(right), top=Fraction(top), bottom=Fraction(bottom))
    return BurnedInBars(kind="surround", edges=edges, summary=f"looks like a surround, {edges_summary(edges)}")


def _stretches(
    each: list[_Found], times: list[Fraction], info: MediaInfo, look: Callable[[Fraction], Luma]
) -> tuple[BarInterval, ...]:
    """Runs of moments with different bars; none if all agree."""
    runs: list[list[int]] = []
    for moment, found in enumerate(each):
        if runs and _alike(each[runs[-1][0]], found):
            runs[-1].append(moment)
        else:
            runs.append([moment])
    steady = [run for run in runs if len(run) >= STEADY]
    merged: list[list[int]] = []
    for run in steady:
        if merged and _alike(each[merged[-1][0]], each[run[0]]):
            merged[-1] += run
        else:
            merged.append(run)
    if len(merged) < 2:
        return ()
    # From the middle of one run to the middle of the next: near its ends a dark moment may have been taken for none.
    middles = [run[len(run) // 2] for run in merged]
    changes = [
        _change((times[before], times[after]), (each[before], each[after]), 1 / info.rate, look)
        for before, after in pairwise(middles)
    ]
    bounds = [Fraction(0), *changes, info.duration]
    return tuple(
        BarInterval(start=start, end=end, edges=each[run[len(run) // 2]].edges)
        for run, (start, end) in zip(merged, pairwise(bounds), strict=True)
    )


def _trusted(found: _Found, whole: _Found) -> _Found:
    """One moment's bars beyond those of the whole, where they are sure and alike on both sides.

    A single dark picture seems to have many bars, or hides one; so a moment alone counts for less than all together.
    """

    def pair(first: Side, second: Side, always: tuple[Side, Side]) -> tuple[Side, Side]:
        sure = min(first.confidence, second.confidence) >= SURE and abs(first.width - second.width) <= CENTRED
        more = first.width > always[0].width and second.width > always[1].width
        return (first, second) if sure and more else always

    across = pair(found.left, found.right, (whole.left, whole.right))
    return _Found(*across, *pair(found.top, found.bottom, (whole.top, whole.bottom)))


def _alike(one: _Found, other: _Found) -> bool:
    return all(abs(mine - theirs) <= ALIKE for mine, theirs in zip(one.widths, other.widths, strict=True))


def _change(
    times: tuple[Fraction, Fraction],
    bars: tuple[_Found, _Found],
    length: Fraction,
    look: Callable[[Fraction], Luma],
) -> Fraction:
    """When bars change between two moments, to a picture of some length in seconds, by halving the time."""
    low, high = times[0] // length, times[1] // length
    while high - low > 1:
        middle = (low + high) // 2
        if _is_later(look((middle + Fraction(1, 2)) * length), *bars):
            high = middle
        else:
            low = middle
    return high * length


def _is_later(luma: Luma, before: _Found, after: _Found) -> bool:
    """Whether a picture has the later of two sets of bars; of two that both fit it has the larger."""
    rows, columns = Blocks.of([luma]), Blocks.of([np.ascontiguousarray(luma.T)])

    def fits(found: _Found) -> bool:
        across, down = (found.left, found.right), (found.top, found.bottom)
        return all(
            is_flat(blocks if first else blocks.reversed(), side)
            for blocks, pair in ((columns, across), (rows, down))
            for first, side in zip((True, False), pair, strict=True)
        )

    if fits(before) != fits(after):
        return fits(after)
    return fits(after) and sum(after.widths) > sum(before.widths)
