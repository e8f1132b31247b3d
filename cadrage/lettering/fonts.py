"""The fonts that come with Cadrage, and which letters they have.

Each family is a few files, one for a group of scripts, as the registry of open fonts carries them; all are under the
SIL Open Font License 1.1, whose text lies beside them.
"""

import unicodedata
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Literal

from fontTools.ttLib import TTFont
from PIL import ImageFont

from cadrage.errors import BadRequest

FOLDER = Path(__file__).parent / "fonts"
TYPEFACE = FOLDER / "archivo-latin.woff2"
"""What the page is set in, for documents that stand on their own."""
FamilyName = Literal["Archivo", "Noto Sans", "Noto Serif", "Source Serif"]
RIGHT_TO_LEFT = ("R", "AL", "AN")  # bidirectional classes, Unicode Standard Annex 9


@dataclass(frozen=True, slots=True)
class Family:
    """One family of fonts.

    Attributes:
        name: what it is called.
        files: its files, the most used first.
        weights: lightest and heaviest, as CSS counts them.
        widths: narrowest and widest, in percent of the usual; None where it has one width.
    """

    name: FamilyName
    files: tuple[str, ...]
    weights: tuple[int, int]
    widths: tuple[int, int] | None


FAMILIES: dict[FamilyName, Family] = {
    "Archivo": Family("Archivo", ("archivo-latin", "archivo-latin-ext", "archivo-vietnamese"), (100, 900), (62, 125)),
    "Noto Sans": Family(
        "Noto Sans",
        ("noto-sans-latin", "noto-sans-latin-ext", "noto-sans-greek", "noto-sans-cyrillic"),
        (100, 900),
        (62, 100),
    ),
    "Noto Serif": Family(
        "Noto Serif",
        ("noto-serif-latin", "noto-serif-latin-ext", "noto-serif-greek", "noto-serif-cyrillic"),
        (100, 900),
        (62, 100),
    ),
    "Source Serif": Family(
        "Source Serif",
        ("source-serif-latin", "source-serif-latin-ext", "source-serif-greek", "source-serif-cyrillic"),
        (200, 900),
        None,
    ),
}


@lru_cache
def _letters(file: str) -> frozenset[int]:
    with TTFont(FOLDER / f"{file}.woff2", lazy=True) as font:
        return frozenset(font.getBestCmap())


@lru_cache(256)
def font(file: str, size: float, axes: tuple[int, ...]) -> ImageFont.FreeTypeFont:
    """A font at a size in pixels and at a weight, and a width where it has several."""
    made = ImageFont.truetype(FOLDER / f"{file}.woff2", size)
    made.set_variation_by_axes(list(axes))
    return made


def axes_of(family: Family, weight: float, width: float) -> tuple[int, ...]:
    """What a family can do of a weight and a width."""
    heavy = round(min(max(weight, family.weights[0]), family.weights[1]))
    if family.widths is None:
        return (heavy,)
    return heavy, round(min(max(width, family.widths[0]), family.widths[1]))


def runs(text: str, family: Family) -> list[tuple[str, str]]:
    """A line cut into parts that one file can set: file and part. Letters are composed first (Unicode NFC).

    Raises:
        BadRequest: the text runs from right to left, or no file of the family has one of its letters.
    """
    found: list[tuple[str, str]] = []
    for letter in unicodedata.normalize("NFC", text):
        file = found[-1][0] if found and letter.isspace() else _file_for(letter, family)
        if found and found[-1][0] == file:
            found[-1] = (file, found[-1][1] + letter)
        else:
            found.append((file, letter))
    return found


def _file_for(letter: str, family: Family) -> str:
    for file in family.files:
        if letter.isspace() or ord(letter) in _letters(file):
            return file
    if unicodedata.bidirectional(letter) in RIGHT_TO_LEFT:
        raise BadRequest(
            f"{letter!r} belongs to a script that runs from right to left, which cannot be set yet.",
            remedy="Use words that run from left to right, or lay them in as a picture.",
        )
    name = unicodedata.name(letter, "a letter without a name").lower()
    others = [other.name for other in FAMILIES.values() if any(ord(letter) in _letters(file) for file in other.files)]
    remedy = f"Choose {' or '.join(others)}, which has it." if others else "Use other words; no font here has it."
    raise BadRequest(f"{family.name} has no {letter!r} ({name}).", remedy=remedy)
