"""What every kind of surround offers: a specification that is stored, and a painter made from it."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Any, ClassVar, Protocol, Self

from cadrage.footage.library import EMPTY, Library
from cadrage.geometry import FrameRect, Opening, Placed, SourceRect
from cadrage.pixels.mapping import Area, canvas_rect
from cadrage.pixels.planes import Layout, Planes, Samples


@dataclass(frozen=True, slots=True)
class Scene:
    """What a painter is made for; all of it stays the same from picture to picture.

    Attributes:
        placed: the picture in its frame.
        opening: the part of the frame that is filled.
        held: the part of the upright source that the pictures hold; it may reach past the picture by part of a pixel.
        source: the pictures that will be handed in, upright.
        canvas: what is painted on.
        areas: for each plane, the samples to paint; the picture hides the rest.
        library: what may be used besides the clip.
    """

    placed: Placed
    opening: Opening
    held: SourceRect
    source: Layout
    canvas: Layout
    areas: tuple[tuple[Area, ...], ...]
    library: Library = EMPTY

    @property
    def pixel_aspect(self) -> float:
        """Width of one luma sample of the canvas for its height, as it is seen."""
        frame, canvas = self.placed.frame, self.canvas
        return float(frame.pixel_aspect * frame.width / canvas.width * canvas.height / frame.height)

    @property
    def scale(self) -> tuple[Fraction, Fraction]:
        """Luma samples of the canvas for one frame pixel, across and down."""
        frame = self.placed.frame
        return Fraction(self.canvas.width, frame.width), Fraction(self.canvas.height, frame.height)

    def on_canvas(self, rect: FrameRect) -> FrameRect:
        """A rectangle of the frame in luma samples of the canvas."""
        return canvas_rect(rect, (self.placed.frame.width, self.placed.frame.height), self.canvas)

    def source_rect(self, rect: FrameRect) -> FrameRect:
        """Where all that is handed in lies on the canvas when the picture lies on a rectangle of the frame."""
        return self.on_canvas(self.placed.spread(rect, self.held))


def copy_areas(areas: tuple[tuple[Area, ...], ...], made: Sequence[Samples | None], canvas: Planes) -> None:
    """Paint areas from planes that were made once; one that has no area need not be there."""
    for parts, source, target in zip(areas, made, canvas.arrays, strict=True):
        for area in parts:
            if source is not None:
                target[area.slices] = source[area.slices]


class Painter(Protocol):
    """Paints the surround of one scene, picture after picture, in one thread."""

    def paint(self, source: Planes, canvas: Planes, time: Fraction) -> None:
        """Paint the areas of the scene. `source` is the picture at this time, in seconds of the clip, upright."""


class Specification(Protocol):
    """The stored form of a surround; a frozen pydantic model with a `kind`."""

    kind: Any
    title: ClassVar[str]

    @property
    def words(self) -> str:
        """What is set, in few words."""

    @property
    def moves(self) -> bool:
        """Whether it changes while the picture stands still."""

    @property
    def names(self) -> tuple[str, ...]:
        """What it uses of a library."""

    @property
    def grounds(self) -> tuple[Any, ...]:
        """The surrounds it consists of, each one thing by itself; often only itself."""

    def over_grounds(self, change: Callable[[Any], Any]) -> Self:
        """The same with each of those changed."""

    def painter(self, scene: Scene) -> Painter:
        """Work out all that does not change from picture to picture."""
