"""A framing taken apart, for people who finish elsewhere: the surround alone, or the picture alone with its coverage.

Laid over one another they are the framing again, but for what lies over both: vignette, grain and words, which are in
neither. A grade over both is in each. The picture's colours are straight: not mixed with what is behind it, and going
on beyond its edge.
"""

from fractions import Fraction
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.compose.compositor import Compositor
from cadrage.finish import Edge, Finish, Grade
from cadrage.footage import EMPTY, Facts, Library
from cadrage.pixels.colour import codes_of
from cadrage.pixels.planes import Layout, Planes
from cadrage.pixels.resample import limit, settle
from cadrage.plan import Plan
from cadrage.surrounds import Carried, Plain

FAINTEST = 0.05  # share of a sample below which taking out the ground would leave nothing but rounding
LayerName = Literal["everything", "surround alone", "picture alone"]


def layer_plan(plan: Plan, layer: LayerName) -> Plan:
    """The plan that draws a layer."""
    if layer == "everything":
        return plan
    finish = plan.finish
    if layer == "surround alone":
        edge = finish.edge.model_copy(update={"outline": 0.0})
        kept = Finish(shadow=finish.shadow, edge=edge, grade=finish.grade)
        return plan.model_copy(update={"finish": kept})
    grade = Grade() if finish.grade.surround_only else finish.grade
    beyond = Carried(brightness=100, softness=0)  # so that whoever scales it finds its own colours there, not black
    return plan.model_copy(update={"finish": Finish(edge=finish.edge, grade=grade), "surround": beyond})


def coverage(plan: Plan, source: Layout, facts: Facts, canvas: Layout) -> NDArray[np.float32]:
    """How much the picture covers of each luma sample of a frame: (rows, columns), 0 to 1.

    It is a white picture on black, drawn as every picture is, so that no edge can be at another place.
    """
    edge: Edge = plan.finish.edge.model_copy(update={"colour": "#ffffff"})
    frame = plan.frame.model_copy(update={"bar_colour": "#000000"})
    white = plan.model_copy(
        update={"surround": Plain(colour="#000000"), "finish": Finish(edge=edge), "frame": frame},
    )
    picture = Planes.empty(source)
    for plane, code in zip(picture.arrays, codes_of("#ffffff", source.colour, source.depth), strict=True):
        plane[:] = round(code)
    drawn = Compositor(white, source, facts, canvas).compose(picture, time=Fraction(0))
    black, span, _ = canvas.colour.span(canvas.depth)
    luma = drawn.arrays[0].astype(np.float32)
    share: NDArray[np.float32] = np.clip((luma - np.float32(black)) / np.float32(span), 0, 1)
    return share


class PictureAlone:
    """Composes the picture alone, in straight colours; see `Compositor`, whose place it takes.

    Where the picture half covers a sample, what was mixed in from the ground behind it is taken out again.

    Attributes:
        coverage: how much the picture covers, see `coverage`.
    """

    def __init__(self, plan: Plan, source: Layout, facts: Facts, target: Layout, *, library: Library = EMPTY) -> None:
        drawn = layer_plan(plan, "picture alone")
        bare = drawn.finish.model_copy(update={"edge": drawn.finish.edge.model_copy(update={"outline": 0.0})})
        ground = drawn.model_copy(update={"finish": bare})
        self._mixed = Compositor(drawn, source, facts, target, library=library)
        self._ground = Compositor(ground, source, facts, target, library=library, picture="cut out")
        self._behind = Planes.empty(target)
        self.layout, self.moves = target, self._mixed.moves
        self.coverage = coverage(drawn, source, facts, target)
        self._shares = [
            cv2.resize(self.coverage, target.shape(plane)[::-1], interpolation=cv2.INTER_AREA) for plane in range(3)
        ]

    def compose(self, stored: Planes, canvas: Planes | None = None, time: Fraction = Fraction(0)) -> Planes:
        """See `Compositor`."""
        drawn = self._mixed.compose(stored, canvas, time)
        behind = self._ground.compose(stored, self._behind, time)
        for plane, ground, share in zip(drawn.arrays, behind.arrays, self._shares, strict=True):
            part = (share > FAINTEST) & (share < 1)
            back = ground[part].astype(np.float32)
            straight = back + (plane[part] - back) / share[part]
            limit(straight, self.layout.depth)
            settled = np.empty(straight.shape, plane.dtype)
            settle(straight, settled, self.layout.depth)
            plane[part] = settled
        return drawn
