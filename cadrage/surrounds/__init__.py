"""The background beside the picture. A new kind is one new file and one line in each list here."""

from typing import Annotated, Any

from pydantic import Field

from cadrage.fields import Control, controls_of
from cadrage.lettering.style import Lettered
from cadrage.lettering.times import Shown
from cadrage.surrounds.animated_pattern import AnimatedPattern
from cadrage.surrounds.backgrounds import BACKGROUND_KINDS, Background
from cadrage.surrounds.base import FrameState, Painter, PlacedScene, Scene, Specification, WhilePlaced
from cadrage.surrounds.blurred import Blurred
from cadrage.surrounds.edges import EdgeExtend, Mirrored
from cadrage.surrounds.extended import Extended
from cadrage.surrounds.gradient import Gradient
from cadrage.surrounds.graphic import Graphic
from cadrage.surrounds.loop import Loop
from cadrage.surrounds.plain import Plain
from cadrage.surrounds.sides import Sides
from cadrage.surrounds.still import Still
from cadrage.surrounds.toning import Toned
from cadrage.values import Value

Surround = Annotated[
    Blurred | Plain | Gradient | EdgeExtend | Mirrored | Still | Loop | AnimatedPattern | Graphic | Sides | Extended,
    Field(discriminator="kind"),
]
"""Any surround, told apart by its `kind`."""

SURROUND_KINDS: dict[str, type[Any]] = {**BACKGROUND_KINDS, "graphic": Graphic, "sides": Sides, "extended": Extended}
"""Every kind by its name, in the order offered."""


class Kind(Value):
    """A kind of surround, as it is offered.

    Attributes:
        kind: its name in a plan.
        title: what people call it.
        controls: what can be set, in order; what every kind has comes last.
        ground: whether it can be a part of another surround.
    """

    kind: str
    title: str
    ground: bool
    controls: tuple[Control, ...]


def offered() -> tuple[Kind, ...]:
    """Every kind with its controls, read from its fields."""
    shared = tuple(name for part in (Lettered, Shown, Toned) for name in part.model_fields)
    return tuple(
        Kind(
            kind=name,
            title=kind.title,
            ground=name in BACKGROUND_KINDS,
            controls=controls_of(
                kind, first=getattr(kind, "used_most", ()), last=shared, without=getattr(kind, "by_hand", ())
            ),
        )
        for name, kind in SURROUND_KINDS.items()
    )


__all__ = [
    "BACKGROUND_KINDS",
    "SURROUND_KINDS",
    "AnimatedPattern",
    "Background",
    "Blurred",
    "Control",
    "EdgeExtend",
    "Extended",
    "FrameState",
    "Gradient",
    "Graphic",
    "Kind",
    "Loop",
    "Mirrored",
    "Painter",
    "PlacedScene",
    "Plain",
    "Scene",
    "Sides",
    "Specification",
    "Still",
    "Surround",
    "Toned",
    "WhilePlaced",
    "offered",
]
