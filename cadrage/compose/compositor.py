"""A plan and a picture make one finished frame."""

from fractions import Fraction
from pathlib import Path

from cadrage.compose.bars import BarsPainter
from cadrage.compose.picture import PicturePainter
from cadrage.compose.target import target_layout
from cadrage.footage import ClipReader, Facts, read_as
from cadrage.geometry import place
from cadrage.pixels.convert import ColourChange
from cadrage.pixels.mapping import Coverage, canvas_rect
from cadrage.pixels.planes import Layout, Planes
from cadrage.plan import Plan
from cadrage.surrounds import Scene


class Compositor:
    """Composes the frames of one plan at one size. All that does not change is worked out once, here.

    Holds scratch memory: one thread at a time.

    Args:
        plan: the framing.
        source: the layout of the clip's pictures as decoded.
        facts: what the clip is.
        size: luma samples (width, height) to draw the frame on; the frame's own unless given.
        depth: bits of a finished sample, 8 or 10.
    """

    def __init__(
        self, plan: Plan, source: Layout, facts: Facts, size: tuple[int, int] | None = None, depth: int = 8
    ) -> None:
        reading = read_as(facts, plan.interpretation)
        self.layout = target_layout(reading.colour, plan.frame, size, depth)
        self.placed = place(reading.picture, plan.frame.raster, plan.placement, plan.frame.active_rect)
        self._rotation = reading.rotation
        upright = source.rotated(reading.rotation)
        self._change = None
        if self.layout.colour.converts_from(reading.colour):
            self._change = ColourChange(upright, self.layout.colour)
            upright = self._change.layout
        frame_size = (plan.frame.width, plan.frame.height)
        rect = canvas_rect(self.placed.rect, frame_size, self.layout)
        drawn = canvas_rect(plan.frame.drawn_rect, frame_size, self.layout)
        coverage = [Coverage.of(self.layout, plane, rect.clipped(drawn)) for plane in range(3)]
        self._bars = BarsPainter(self.layout, drawn, plan.frame.bar_colour)
        areas = tuple(cover.uncovered for cover in coverage)
        self._surround = plan.surround.painter(Scene(self.placed, upright, self.layout, areas))
        self._picture = [
            PicturePainter(upright, self.layout, planes, rect, coverage[planes[0]]) for planes in ((0,), (1, 2))
        ]

    def compose(self, stored: Planes, canvas: Planes | None = None) -> Planes:
        """Compose one frame from a picture as decoded, into given planes or new ones."""
        drawn = canvas or Planes.empty(self.layout)
        upright = stored.rotated(self._rotation)
        if self._change:
            upright = self._change.apply(upright)
        self._surround.paint(upright, drawn)
        for painter in self._picture:
            painter.paint(upright, drawn)
        self._bars.paint(drawn)
        return drawn


def compose(plan: Plan, facts: Facts, path: Path, time: Fraction, size: tuple[int, int] | None = None) -> Planes:
    """One finished frame of a clip at a time in seconds, at the frame's own size unless another is given."""
    with ClipReader(path, facts) as reader:
        stored = reader.frame_at(time).planes
        return Compositor(plan, stored.layout, facts, size).compose(stored)
