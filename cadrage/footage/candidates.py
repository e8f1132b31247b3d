"""Which shapes a clip's pixels may have, and what speaks for each."""

from fractions import Fraction

from cadrage.footage.facts import Facts
from cadrage.formats.sources import SOURCES, Convention
from cadrage.formats.words import aspect_name
from cadrage.geometry import Raster
from cadrage.values import Exact, Value

MEANINGS: dict[Convention, str] = {
    "sampled": "as sampled",
    "stated": "stated for the whole line",
    "squeezed": "squeezed",
    "square": "square pixels",
}


class Candidate(Value):
    """A shape that a clip's stored pixels may have.

    Attributes:
        pixel_aspect: width of a stored pixel over its height.
        shape: the picture it makes, such as "4:3", upright.
        evidence: what speaks for it and against it, in words.
    """

    pixel_aspect: Exact
    shape: str
    evidence: tuple[str, ...]


def candidates(facts: Facts) -> tuple[Candidate, ...]:
    """The shapes that a clip's pixels may have: what the file says first, then what its raster is known for."""
    rows = [row for row in SOURCES if (row.width, row.height) == (facts.width, facts.height)]
    known: dict[Fraction, list[str]] = {}
    if facts.pixel_aspect is not None:
        known[facts.pixel_aspect] = ["the file says so"]
    for row in rows:
        known.setdefault(row.pixel_aspect, []).append(f"{row.name}, {MEANINGS[row.convention]}")
    known.setdefault(Fraction(1), []).append("square, as computers have them")
    if facts.pixel_aspect is not None and rows and facts.pixel_aspect not in {row.pixel_aspect for row in rows}:
        known[facts.pixel_aspect].append("but no known format of this size has it")
    return tuple(_candidate(facts, aspect, evidence) for aspect, evidence in known.items())


def _candidate(facts: Facts, aspect: Fraction, evidence: list[str]) -> Candidate:
    picture = Raster(facts.width, facts.height, aspect).turned(facts.rotation)
    return Candidate(pixel_aspect=aspect, shape=aspect_name(picture.display_aspect), evidence=tuple(evidence))
