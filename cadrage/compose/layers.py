"""A framing taken apart, for people who finish elsewhere: the surround alone, or the picture alone with its coverage.

Laid over one another they are the framing again, but for what lies over both: vignette, grain and words, which are in
neither. A grade over both is in each. The picture's colours are straight: not mixed with what is behind it, and going
on beyond its edge.
"""

from dataclasses import dataclass
from fractions import Fraction
from typing import Any, Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.compose.compositor import Compositor
from cadrage.finish import Edge, Finish, Grade
from cadrage.footage import EMPTY, Library, MediaInfo
from cadrage.pixels.colour import Colour
from cadrage.pixels.light import codes_of
from cadrage.pixels.planes import Layout, Planes
from cadrage.pixels.resample import clip_codes, quantise
from cadrage.plan import Plan
from cadrage.surrounds import EdgeExtend, Plain, WhilePlaced

FAINTEST = 0.05  # share of a sample below which taking out the ground would leave nothing but rounding
LayerName = Literal["everything", "surround_alone", "picture_alone"]


def layer_plan(plan: Plan, layer: LayerName) -> Plan:
    """The plan that draws a layer."""
    if layer == "everything":
        return plan
    return plan.map_shots(_surround_alone if layer == "surround_alone" else _picture_alone)


def _surround_alone(plan: Plan) -> dict[str, Any]:
    finish = plan.finish
    edge = finish.edge.model_copy(update={"outline": 0.0})
    return {"finish": Finish(shadow=finish.shadow, edge=edge, grade=finish.grade)}


def _picture_alone(plan: Plan) -> dict[str, Any]:
    finish = plan.finish
    grade = Grade() if finish.grade.surround_only else finish.grade
    beyond = EdgeExtend(brightness=100, softness=0)  # so that whoever scales it finds its own colours there, not black
    return {"finish": Finish(edge=finish.edge, grade=grade), "surround": beyond}


def coverage(
    plan: Plan, source: Layout, info: MediaInfo, canvas: Layout, time: Fraction = Fraction(0)
) -> NDArray[np.float32]:
    """How much the picture covers of each luma sample of a frame at a time: (rows, columns), 0 to 1."""
    return _Coverage(plan, source, info, canvas).at(time).luma


@dataclass(frozen=True, slots=True)
class _Covered:
    """How much of each sample is covered, 0 to 1: of luma, and of the samples of each plane."""

    luma: NDArray[np.float32]
    planes: tuple[NDArray[np.float32], ...]


class _Coverage:
    """What a picture covers: a white one on black, drawn as every picture is, so that no edge can be elsewhere."""

    def __init__(self, plan: Plan, source: Layout, info: MediaInfo, canvas: Layout) -> None:
        frame = plan.frame.model_copy(update={"bar_colour": "#000000"})
        white = plan.map_shots(_white).model_copy(update={"frame": frame})
        self._picture = Planes.empty(source)
        top = Colour(source.colour.matrix, source.colour.full_range)  # of HDR, the brightest code: white in SDR
        for plane, code in zip(self._picture.arrays, codes_of("#ffffff", top, source.depth), strict=True):
            plane[:] = round(code)
        self._compositor = Compositor(white, source, info, canvas)
        self._time = Fraction(0)
        self._kept = WhilePlaced[_Covered]()

    def at(self, time: Fraction) -> _Covered:
        """At a time; kept while a placement stands."""
        self._time = time
        return self._kept.of(lambda *_: self._drawn(), self._compositor.track.at(time))

    def _drawn(self) -> _Covered:
        canvas = self._compositor.layout
        drawn = self._compositor.compose(self._picture, time=self._time)
        black, span, _ = canvas.colour.code_range(canvas.depth)
        luma = drawn.arrays[0].astype(np.float32)
        share: NDArray[np.float32] = np.clip((luma - np.float32(black)) / np.float32(span), 0, 1)
        planes = tuple(
            np.asarray(cv2.resize(share, canvas.shape(plane)[::-1], interpolation=cv2.INTER_AREA), np.float32)
            for plane in range(3)
        )
        return _Covered(share, planes)


def _white(plan: Plan) -> dict[str, Any]:
    edge: Edge = plan.finish.edge.model_copy(update={"colour": "#ffffff"})
    return {"surround": Plain(colour="#000000"), "finish": Finish(edge=edge)}


def _bare(plan: Plan) -> dict[str, Any]:
    edge = plan.finish.edge.model_copy(update={"outline": 0.0})
    return {"finish": plan.finish.model_copy(update={"edge": edge})}


class PictureAlone:
    """Composes the picture alone, in straight colours; see `Compositor`, whose place it takes.

    Where the picture half covers a sample, what was mixed in from the ground behind it is taken out again.
    """

    def __init__(
        self, plan: Plan, source: Layout, info: MediaInfo, target: Layout, *, library: Library = EMPTY
    ) -> None:
        drawn = layer_plan(plan, "picture_alone")
        ground = drawn.map_shots(_bare)
        self._mixed = Compositor(drawn, source, info, target, library=library)
        self._ground = Compositor(ground, source, info, target, library=library, picture="cut_out")
        self._behind = Planes.empty(target)
        self.layout, self.animated = target, self._mixed.animated
        self._coverage = _Coverage(drawn, source, info, target)

    def coverage_at(self, time: Fraction) -> NDArray[np.float32]:
        """How much the picture covers of each luma sample of the frame of a time: (rows, columns), 0 to 1."""
        return self._coverage.at(time).luma

    def compose(self, stored: Planes, canvas: Planes | None = None, time: Fraction = Fraction(0)) -> Planes:
        """See `Compositor`."""
        drawn = self._mixed.compose(stored, canvas, time)
        behind = self._ground.compose(stored, self._behind, time)
        for plane, ground, share in zip(drawn.arrays, behind.arrays, self._coverage.at(time).planes, strict=True):
            part = (share > FAINTEST) & (share < 1)
            back = ground[part].astype(np.float32)
            straight = back + (plane[part] - back) / share[part]
            clip_codes(straight, self.layout.depth)
            settled = np.empty(straight.shape, plane.dtype)
            quantise(straight, settled, self.layout.depth)
            plane[part] = settled
        return drawn
