"""Another clip behind this one, going round without a visible join."""

from dataclasses import dataclass
from fractions import Fraction
from typing import ClassVar, Literal

import cv2

from cadrage.errors import BadRequest
from cadrage.fields import named, percent, seconds
from cadrage.footage.interpretation import taken_as
from cadrage.pixels.planes import Planes, samples
from cadrage.surrounds.backdrop import Backdrop
from cadrage.surrounds.base import Scene
from cadrage.surrounds.toning import Toned


class Loop(Toned):
    """Another clip, looped.

    Attributes:
        of: the clip, by the name it has where the plan is kept; empty for the clip itself.
        crossfade: seconds of the clip over which its end becomes its beginning; at most half of it.
        speed: percent of its own.
        size: percent of the size that just covers the frame.
        softness: standard deviation of a blur, in percent of the frame's height.
    """

    title: ClassVar[str] = "Loop"
    moves: ClassVar[bool] = True
    kind: Literal["loop"] = "loop"
    of: str = named("Clip", "clip")
    crossfade: float = seconds(0, 10, 1, "Crossfade")
    speed: float = percent(10, 200, 100, "Speed")
    size: float = percent(100, 300, 100, "Size")
    softness: float = percent(0, 12, 2, "Softness", 0.1)
    brightness: float = percent(0, 150, 60, "Brightness")

    @property
    def words(self) -> str:
        """See `Specification`."""
        return "loop" if self.speed == 100 else f"loop at {self.speed:g} %"

    @property
    def names(self) -> tuple[str, ...]:
        """See `Specification`."""
        return (self.of,)

    def painter(self, scene: Scene) -> "LoopPainter":
        """See `Specification`."""
        return LoopPainter(self, scene)


@dataclass(frozen=True, slots=True)
class Round:
    """Where a looped clip stands at a time.

    Attributes:
        lasts: seconds of the clip.
        crossfade: seconds in which its end, still going, fades into its beginning.
        speed: seconds of the clip for one of the film.
    """

    lasts: Fraction
    crossfade: Fraction
    speed: Fraction

    def at(self, time: Fraction) -> tuple[Fraction, Fraction, Fraction]:
        """A place in the clip, a second place, and the share of the second.

        At the beginning of a round the second place is where the last round left off, so nothing jumps.
        """
        length = self.lasts - self.crossfade
        place = time * self.speed % length
        if place >= self.crossfade:
            return place, place, Fraction(0)
        return place, place + length, 1 - place / self.crossfade


class LoopPainter:
    """Reads the clip at one place, in the crossfade at two, mixes, and draws."""

    def __init__(self, loop: Loop, scene: Scene) -> None:
        self.name, self.library = loop.of, scene.library
        material, facts = self.library.clip(loop.of)
        taken = taken_as(facts, material.interpretation)
        if facts.kind == "still" or taken.duration <= 1 / taken.rate:
            raise BadRequest(
                "A loop needs a clip of more than one picture.", remedy="Use it as a still.", clip=material.path
            )
        fade = min(Fraction(str(loop.crossfade)), taken.duration / 2)
        self.round = Round(taken.duration, fade, Fraction(str(loop.speed)) / 100)
        stored = self.library.frame(loop.of, Fraction(0)).planes.layout
        self.backdrop = Backdrop(loop, scene, material, stored, fit="cover", size=loop.size, softness=loop.softness)

    def paint(self, source: Planes, canvas: Planes, time: Fraction) -> None:
        """See `Painter`."""
        del source
        place, other, share = self.round.at(time)
        shown = self.library.frame(self.name, place).planes
        if share:
            shown = _mixed(shown, self.library.frame(self.name, other, voice=1).planes, float(share))
        self.backdrop.draw(self.backdrop.upright.apply(shown), canvas)


def _mixed(one: Planes, other: Planes, share: float) -> Planes:
    """Two pictures of one layout, the second at a share."""
    y, cb, cr = (
        samples(cv2.addWeighted(first, 1 - share, second, share, 0))
        for first, second in zip(one.arrays, other.arrays, strict=True)
    )
    return Planes((y, cb, cr), one.layout)
