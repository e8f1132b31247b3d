"""Every surround that is one thing by itself, and so can be one side of the picture or the ground of a panel."""

from typing import Annotated, Any

from pydantic import Field

from cadrage.surrounds.blurred import Blurred
from cadrage.surrounds.drift import Drift
from cadrage.surrounds.edges import Carried, Mirrored
from cadrage.surrounds.gradient import Gradient
from cadrage.surrounds.loop import Loop
from cadrage.surrounds.plain import Plain
from cadrage.surrounds.still import Still

Ground = Annotated[Blurred | Plain | Gradient | Carried | Mirrored | Still | Loop | Drift, Field(discriminator="kind")]
"""Any of them, told apart by its `kind`."""

GROUNDS: dict[str, type[Any]] = {
    "blurred": Blurred,
    "plain": Plain,
    "gradient": Gradient,
    "carried": Carried,
    "mirrored": Mirrored,
    "still": Still,
    "loop": Loop,
    "drift": Drift,
}
"""Every one by its name, in the order offered."""
