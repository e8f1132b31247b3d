"""The frames of one shot."""

from fractions import Fraction
from functools import partial
from typing import Literal

from cadrage.compose.bars import BarsPainter
from cadrage.compose.framed import placed_in, surround_opening
from cadrage.compose.picture import NO_OVERLAP, PicturePainter, PictureTarget
from cadrage.compose.target import composed_peak
from cadrage.compose.turned import TurnedPainter
from cadrage.extend.plate import Plate
from cadrage.finish import CaptionsPainter, GlobalGrade, ShadowOutline, TitlesPainter
from cadrage.footage import Library, MediaInfo, Orient, resolve
from cadrage.motion import PlacementTrack
from cadrage.motion.track import TimeSpan
from cadrage.pixels.mapping import canvas_rect
from cadrage.pixels.planes import PLANE_GROUPS, Layout, Planes
from cadrage.pixels.relight import Delivery, composing_layout
from cadrage.plan import Plan
from cadrage.surrounds import FrameState, Scene, WhilePlaced
from cadrage.surrounds.base import Areas, Overlapping, all_of

Drawn = Literal["over", "left_out", "cut_out"]
"""What becomes of the picture; see `Compositor`."""


class ShotCompositor:
    """Composes the frames of one shot. All that does not change from picture to picture is worked out once, here.

    Holds scratch memory: one thread at a time.

    Args:
        plan: of the shot by itself.
        track: where its picture is.
        source: the layout of the clip's pictures as decoded.
        info: what the clip is.
        layout: of the frames that are made.
        library: what the plan may use besides its own clip.
        picture: what becomes of the picture.
        seen: from the first to the last picture of it that is delivered.
        plate: of the scene beyond its picture, where one was asked for and is there.
    """

    def __init__(
        self,
        plan: Plan,
        track: PlacementTrack,
        source: Layout,
        info: MediaInfo,
        layout: Layout,
        library: Library,
        picture: Drawn,
        seen: TimeSpan,
        plate: Plate | None = None,
    ) -> None:
        reading = resolve(info, plan.interpretation)
        canvas = composing_layout(layout, composed_peak(reading.colour)) if plan.frame.hdr else layout
        self._canvas, self._delivery = canvas, Delivery(canvas, layout) if plan.frame.hdr else None
        self._track = track
        self._upright = Orient(source, reading, canvas.colour, mirror=placed_in(plan, reading).mirror)
        upright = self._upright.layout
        self._picture = picture
        self._everywhere = all_of(canvas)
        self._bars = None
        if plan.frame.outside == "bars":
            drawn = canvas_rect(plan.frame.drawn_rect, (plan.frame.width, plan.frame.height), canvas)
            self._bars = BarsPainter(canvas, drawn, plan.frame.bar_colour)
        self.animated = plan.surround.animated or plan.finish.animated or not self._track.constant
        scene = Scene(
            plan.frame.raster,
            surround_opening(plan),
            reading.cut.rect,
            upright,
            canvas,
            library,
            constant=self._track.constant,
            taken=lambda span: track.taken(_within(span, seen) if span else seen),
            plate=plate,
        )
        self._surround = plan.surround.painter(scene)
        one = self._surround
        overlap = (one.sides, one.overlap) if isinstance(one, Overlapping) else NO_OVERLAP
        self._target = partial(
            PictureTarget.of, cut=reading.cut, source=upright, canvas=canvas, plan=plan, overlap=overlap
        )
        self._pictures = WhilePlaced[tuple[PicturePainter | TurnedPainter, ...]]()
        self._under = ShadowOutline(plan.finish, canvas)
        self._over = GlobalGrade(plan.finish, canvas, float(plan.frame.raster.display_aspect))
        self._titles = TitlesPainter(plan.finish.titles, canvas, scene.pixel_aspect)
        self._captions = None if plan.finish.captions.off else CaptionsPainter(plan.finish.captions, scene)

    def compose(self, stored: Planes, delivered: Planes, time: Fraction) -> Planes:
        """Compose one frame from a picture as decoded, whose time is in seconds of the clip, into given planes."""
        drawn = Planes.empty(self._canvas) if self._delivery else delivered
        placed = self._track.at(time)
        painters = self._pictures.of(lambda placed, _: _picture_painters(self._target(placed)), placed)
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


def _within(span: TimeSpan, seen: TimeSpan) -> TimeSpan:
    """The part of a span that is seen; its nearest end where none is."""
    start, end = (min(max(time, seen[0]), seen[1]) for time in span)
    return start, end


def _picture_painters(sheet: PictureTarget) -> tuple[PicturePainter | TurnedPainter, ...]:
    """What draws luma, and what draws chroma, for one placement."""
    kind = TurnedPainter if sheet.placed.angle or sheet.edge.shapes else PicturePainter
    return tuple(kind(sheet, planes) for planes in PLANE_GROUPS)


def _uncovered(painters: tuple[PicturePainter | TurnedPainter, ...]) -> Areas:
    """For each plane, the samples that a picture leaves uncovered."""
    luma, chroma = painters
    return luma.uncovered, chroma.uncovered, chroma.uncovered
