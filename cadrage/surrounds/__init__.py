"""What is seen where the picture is not. A new kind is one new file and one line in each list here."""

from typing import Annotated, Any

from pydantic import Field

from cadrage.fields import Control, controls_of
from cadrage.surrounds.base import Painter, Scene, Specification
from cadrage.surrounds.blurred import Blurred
from cadrage.surrounds.drift import Drift
from cadrage.surrounds.edges import Carried, Mirrored
from cadrage.surrounds.gradient import Gradient
from cadrage.surrounds.plain import Plain
from cadrage.surrounds.toning import Toned
from cadrage.values import Value

Surround = Annotated[Blurred | Plain | Gradient | Carried | Mirrored | Drift, Field(discriminator="kind")]
"""Any surround, told apart by its `kind`."""

KINDS: dict[str, type[Any]] = {
    "blurred": Blurred,
    "plain": Plain,
    "gradient": Gradient,
    "carried": Carried,
    "mirrored": Mirrored,
    "drift": Drift,
}
"""Every kind by its name, in the order offered."""


class Kind(Value):
    """A kind of surround, for whoever offers it.

    Attributes:
        kind: its name in a plan.
        title: what people call it.
        controls: what can be set, in order; what every kind has comes last.
    """

    kind: str
    title: str
    controls: tuple[Control, ...]


def offered() -> tuple[Kind, ...]:
    """Every kind with its controls, read from its fields."""
    shared = tuple(Toned.model_fields)
    return tuple(
        Kind(kind=name, title=kind.title, controls=controls_of(kind, last=shared)) for name, kind in KINDS.items()
    )


__all__ = [
    "KINDS",
    "Blurred",
    "Carried",
    "Control",
    "Drift",
    "Gradient",
    "Kind",
    "Mirrored",
    "Painter",
    "Plain",
    "Scene",
    "Specification",
    "Surround",
    "Toned",
    "offered",
]
