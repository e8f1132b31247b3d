"""A plan and a picture make one finished frame."""

from fractions import Fraction
from pathlib import Path

from cadrage.compose.bars import BarsPainter
from cadrage.compose.framed import placed_in, surround_opening
from cadrage.compose.moment import moment_of
from cadrage.compose.picture import PicturePainter, Sheet
from cadrage.compose.target import target_layout
from cadrage.compose.turned import TurnedPainter
from cadrage.finish import OverPainter, UnderPainter
from cadrage.footage import Facts, open_footage, read_as
from cadrage.pixels.convert import ColourChange
from cadrage.pixels.mapping import canvas_rect
from cadrage.pixels.planes import Layout, Planes
from cadrage.plan import Plan
from cadrage.surrounds import Scene

PLANE_GROUPS = ((0,), (1, 2))


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
        self._reading = reading = read_as(facts, plan.interpretation)
        self.layout = target_layout(reading.colour, plan.frame, size, depth)
        self.placed = placed_in(plan, reading)
        upright = source.rotated(reading.rotation).cut(reading.cut)
        upright = upright.mirrored if self.placed.mirror else upright
        self._change = None
        if self.layout.colour.converts_from(reading.colour):
            self._change = ColourChange(upright, self.layout.colour)
            upright = self._change.layout
        sheet = Sheet.of(self.placed, reading.cut, upright, self.layout, plan)
        kind = TurnedPainter if self.placed.angle or plan.finish.edge.shapes else PicturePainter
        luma, chroma = self._picture = [kind(sheet, planes) for planes in PLANE_GROUPS]
        self._bars = None
        if plan.frame.outside == "bars":
            drawn = canvas_rect(plan.frame.drawn_rect, (plan.frame.width, plan.frame.height), self.layout)
            self._bars = BarsPainter(self.layout, drawn, plan.frame.bar_colour)
        self.moves = plan.surround.moves or not plan.finish.grain.off
        areas = (luma.uncovered, chroma.uncovered, chroma.uncovered)
        scene = Scene(self.placed, surround_opening(plan), reading.cut.rect, upright, self.layout, areas)
        self._surround = plan.surround.painter(scene)
        self._under = UnderPainter(plan.finish, self.placed, self.layout)
        self._over = OverPainter(plan.finish, self.layout, float(plan.frame.raster.display_aspect))

    def compose(self, stored: Planes, canvas: Planes | None = None, time: Fraction = Fraction(0)) -> Planes:
        """Compose one frame from a picture as decoded, into given planes or new ones.

        `time` is the picture's, in seconds of the clip; what moves by itself follows it.
        """
        drawn = canvas or Planes.empty(self.layout)
        upright = stored.rotated(self._reading.rotation).cut(self._reading.cut)
        if self.placed.mirror:
            upright = upright.mirrored()
        if self._change:
            upright = self._change.apply(upright)
        self._surround.paint(upright, drawn, time)
        self._over.paint_surround(drawn)
        self._under.paint(drawn)
        for painter in self._picture:
            painter.paint(upright, drawn)
        self._over.paint(drawn, time)
        if self._bars:
            self._bars.paint(drawn)
        return drawn


def compose(plan: Plan, facts: Facts, path: Path, time: Fraction, size: tuple[int, int] | None = None) -> Planes:
    """One finished frame of a clip at a time in seconds, at the frame's own size unless another is given."""
    with open_footage(path, facts, plan.interpretation) as reader:
        stored = reader.frame_at(time)
        made = Compositor(plan, stored.planes.layout, facts, size)
        return made.compose(stored.planes, time=moment_of(stored, time))
