"""A plan and a picture make one finished frame."""

from fractions import Fraction
from pathlib import Path
from typing import Literal

from cadrage.compose.bars import BarsPainter
from cadrage.compose.framed import surround_opening, track_of
from cadrage.compose.moment import moment_of
from cadrage.compose.picture import PicturePainter, PictureTarget
from cadrage.compose.target import composed_peak, screen_layout
from cadrage.compose.turned import TurnedPainter
from cadrage.finish import CaptionsPainter, GlobalGrade, ShadowOutline, TitlesPainter
from cadrage.footage import EMPTY, Library, MediaInfo, Orient, open_footage, resolve
from cadrage.pixels.mapping import canvas_rect
from cadrage.pixels.planes import PLANE_GROUPS, Layout, Planes
from cadrage.pixels.relight import Delivery, composing_layout
from cadrage.plan import Plan
from cadrage.surrounds import FrameState, Scene, WhilePlaced
from cadrage.surrounds.base import Areas, all_of


class Compositor:
    """Composes the frames of one plan at one size. All that does not change is worked out once, here.

    Holds scratch memory: one thread at a time.

    Args:
        plan: the framing.
        source: the layout of the clip's pictures as decoded.
        info: what the clip is.
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
        info: MediaInfo,
        target: tuple[int, int] | Layout | None = None,
        *,
        library: Library = EMPTY,
        picture: Literal["over", "left_out", "cut_out"] = "over",
    ) -> None:
        reading = resolve(info, plan.interpretation)
        self.layout = target if isinstance(target, Layout) else screen_layout(plan.frame, target)
        canvas = composing_layout(self.layout, composed_peak(reading.colour)) if plan.frame.hdr else self.layout
        self._canvas, self._delivery = canvas, Delivery(canvas, self.layout) if plan.frame.hdr else None
        self.track = track_of(plan, reading)
        self._upright = Orient(source, reading, canvas.colour, mirror=self.track.at(Fraction(0)).mirror)
        upright = self._upright.layout
        self._pictures = WhilePlaced(
            lambda placed, _: _picture_painters(PictureTarget.of(placed, reading.cut, upright, canvas, plan))
        )
        self._picture = picture
        self._everywhere = all_of(canvas)
        self._bars = None
        if plan.frame.outside == "bars":
            drawn = canvas_rect(plan.frame.drawn_rect, (plan.frame.width, plan.frame.height), canvas)
            self._bars = BarsPainter(canvas, drawn, plan.frame.bar_colour)
        self.animated = plan.surround.animated or plan.finish.animated or not self.track.constant
        scene = Scene(
            plan.frame.raster,
            surround_opening(plan),
            reading.cut.rect,
            upright,
            canvas,
            library,
            constant=self.track.constant,
        )
        self._surround = plan.surround.painter(scene)
        self._under = ShadowOutline(plan.finish, canvas)
        self._over = GlobalGrade(plan.finish, canvas, float(plan.frame.raster.display_aspect))
        self._titles = TitlesPainter(plan.finish.titles, canvas, scene.pixel_aspect)
        self._captions = None if plan.finish.captions.off else CaptionsPainter(plan.finish.captions, scene)

    def compose(self, stored: Planes, canvas: Planes | None = None, time: Fraction = Fraction(0)) -> Planes:
        """Compose one frame from a picture as decoded, into given planes or new ones.

        `time` is the picture's, in seconds of the clip; what moves by itself follows it.
        """
        delivered = canvas or Planes.empty(self.layout)
        drawn = Planes.empty(self._canvas) if self._delivery else delivered
        placed = self.track.at(time)
        painters = self._pictures.of(placed)
        areas = self._everywhere if self._picture == "left_out" else _uncovered(painters)
        state = FrameState(self._upright.apply(stored), time, placed, areas)
        self._surround.paint(state, drawn)
        self._over.paint_surround(drawn)
        self._under.paint(state, drawn)
        for painter in painters if self._picture == "over" else ():
            painter.paint(state.planes, drawn)
        self._over.paint(drawn, time)
        if self._bars:
            self._bars.paint(drawn)
        self._titles.paint(drawn, time)
        if self._captions:
            self._captions.paint(state, drawn)
        if self._delivery:
            self._delivery.apply(drawn, delivered)
        return delivered


def _picture_painters(sheet: PictureTarget) -> tuple[PicturePainter | TurnedPainter, ...]:
    """What draws luma, and what draws chroma, for one placement."""
    kind = TurnedPainter if sheet.placed.angle or sheet.edge.shapes else PicturePainter
    return tuple(kind(sheet, planes) for planes in PLANE_GROUPS)


def _uncovered(painters: tuple[PicturePainter | TurnedPainter, ...]) -> Areas:
    """For each plane, the samples that a picture leaves uncovered."""
    luma, chroma = painters
    return luma.uncovered, chroma.uncovered, chroma.uncovered


def compose(
    plan: Plan,
    info: MediaInfo,
    path: Path,
    time: Fraction,
    size: tuple[int, int] | None = None,
    library: Library = EMPTY,
) -> Planes:
    """One finished frame of a clip at a time in seconds, at the frame's own size unless another is given."""
    with open_footage(path, info, plan.interpretation) as reader:
        stored = reader.frame_at(time)
        made = Compositor(plan, stored.planes.layout, info, size, library=library)
        return made.compose(stored.planes, time=moment_of(info, stored, time))
