"""Settings that every surround has: dimming, saturation, tint, and opacity over a base colour.

All of it is linear on R'G'B', so it is one gain and one offset for each plane of Y'CbCr.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, ClassVar, Self

import numpy as np
from pydantic import Field

from cadrage.fields import percent
from cadrage.pixels.light import codes_of
from cadrage.pixels.planes import Layout, Working
from cadrage.values import ColourText, Exact, Value


class Toned(Value):
    """Fields that every kind of surround has.

    Attributes:
        brightness: percent of the surround over the base; above 100 it is pushed away from the base.
        saturation: percent of its colour.
        tint: the colour that it is tinted with.
        tinted: percent of the way from its own colour to the tint's, at its own lightness.
        opacity: percent at which it is laid over the base.
        base: the colour that shows as it is dimmed or thinned.
    """

    animated: ClassVar[bool] = False

    brightness: Exact = percent(0, 150, 100, "Brightness")
    saturation: Exact = percent(0, 200, 100, "Saturation")
    tinted: Exact = percent(0, 100, 0, "Tinted")
    tint: ColourText = Field(default="#a07850", title="Tint")
    opacity: Exact = percent(0, 100, 100, "Opacity")
    base: ColourText = Field(default="#000000", title="Base colour")

    @property
    def asset_refs(self) -> tuple[str, ...]:
        """See `Specification`."""
        return ()

    @property
    def backgrounds(self) -> tuple[Self, ...]:
        """See `Specification`."""
        return (self,)

    def map_backgrounds(self, change: Callable[[Any], Any]) -> Self:
        """See `Specification`."""
        changed: Self = change(self)
        return changed

    def tones(self, layout: Layout) -> tuple["Tone", "Tone", "Tone"]:
        """Gain and offset of each plane, in codes of a layout."""
        shown = float(self.opacity) / 100 * float(self.brightness) / 100
        colour, tinted = float(self.saturation) / 100, float(self.tinted) / 100
        base = codes_of(self.base, layout.colour, layout.depth)
        tint = codes_of(self.tint, layout.colour, layout.depth)
        middle = 2.0 ** (layout.depth - 1)
        luma = Tone(shown, base[0] * (1 - shown))
        own = colour * (1 - tinted)
        cb, cr = (
            Tone(
                shown * own,
                base[plane] * (1 - shown) + shown * (middle * (1 - colour) * (1 - tinted) + tint[plane] * tinted),
            )
            for plane in (1, 2)
        )
        return luma, cb, cr


@dataclass(frozen=True, slots=True)
class Tone:
    """The change of every code of one plane: code · gain + offset."""

    gain: float
    offset: float

    @property
    def changes(self) -> bool:
        """Whether it does anything."""
        return (self.gain, self.offset) != (1.0, 0.0)

    def apply(self, working: Working) -> None:
        """Do it, in place."""
        if self.changes:
            working *= np.float32(self.gain)
            working += np.float32(self.offset)
