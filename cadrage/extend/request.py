"""What is asked of a plate; two that ask the same have the same plate."""

from fractions import Fraction
from typing import Annotated, Literal

from pydantic import Field

from cadrage.fields import named, percent
from cadrage.values import Exact, Value

Side = Literal["left", "right", "top", "bottom"]
SIDES: tuple[Side, ...] = ("left", "right", "top", "bottom")
Way = Literal["completed", "mirrored"]
CameraKind = Literal["still", "moving"]
MOST_DABS = 400
MOST_VARIANTS = 1000
LONGEST_SIDE = 16384
"""Pixels of a plate each way, at most; a picture of UHD extended threefold."""


class PlateSide(Value):
    """How one side goes on.

    Attributes:
        way: completed out of the picture's own patches, or the picture mirrored and growing soft.
        variant: which of many, from 0; the same number always gives the same.
        melt: how soft it has grown at its far end: standard deviation, in percent of the picture's height.
        reach: how far it goes on, in percent of the picture's width, or above and below of its height; None is as far
            as the frame needs.
    """

    way: Way = Field(default="completed", title="Made by")
    variant: Annotated[int, Field(ge=0, lt=MOST_VARIANTS)] = 0
    melt: Exact = percent(0, 10, 0.3, "Blend", 0.1)
    reach: Annotated[Exact, Field(gt=0, le=1000)] | None = None


class Dab(Value):
    """A round place of the picture that must not be copied.

    Attributes:
        x, y: its middle, in parts of the picture's width and height.
        radius: in parts of the picture's height.
    """

    x: Annotated[Exact, Field(ge=0, le=1)]
    y: Annotated[Exact, Field(ge=0, le=1)]
    radius: Annotated[Exact, Field(gt=0, le=1)]


class OutsidePicture(Value):
    """A picture from elsewhere, finished from a still of this framing.

    Attributes:
        of: the picture, by the name it has where the plan is kept.
        x, y: where its upper left corner lies, in parts of the picture's width and height from the picture's.
        width, height: its sides, in the same.
    """

    of: str = named("Picture", "picture")
    x: Annotated[Exact, Field(ge=-100, le=100)]
    y: Annotated[Exact, Field(ge=-100, le=100)]
    width: Annotated[Exact, Field(gt=0, le=200)]
    height: Annotated[Exact, Field(gt=0, le=200)]


class AskedSide(Value):
    """How one side goes on, in pixels of the plate."""

    way: Way
    variant: int
    melt: Exact
    reach: Annotated[int, Field(gt=0, le=LONGEST_SIDE)]


class SceneRequest(Value):
    """The clip's own pixels of a stretch, merged.

    Attributes:
        start, end: of the stretch, in seconds of the clip.
        camera: whether it stands, or its movement is followed.
        width, height: of the whole picture, in pixels of the plate.
    """

    start: Exact
    end: Exact
    camera: CameraKind
    width: Annotated[int, Field(ge=2, le=LONGEST_SIDE)]
    height: Annotated[int, Field(ge=2, le=LONGEST_SIDE)]


class PlateRequest(Value):
    """A plate.

    Attributes:
        scene: the clip's own pixels that it is made from.
        sides: how it goes on, by side; a side that is not there does not.
        excluded: places of the picture that must not be copied.
        outside: a picture from elsewhere that takes the place of what would be invented.
        outside_file: which file that is.
        shrink: a draft that is so many times smaller, or 1.
    """

    scene: SceneRequest
    sides: dict[Side, AskedSide] = Field(default_factory=dict)
    excluded: Annotated[tuple[Dab, ...], Field(max_length=MOST_DABS)] = ()
    outside: OutsidePicture | None = None
    outside_file: str = ""
    shrink: int = 1

    def draft(self, shrink: int) -> "PlateRequest":
        """The same, smaller, made in much less time."""
        return self.model_copy(update={"shrink": shrink})


def pixels_of(percent_of: Fraction, length: int) -> int:
    """A length that is given in percent, in whole pixels."""
    return max(1, -int(-percent_of * length // 100))
