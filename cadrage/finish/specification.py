"""The stored form of a finish."""

from typing import Annotated, Any, ClassVar

from pydantic import Field

from cadrage.fields import Control, controls_of, degrees, percent, pixels, plain_number
from cadrage.finish.captions import Captions
from cadrage.finish.titles import MOST_TITLES, Title
from cadrage.values import ColourText, Exact, Value


class Shadow(Value):
    """A shadow of the picture on the surround.

    Attributes:
        opacity: percent at its darkest; 0 is none.
        direction: where it falls, degrees clockwise from the right.
        distance: how far, in percent of the frame's height.
        softness: standard deviation of its edge, in percent of the frame's height.
        colour: of the shadow.
    """

    title: ClassVar[str] = "Shadow"
    opacity: Exact = percent(0, 100, 0, "Opacity")
    direction: Exact = degrees(0, 360, 60, "Direction")
    distance: Exact = percent(0, 10, 0.8, "Distance", 0.1)
    softness: Exact = percent(0, 10, 1.5, "Softness", 0.1)
    colour: ColourText = Field(default="#000000", title="Colour")

    @property
    def off(self) -> bool:
        """Whether it does nothing."""
        return not self.opacity


class Edge(Value):
    """The picture's own edge.

    Attributes:
        left, right, top, bottom: how far in from that side the picture fades into the surround, in percent of its
            height as placed.
        corners: radius of its corners, in percent of the same.
        outline: width of a line around it, in frame pixels.
        colour: of that line.
    """

    title: ClassVar[str] = "Edge"
    left: Exact = percent(0, 40, 0, "Soft left", 0.5)
    right: Exact = percent(0, 40, 0, "Soft right", 0.5)
    top: Exact = percent(0, 40, 0, "Soft top", 0.5)
    bottom: Exact = percent(0, 40, 0, "Soft bottom", 0.5)
    corners: Exact = percent(0, 50, 0, "Corners", 0.5)
    outline: Exact = pixels(0, 64, "Outline")
    colour: ColourText = Field(default="#f2efe8", title="Outline colour")

    @property
    def off(self) -> bool:
        """Whether it does nothing."""
        return not (self.shapes or self.outline)

    @property
    def shapes(self) -> bool:
        """Whether it changes what the picture covers."""
        return bool(self.left or self.right or self.top or self.bottom or self.corners)


class Grade(Value):
    """One grade, for picture and surround together or for the surround alone.

    Attributes:
        surround_only: whether the picture is left as it is.
        exposure: in stops of light as it is coded: each doubles or halves the distance from black.
        contrast: percent, about middle grey.
        saturation: percent.
        warmth: -100 to 100, from blue to orange.
    """

    title: ClassVar[str] = "Grade"
    surround_only: bool = Field(default=False, title="Surround only")
    exposure: Exact = plain_number(-2, 2, 0, "Exposure", 0.05)
    contrast: Exact = percent(50, 150, 100, "Contrast")
    saturation: Exact = percent(0, 200, 100, "Saturation")
    warmth: Exact = plain_number(-100, 100, 0, "Warmth", 1)

    @property
    def off(self) -> bool:
        """Whether it does nothing."""
        return self == Grade(surround_only=self.surround_only)


class Vignette(Value):
    """The frame darkened towards its corners.

    Attributes:
        amount: percent of the light taken at the corners.
        size: how far from the middle it begins, in percent of the way to a corner.
    """

    title: ClassVar[str] = "Vignette"
    amount: Exact = percent(0, 100, 0, "Amount")
    size: Exact = percent(0, 95, 50, "Begins")

    @property
    def off(self) -> bool:
        """Whether it does nothing."""
        return not self.amount


class Grain(Value):
    """Fine grain over all, which hides too smooth a surround.

    Attributes:
        amount: standard deviation, in percent of the way from black to white.
    """

    title: ClassVar[str] = "Grain"
    amount: Exact = percent(0, 6, 0, "Amount", 0.1)

    @property
    def off(self) -> bool:
        """Whether it does nothing."""
        return not self.amount


class Finish(Value):
    """Everything laid over the join and over all.

    Attributes:
        shadow, edge, grade, vignette, grain: parts that are each there once, on or off.
        captions: of a file.
        titles: words, each at its place and time; the last lies uppermost.
    """

    shadow: Shadow = Shadow()
    edge: Edge = Edge()
    grade: Grade = Grade()
    vignette: Vignette = Vignette()
    grain: Grain = Grain()
    captions: Captions = Captions()
    titles: Annotated[tuple[Title, ...], Field(max_length=MOST_TITLES)] = ()

    @property
    def summary(self) -> str:
        """What is on, in few words."""
        on = [name for name, part in self.parts.items() if not part.off]
        if not self.captions.off:
            on.append("captions")
        if self.titles:
            on.append("a title" if len(self.titles) == 1 else f"{len(self.titles)} titles")
        return ", ".join(on) or "none"

    @property
    def without_text(self) -> "Finish":
        """The same without words."""
        return self.model_copy(update={"titles": (), "captions": Captions()})

    @property
    def asset_refs(self) -> tuple[str, ...]:
        """What it uses of a library."""
        return (self.captions.of,) if self.captions.of else ()

    @property
    def animated(self) -> bool:
        """Whether it changes while the picture stands still."""
        return not (self.grain.off and self.captions.off and all(title.constant for title in self.titles))

    @property
    def parts(self) -> dict[str, Any]:
        """Every part without words by its name, in the order offered."""
        return {name: getattr(self, name) for name in type(self).model_fields if name not in WORDED}


WORDED = ("captions", "titles")


class FinishPart(Value):
    """A part of a finish, for whoever offers it.

    Attributes:
        name: its field.
        title: what people call it.
        controls: what can be set, in order.
        example: values that show what it does.
    """

    name: str
    title: str
    controls: tuple[Control, ...]
    example: dict[str, str]


EXAMPLES = {
    "shadow": {"opacity": "70"},
    "edge": {"left": "4", "right": "4", "top": "4", "bottom": "4"},
    "grade": {"exposure": "-0.3", "saturation": "85", "warmth": "15"},
    "vignette": {"amount": "45"},
    "grain": {"amount": "1.2"},
}


def offered_parts() -> tuple[FinishPart, ...]:
    """Every part with its controls, read from its fields."""
    return tuple(
        FinishPart(name=name, title=type(part).title, controls=controls_of(type(part)), example=EXAMPLES[name])
        for name, part in Finish().parts.items()
    )


def title_controls() -> tuple[Control, ...]:
    """What can be set of a title, in order."""
    return controls_of(Title, first=("text", "x", "y", "align"))


def caption_controls() -> tuple[Control, ...]:
    """What can be set of captions, in order."""
    return controls_of(Captions, first=("of", "place", "later"))
