"""What is seen where the picture is not. A new kind is one new file and one line in each list here."""

from typing import Annotated

from pydantic import Field

from cadrage.surrounds.base import Painter, Scene, Specification
from cadrage.surrounds.blurred import Blurred
from cadrage.surrounds.plain import Plain
from cadrage.values import Value

Surround = Annotated[Plain | Blurred, Field(discriminator="kind")]
"""Any surround, told apart by its `kind`."""

KINDS: dict[str, type[Plain] | type[Blurred]] = {"blurred": Blurred, "plain": Plain}
"""Every kind by its name, in the order offered."""


class Control(Value):
    """One thing that can be set on a surround.

    Attributes:
        name: the field.
        label: what people call it.
        unit: "%", "px", or "colour".
        low, high, step: of a number; 0 where it is none.
        default: as JSON holds it.
    """

    name: str
    label: str
    unit: str
    low: float
    high: float
    step: float
    default: float | str


class Kind(Value):
    """A kind of surround, for whoever offers it.

    Attributes:
        kind: its name in a plan.
        title: what people call it.
        controls: what can be set, in order.
    """

    kind: str
    title: str
    controls: tuple[Control, ...]


def offered() -> tuple[Kind, ...]:
    """Every kind with its controls, read from its fields."""
    return tuple(Kind(kind=name, title=kind.title, controls=_controls(kind)) for name, kind in KINDS.items())


def _controls(kind: type[Plain] | type[Blurred]) -> tuple[Control, ...]:
    properties = kind.model_json_schema()["properties"]
    return tuple(
        Control(
            name=name,
            label=field["title"],
            unit=field.get("unit", field.get("format", "")),
            low=field.get("minimum", 0),
            high=field.get("maximum", 0),
            step=field.get("step", 0),
            default=field["default"],
        )
        for name, field in properties.items()
        if name != "kind"
    )


__all__ = ["KINDS", "Blurred", "Control", "Kind", "Painter", "Plain", "Scene", "Specification", "Surround", "offered"]
