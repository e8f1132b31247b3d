"""The scene extended beyond the picture's edges, from a plate."""

from collections.abc import Callable
from fractions import Fraction
from typing import Annotated, Any, ClassVar, Literal, Self

from pydantic import Field, model_validator

from cadrage.extend.request import MOST_DABS, SIDES, CameraKind, Dab, OutsidePicture, PlateSide, Side
from cadrage.fields import LONGEST_CLIP, percent
from cadrage.surrounds.backgrounds import Background
from cadrage.surrounds.base import Painter, Scene
from cadrage.surrounds.blurred import Blurred
from cadrage.surrounds.extended_painter import ExtendedPainter
from cadrage.values import Exact, Value

Moment = Annotated[Exact, Field(ge=0, le=LONGEST_CLIP)]


class Extended(Value):
    """The scene, gone on with.

    Attributes:
        camera: whether it stands, or its movement is followed and real pixels of other moments are used.
        left, right, top, bottom: how each side goes on; one that is None does not.
        start, end: the stretch whose pictures the plate is made of, in seconds of the clip; None is the whole shot.
        excluded: places of the picture that must not be copied, where the camera stands.
        outside: a picture from elsewhere in the place of what would be invented.
        overlap: how far the plate reaches into the picture, fading, in percent of the picture's height.
        match_light: whether the plate is as light, picture by picture, as the picture is along its edge.
        match_grain: whether it has noise like the picture's.
        beyond: the background where there is no plate.
    """

    title: ClassVar[str] = "Extended"
    animated: ClassVar[bool] = False
    by_hand: ClassVar[tuple[str, ...]] = (*SIDES, "camera", "start", "end", "excluded", "outside")
    """Fields that a list of controls has none for."""
    kind: Literal["extended"] = "extended"
    camera: CameraKind = Field(default="still", title="Camera")
    left: PlateSide | None = PlateSide()
    right: PlateSide | None = PlateSide()
    top: PlateSide | None = None
    bottom: PlateSide | None = None
    start: Moment | None = None
    end: Moment | None = None
    excluded: Annotated[tuple[Dab, ...], Field(max_length=MOST_DABS)] = ()
    outside: OutsidePicture | None = None
    overlap: Exact = percent(0, 10, 3, "Overlap", 0.1)
    match_light: bool = Field(default=True, title="Light as the picture's")
    match_grain: bool = Field(default=True, title="Grain as the picture's")
    beyond: Background = Field(default=Blurred(), title="Beyond it")

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.start is not None and self.end is not None and self.end <= self.start:
            raise ValueError("a stretch ends after it starts")
        return self

    @property
    def sides(self) -> dict[Side, PlateSide]:
        """The sides that go on."""
        return {side: one for side in SIDES if (one := getattr(self, side)) is not None}

    @property
    def reusable(self) -> Self:
        """The same without what belongs to one clip: its moments, places of its picture, a picture made for it."""
        return self.model_copy(update={"start": None, "end": None, "excluded": (), "outside": None})

    @property
    def summary(self) -> str:
        """See `Specification`."""
        return "scene extended"

    @property
    def asset_refs(self) -> tuple[str, ...]:
        """See `Specification`."""
        return (*((self.outside.of,) if self.outside else ()), *self.beyond.asset_refs)

    @property
    def backgrounds(self) -> tuple[Any, ...]:
        """See `Specification`."""
        return (self.beyond,)

    def map_backgrounds(self, change: Callable[[Any], Any]) -> Self:
        """See `Specification`."""
        return self.model_copy(update={"beyond": change(self.beyond)})

    def stretch(self, start: Fraction, end: Fraction) -> tuple[Fraction, Fraction]:
        """The stretch that the plate is made of, in a shot; the whole shot where it lies outside."""
        first = start if self.start is None else max(start, self.start)
        last = end if self.end is None else min(end, self.end)
        return (first, last) if first < last else (start, end)

    def painter(self, scene: Scene) -> Painter:
        """See `Specification`."""
        beyond = self.beyond.painter(scene)
        if scene.plate is None:
            return beyond
        sides = frozenset(self.sides)
        overlap = float(self.overlap) / 100
        return ExtendedPainter(
            scene, scene.plate, beyond, sides, overlap, light=self.match_light, grain=self.match_grain
        )
