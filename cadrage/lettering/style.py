"""How words look."""

from pydantic import Field

from cadrage.fields import percent, plain_number
from cadrage.lettering.fonts import FamilyName
from cadrage.values import ColourText, Exact, Value


class Lettered(Value):
    """Fields of whatever has words.

    Attributes:
        family: of the font.
        weight: of the strokes, as CSS counts it.
        letter_width: percent of the letters' usual width, as far as the family goes.
        size: of the letters, in percent of the frame's height.
        colour: of the letters.
    """

    family: FamilyName = Field(default="Archivo", title="Font")
    weight: Exact = plain_number(100, 900, 600, "Weight", 50)
    letter_width: Exact = percent(62, 125, 100, "Letter width")
    size: Exact = percent(1, 25, 6, "Size", 0.1)
    colour: ColourText = Field(default="#f4f0e6", title="Colour")
