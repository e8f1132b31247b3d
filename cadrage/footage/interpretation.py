"""What Cadrage takes the stored samples to mean."""

from dataclasses import dataclass
from fractions import Fraction
from typing import Annotated, Literal

from pydantic import Field

from cadrage.footage.facts import Facts
from cadrage.geometry import Raster
from cadrage.pixels.colour import MATRIX_OF_CODE, Colour, Matrix
from cadrage.values import PositiveExact, Value

TALLEST_SD = 576  # active lines of the 625-line system, ITU-R BT.601-7


class Interpretation(Value):
    """What stored samples are taken to mean; None leaves it as the file says.

    Attributes:
        pixel_aspect: width of a stored pixel over its height, before rotation; 1/10 to 10.
        rotation: degrees clockwise to turn the stored picture.
    """

    pixel_aspect: Annotated[PositiveExact, Field(ge=Fraction(1, 10), le=10)] | None = None
    rotation: Literal[0, 90, 180, 270] | None = None


@dataclass(frozen=True, slots=True)
class Reading:
    """Facts and interpretation, settled.

    Attributes:
        picture: the picture upright, with its pixel shape as it stands then.
        rotation: degrees clockwise from stored to upright.
        colour: what the samples mean, with nothing left unspecified that arithmetic needs.
    """

    picture: Raster
    rotation: int
    colour: Colour


def read_as(facts: Facts, interpretation: Interpretation) -> Reading:
    """Settle what a file's samples mean. Pixels are taken as square where nobody says otherwise."""
    rotation = facts.rotation if interpretation.rotation is None else interpretation.rotation
    aspect = interpretation.pixel_aspect or facts.pixel_aspect or Fraction(1)
    stored = Raster(facts.width, facts.height, aspect)
    return Reading(stored.turned(rotation), rotation, colour_of(facts))


def colour_of(facts: Facts) -> Colour:
    """What a file's samples mean; an untagged matrix is taken as BT.601 up to 576 lines, else as BT.709.

    That guess by size is common practice and has no source.
    """
    stored_lines = min(facts.width, facts.height)
    guessed: Matrix = "bt601" if stored_lines <= TALLEST_SD else "bt709"
    matrix = MATRIX_OF_CODE.get(facts.matrix, guessed)
    return Colour(matrix, facts.full_range, facts.matrix, facts.primaries, facts.transfer)
