"""Lines of text, set: broken where they must be, measured, and drawn as coverage."""

import unicodedata
from collections.abc import Callable
from dataclasses import dataclass
from math import ceil
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw

from cadrage.lettering.fonts import FAMILIES, Family, axes_of, font, runs
from cadrage.lettering.style import Lettered

EVENINGS = 7  # halvings

Align = Literal["left", "centre", "right"]
LEADING = 1.22  # lines apart, in sizes (common practice, no source)
ASCENT = 0.95  # from the top of a line to its base line, in sizes
DESCENT = 0.27
DRAWN_AT = 96.0  # pixels; letters smaller than that are drawn at a multiple and reduced


@dataclass(frozen=True, slots=True)
class Block:
    """Some lines, set.

    Attributes:
        lines: each line's words.
        widths: of each, in pixels.
        size: of the letters, in pixels; any fraction of one.
        style: how they look.
    """

    lines: tuple[str, ...]
    widths: tuple[float, ...]
    size: float
    style: Lettered

    @property
    def width(self) -> int:
        """Of the widest line, in whole pixels."""
        return ceil(max(self.widths, default=0)) + 1

    @property
    def height(self) -> int:
        """Of all lines, in whole pixels."""
        return ceil(self.size * ((len(self.lines) - 1) * LEADING + ASCENT + DESCENT)) if self.lines else 0

    def coverage(self, align: Align) -> NDArray[np.float32]:
        """How much of each pixel the letters cover, 0 to 1: (height, width)."""
        finer = max(1, ceil(DRAWN_AT / self.size))  # small letters are drawn large, so that no grid moves their parts
        size, (rows, columns) = self.size * finer, (max(1, self.height), max(1, self.width))
        image = Image.new("L", (columns * finer, rows * finer))
        pen = ImageDraw.Draw(image)
        family = FAMILIES[self.style.family]
        axes = axes_of(family, float(self.style.weight), float(self.style.letter_width))
        for number, (line, width) in enumerate(zip(self.lines, self.widths, strict=True)):
            spare = (columns - width) * finer
            x = {"left": 0.0, "centre": spare / 2, "right": spare}[align]
            y = size * (ASCENT + number * LEADING)
            for file, part in runs(line, family):
                face = font(file, size, axes)
                pen.text((x, y), part, font=face, fill=255, anchor="ls")
                x += face.getlength(part)
        covered = np.asarray(image, np.float32) / np.float32(255)
        reduced = cv2.resize(covered, (columns, rows), interpolation=cv2.INTER_AREA)
        return np.asarray(reduced, np.float32).reshape(rows, columns)


def set_text(text: str, style: Lettered, size: float, room: float | None = None) -> Block:
    """Set text in lines no wider than some room, breaking between words, and within one only where nothing else helps.

    Args:
        text: its own line breaks are kept.
        style: how it looks.
        size: of the letters, in pixels.
        room: in pixels; as wide as it comes where None.

    Raises:
        BadRequest: a letter cannot be set; see `runs`.
    """
    family = FAMILIES[style.family]
    axes = axes_of(family, float(style.weight), float(style.letter_width))

    def width(line: str) -> float:
        return _width(line, family, axes) * size

    paragraphs = unicodedata.normalize("NFC", text).strip("\n").splitlines()
    lines = _lines(paragraphs, room, width)
    if room is not None and len(lines) > len(paragraphs):
        lines = _evened(paragraphs, room, width, len(lines))
    return Block(tuple(lines), tuple(width(line) for line in lines), size, style)


def _lines(paragraphs: list[str], room: float | None, width: Callable[[str], float]) -> list[str]:
    lines: list[str] = []
    for paragraph in paragraphs:
        current = ""
        for word in paragraph.split():
            longer = f"{current} {word}".strip()
            if room is None or width(longer) <= room:
                current = longer
                continue
            if current:
                lines.append(current)
            *full, current = _broken(word, room, width)
            lines.extend(full)
        lines.append(current)
    return lines


def _evened(paragraphs: list[str], room: float, width: Callable[[str], float], count: int) -> list[str]:
    """The same number of lines, as even as they go, so that no word is left alone on the last."""
    words = [word for paragraph in paragraphs for word in paragraph.split()]
    low, high = max(room / 2, *(min(room, width(word)) for word in words), 0), room
    for _ in range(EVENINGS):
        middle = (low + high) / 2
        low, high = (low, middle) if len(_lines(paragraphs, middle, width)) <= count else (middle, high)
    return _lines(paragraphs, high, width)


def _width(line: str, family: Family, axes: tuple[int, ...]) -> float:
    """Of a line, in sizes of its letters. Measured at one size for all, so that lines break alike at every size."""
    return sum(font(file, DRAWN_AT, axes).getlength(part) for file, part in runs(line, family)) / DRAWN_AT


def _broken(word: str, room: float, width: Callable[[str], float]) -> list[str]:
    """A word in parts that fit; at least one letter each."""
    parts, current = [], ""
    for letter in word:
        if current and width(current + letter) > room:
            parts.append(current)
            current = letter
        else:
            current += letter
    return [*parts, current]
