"""One picture that stands: an image, or a moment of any clip."""

from typing import ClassVar, Literal

from pydantic import Field

from cadrage.fields import moment, named, percent
from cadrage.pixels.planes import Planes
from cadrage.surrounds.backdrop import Backdrop, Fit
from cadrage.surrounds.base import FrameState, Scene, all_of, copy_areas
from cadrage.surrounds.toning import Toned
from cadrage.values import Exact


class Still(Toned):
    """A picture that stands.

    Attributes:
        of: the image or the clip, by the name it has where the plan is kept; empty for the clip itself.
        at: which moment of a clip, in seconds.
        fit: covering the frame, whole inside it, or in tiles.
        size: percent of that size; of tiles, percent of the frame's height.
        softness: standard deviation of a blur, in percent of the frame's height.
    """

    title: ClassVar[str] = "Still"
    kind: Literal["still"] = "still"
    of: str = named("Picture or clip", "picture")
    at: Exact = moment("Moment")
    fit: Fit = Field(default="cover", title="Fit")
    size: Exact = percent(10, 300, 100, "Size")
    softness: Exact = percent(0, 12, 0, "Blur", 0.1)
    brightness: Exact = percent(0, 150, 70, "Brightness")

    @property
    def summary(self) -> str:
        """See `Specification`."""
        return {"cover": "still", "whole": "still, whole", "tiled": "still, in tiles"}[self.fit]

    @property
    def asset_refs(self) -> tuple[str, ...]:
        """See `Specification`."""
        return (self.of,)

    def painter(self, scene: Scene) -> "StillPainter":
        """See `Specification`."""
        return StillPainter(self, scene)


class StillPainter:
    """Draws the picture once and copies it from there."""

    def __init__(self, still: Still, scene: Scene) -> None:
        material, _ = scene.library.clip(still.of)
        stored = scene.library.frame(still.of, still.at).planes
        backdrop = Backdrop(
            still, scene, material, stored.layout, fit=still.fit, size=still.size, softness=still.softness
        )
        self.scene, self.backdrop = scene, backdrop
        self.shown = backdrop.upright.apply(stored)
        self.made: Planes | None = None

    def paint(self, state: FrameState, canvas: Planes) -> None:
        """See `Painter`."""
        if self.made is None:
            self.made = Planes.empty(self.scene.canvas)
            self.backdrop.draw(self.shown, self.made, state.areas if self.scene.constant else all_of(self.made.layout))
        copy_areas(state.areas, self.made.arrays, canvas)
