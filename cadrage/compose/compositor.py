"""A plan and a picture make one finished frame."""

from fractions import Fraction
from pathlib import Path
from typing import Literal

from cadrage.compose.bars import BarsPainter
from cadrage.compose.framed import placed_in, surround_opening
from cadrage.compose.moment import moment_of
from cadrage.compose.picture import PicturePainter, Sheet
from cadrage.compose.target import target_layout
from cadrage.compose.turned import TurnedPainter
from cadrage.finish import CaptionsPainter, OverPainter, TitlesPainter, UnderPainter
from cadrage.footage import EMPTY, Facts, Library, Upright, open_footage, read_as
from cadrage.pixels.mapping import Area, canvas_rect
from cadrage.pixels.planes import PLANE_GROUPS, Layout, Planes
from cadrage.plan import Plan
from cadrage.surrounds import Scene


class Compositor:
    """Composes the frames of one plan at one size. All that does not change is worked out once, here.

    Holds scratch memory: one thread at a time.

    Args:
        plan: the framing.
        source: the layout of the clip's pictures as decoded.
        facts: what the clip is.
        target: luma samples (width, height) to draw the frame on, or all that its samples are to be; as a file of
            the frame's own size usually has them unless given.
        library: what the plan may use besides its own clip.
        picture: drawn over the surround; or left out, where the surround goes on in its place; or cut out, where
            nothing is drawn in its place.
    """

    def __init__(
        self,
        plan: Plan,
        source: Layout,
        facts: Facts,
        target: tuple[int, int] | Layout | None = None,
        *,
        library: Library = EMPTY,
        picture: Literal["over", "left out", "cut out"] = "over",
    ) -> None:
        reading = read_as(facts, plan.interpretation)
        if isinstance(target, Layout):
            self.layout = target
        else:
            self.layout = target_layout(reading.colour, plan.frame, target)
        self.placed = placed_in(plan, reading)
        self._upright = Upright(source, reading, self.layout.colour, mirror=self.placed.mirror)
        upright = self._upright.layout
        sheet = Sheet.of(self.placed, reading.cut, upright, self.layout, plan)
        kind = TurnedPainter if self.placed.angle or plan.finish.edge.shapes else PicturePainter
        luma, chroma = painters = [kind(sheet, planes) for planes in PLANE_GROUPS]
        self._picture = painters if picture == "over" else []
        self._bars = None
        if plan.frame.outside == "bars":
            drawn = canvas_rect(plan.frame.drawn_rect, (plan.frame.width, plan.frame.height), self.layout)
            self._bars = BarsPainter(self.layout, drawn, plan.frame.bar_colour)
        self.moves = plan.surround.moves or plan.finish.moves
        areas: tuple[tuple[Area, ...], ...] = (luma.uncovered, chroma.uncovered, chroma.uncovered)
        if picture == "left out":
            areas = tuple((Area.of(self.layout.shape(plane)),) for plane in range(3))
        opening = surround_opening(plan)
        scene = Scene(self.placed, opening, reading.cut.rect, upright, self.layout, areas, library)
        self._surround = plan.surround.painter(scene)
        self._under = UnderPainter(plan.finish, self.placed, self.layout, areas)
        self._over = OverPainter(plan.finish, self.layout, float(plan.frame.raster.display_aspect))
        self._titles = TitlesPainter(plan.finish.titles, self.layout, scene.pixel_aspect)
        self._captions = None
        if not plan.finish.captions.off:
            self._captions = CaptionsPainter(
                plan.finish.captions, library, self.placed, opening, self.layout, scene.pixel_aspect
            )

    def compose(self, stored: Planes, canvas: Planes | None = None, time: Fraction = Fraction(0)) -> Planes:
        """Compose one frame from a picture as decoded, into given planes or new ones.

        `time` is the picture's, in seconds of the clip; what moves by itself follows it.
        """
        drawn = canvas or Planes.empty(self.layout)
        upright = self._upright.apply(stored)
        self._surround.paint(upright, drawn, time)
        self._over.paint_surround(drawn)
        self._under.paint(drawn)
        for painter in self._picture:
            painter.paint(upright, drawn)
        self._over.paint(drawn, time)
        if self._bars:
            self._bars.paint(drawn)
        self._titles.paint(drawn, time)
        if self._captions:
            self._captions.paint(drawn, time)
        return drawn


def compose(
    plan: Plan,
    facts: Facts,
    path: Path,
    time: Fraction,
    size: tuple[int, int] | None = None,
    library: Library = EMPTY,
) -> Planes:
    """One finished frame of a clip at a time in seconds, at the frame's own size unless another is given."""
    with open_footage(path, facts, plan.interpretation) as reader:
        stored = reader.frame_at(time)
        made = Compositor(plan, stored.planes.layout, facts, size, library=library)
        return made.compose(stored.planes, time=moment_of(stored, time))
