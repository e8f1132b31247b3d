"""Every surround that can be one side of the picture or the ground of a panel."""

from typing import Annotated, Any

from pydantic import Field

from cadrage.surrounds.animated_pattern import AnimatedPattern
from cadrage.surrounds.blurred import Blurred
from cadrage.surrounds.edges import EdgeExtend, Mirrored
from cadrage.surrounds.gradient import Gradient
from cadrage.surrounds.loop import Loop
from cadrage.surrounds.plain import Plain
from cadrage.surrounds.still import Still

Background = Annotated[
    Blurred | Plain | Gradient | EdgeExtend | Mirrored | Still | Loop | AnimatedPattern, Field(discriminator="kind")
]
"""Any of them, told apart by its `kind`."""

BACKGROUND_KINDS: dict[str, type[Any]] = {
    "blurred": Blurred,
    "plain": Plain,
    "gradient": Gradient,
    "carried": EdgeExtend,
    "mirrored": Mirrored,
    "still": Still,
    "loop": Loop,
    "drift": AnimatedPattern,
}
"""Every one by its name, in the order offered."""
