"""What is seen where the picture is not. A new kind is one new file and one line in each list here."""

from typing import Annotated

from pydantic import Field

from cadrage.surrounds.base import Painter, Scene, Specification
from cadrage.surrounds.blurred import Blurred
from cadrage.surrounds.plain import Plain

Surround = Annotated[Plain | Blurred, Field(discriminator="kind")]
"""Any surround, told apart by its `kind`."""

KINDS: dict[str, type[Plain] | type[Blurred]] = {"blurred": Blurred, "plain": Plain}
"""Every kind by its name, in the order offered."""

__all__ = ["KINDS", "Blurred", "Painter", "Plain", "Scene", "Specification", "Surround"]
