"""Another clip behind this one, going round without a visible join."""

from dataclasses import dataclass
from fractions import Fraction
from typing import ClassVar, Literal

from cadrage.errors import BadRequest
from cadrage.fields import named, percent, seconds
from cadrage.footage.interpretation import effective_timing
from cadrage.pixels.blend import mixed
from cadrage.pixels.planes import Planes
from cadrage.surrounds.backdrop import Backdrop
from cadrage.surrounds.base import FrameState, Scene
from cadrage.surrounds.toning import Toned
from cadrage.values import Exact, format_exact


class Loop(Toned):
    """Another clip, looped.

    Attributes:
        of: the clip, by the name it has where the plan is kept; empty for the clip itself.
        crossfade: seconds of the clip over which its end becomes its beginning; at most half of it.
        speed: percent of the clip's speed.
        size: percent of the size that just covers the frame.
        softness: standard deviation of a blur, in percent of the frame's height.
    """

    title: ClassVar[str] = "Loop"
    animated: ClassVar[bool] = True
    kind: Literal["loop"] = "loop"
    of: str = named("Clip", "clip")
    crossfade: Exact = seconds(0, 10, 1, "Crossfade")
    speed: Exact = percent(10, 200, 100, "Speed")
    size: Exact = percent(100, 300, 100, "Size")
    softness: Exact = percent(0, 12, 2, "Blur", 0.1)
    brightness: Exact = percent(0, 150, 60, "Brightness")

    @property
    def summary(self) -> str:
        """See `Specification`."""
        return "loop" if self.speed == 100 else f"loop at {format_exact(self.speed)}%"

    @property
    def asset_refs(self) -> tuple[str, ...]:
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
        material, info = self.library.clip(loop.of)
        taken = effective_timing(info, material.interpretation)
        if info.kind == "still" or taken.duration <= 1 / taken.rate:
            raise BadRequest(
                "A loop needs a clip of more than one picture.", remedy="Use it as a still.", clip=material.path
            )
        fade = min(loop.crossfade, taken.duration / 2)
        self.round = Round(taken.duration, fade, loop.speed / 100)
        stored = self.library.frame(loop.of, Fraction(0)).planes.layout
        self.backdrop = Backdrop(loop, scene, material, stored, fit="cover", size=loop.size, softness=loop.softness)

    def paint(self, state: FrameState, canvas: Planes) -> None:
        """See `Painter`."""
        place, other, share = self.round.at(state.time)
        shown = self.library.frame(self.name, place).planes
        if share:
            shown = mixed(shown, self.library.frame(self.name, other, reader_id=1).planes, float(share))
        self.backdrop.draw(self.backdrop.upright.apply(shown), canvas, state.areas)
