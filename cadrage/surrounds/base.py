"""What every kind of surround offers: a specification that is stored, and a painter made from it."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields
from fractions import Fraction
from typing import Any, ClassVar, Generic, Protocol, Self, TypeVar, runtime_checkable

from cadrage.extend.plate import Plate
from cadrage.extend.request import Side
from cadrage.footage.library import Library
from cadrage.geometry import FrameRect, Opening, Placed, Raster, SourceRect
from cadrage.motion.track import TimeSpan
from cadrage.pixels.mapping import Area, canvas_rect
from cadrage.pixels.planes import Layout, Planes, Samples

Made = TypeVar("Made")


Taken = Callable[[TimeSpan | None], FrameRect]
Areas = tuple[tuple[Area, ...], ...]
"""For each plane, samples to paint."""


@dataclass(frozen=True, slots=True)
class Scene:
    """The context of a painter; it stays the same for a whole render.

    Attributes:
        frame: the raster delivered.
        opening: the part of the frame that is filled.
        held: the part of the upright source that the pictures hold; it may reach past the picture by part of a pixel.
        source: the pictures that will be handed in, upright.
        canvas: to paint on.
        library: of pictures and clips that may be used besides the clip.
        constant: whether the placement is the same for every picture.
        taken: all that the picture takes of the frame during a span; during all that is seen of it, where that is None.
        plate: of the scene beyond the picture, where one was asked for and is there.
    """

    frame: Raster
    opening: Opening
    held: SourceRect
    source: Layout
    canvas: Layout
    library: Library
    constant: bool
    taken: Taken
    plate: Plate | None = None

    @property
    def pixel_aspect(self) -> float:
        """Width of one luma sample of the canvas for its height, as it is seen."""
        frame, canvas = self.frame, self.canvas
        return float(frame.pixel_aspect * frame.width / canvas.width * canvas.height / frame.height)

    @property
    def scale(self) -> tuple[Fraction, Fraction]:
        """Luma samples of the canvas for one frame pixel, across and down."""
        return Fraction(self.canvas.width, self.frame.width), Fraction(self.canvas.height, self.frame.height)

    def on_canvas(self, rect: FrameRect) -> FrameRect:
        """A rectangle of the frame in luma samples of the canvas."""
        return canvas_rect(rect, (self.frame.width, self.frame.height), self.canvas)

    def placed_as(self, placed: Placed, areas: Areas) -> "PlacedScene":
        """The same with a placement."""
        mine = {field.name: getattr(self, field.name) for field in fields(Scene)}
        return PlacedScene(**mine, placed=placed, areas=areas)


@dataclass(frozen=True, slots=True, kw_only=True)
class PlacedScene(Scene):
    """A scene for as long as a placement stands.

    Attributes:
        placed: the picture in its frame.
        areas: for each plane, the samples to paint; the picture hides the rest.
    """

    placed: Placed
    areas: Areas

    def source_rect(self, rect: FrameRect) -> FrameRect:
        """Where all that is handed in lies on the canvas when the picture lies on a rectangle of the frame."""
        return self.on_canvas(self.placed.spread(rect, self.held))


@dataclass(frozen=True, slots=True)
class FrameState:
    """What changes from picture to picture.

    Attributes:
        planes: the picture, upright.
        time: its time, in seconds of the clip; what moves by itself follows it.
        placed: where it is placed.
        areas: for each plane, the samples that it leaves uncovered.
    """

    planes: Planes
    time: Fraction
    placed: Placed
    areas: Areas


class WhilePlaced(Generic[Made]):
    """Keeps the results for a placement as long as that stays the same.

    It does not keep what works it out: who keeps this would be kept by it, and many megabytes of those who are done
    would wait for the collector of circles.
    """

    def __init__(self) -> None:
        self._held: tuple[Placed, Areas, Made] | None = None

    def of(self, make: Callable[[Placed, Areas], Made], placed: Placed, areas: Areas = ()) -> Made:
        """The results of `make` for a placement and its uncovered areas; calls must pass the same `make`."""
        held = self._held
        if held is not None and held[1] == areas and (held[0] is placed or held[0] == placed):
            return held[2]
        made = make(placed, areas)
        self._held = (placed, areas, made)
        return made


def all_of(layout: Layout) -> Areas:
    """Every sample of every plane."""
    return tuple((Area.of(layout.shape(plane)),) for plane in range(3))


def copy_areas(areas: Areas, made: Sequence[Samples | None], canvas: Planes) -> None:
    """Paint areas from planes that were made once; one that has no area need not be there."""
    for parts, source, target in zip(areas, made, canvas.arrays, strict=True):
        for area in parts:
            if source is not None:
                target[area.slices] = source[area.slices]


class Painter(Protocol):
    """Paints the surround of one scene, picture after picture, in one thread."""

    def paint(self, state: FrameState, canvas: Planes) -> None:
        """Paint the areas that a picture leaves uncovered."""


@runtime_checkable
class Overlapping(Protocol):
    """A painter that paints under the picture's edges as well, which fade into it.

    Attributes:
        sides: of the picture whose edges fade.
        overlap: how far in, in parts of the picture's height.
    """

    sides: frozenset[Side]
    overlap: float


class Specification(Protocol):
    """The stored form of a surround; a frozen pydantic model with a `kind`."""

    kind: Any
    title: ClassVar[str]

    @property
    def summary(self) -> str:
        """The settings in few words."""

    @property
    def animated(self) -> bool:
        """Whether it changes while the picture is static."""

    @property
    def asset_refs(self) -> tuple[str, ...]:
        """The names of library items that it uses."""

    @property
    def backgrounds(self) -> tuple[Any, ...]:
        """The simple surrounds that it consists of; often only itself."""

    def map_backgrounds(self, change: Callable[[Any], Any]) -> Self:
        """The same with each of those changed."""

    def painter(self, scene: Scene) -> Painter:
        """Work out all that does not change from picture to picture; the rest is kept while a placement stands."""
