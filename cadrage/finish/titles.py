"""Titles: words laid over picture or surround, each at a place and for a time."""

from fractions import Fraction

from pydantic import Field

from cadrage.fields import percent, text
from cadrage.formats.guides import TITLE_SAFE_INSET
from cadrage.lettering.style import Lettered
from cadrage.lettering.text import Align, Block, set_text
from cadrage.lettering.text_layer import TextLayer
from cadrage.lettering.times import Shown
from cadrage.pixels.planes import Layout, Planes
from cadrage.values import ColourText, Exact

MOST_TITLES = 12
PLATE_SIDE, PLATE_END = 0.4, 0.2  # how far a plate reaches beyond the words, in sizes of the letters


class Plated(Lettered):
    """Fields of words that may have a plate behind them.

    Attributes:
        plate: how much the plate covers what is behind it, in percent; 0 is none.
        plate_colour: of the plate.
    """

    plate: Exact = percent(0, 100, 0, "Plate")
    plate_colour: ColourText = Field(default="#101010", title="Plate colour")


class Title(Plated, Shown):
    """Words over the frame.

    Attributes:
        text: the words.
        x, y: where the middle of the block stands, in percent of the frame's width and height.
        align: how its lines stand to each other.
    """

    text: str = text("Words", "Title", 300)
    x: Exact = percent(0, 100, 50, "Across", 0.1)
    y: Exact = percent(0, 100, 85, "Down", 0.1)
    align: Align = Field(default="centre", title="Align")


class TitlesPainter:
    """Lays titles on; each is drawn once.

    Args:
        titles: what is to be laid on, the last uppermost.
        canvas: what is painted on.
        pixel_aspect: width of one luma sample of the canvas for its height.
    """

    def __init__(self, titles: tuple[Title, ...], canvas: Layout, pixel_aspect: float) -> None:
        self.laid = []
        for title in titles:
            ink = TextLayer(canvas, pixel_aspect)
            draw_title(title, ink)
            self.laid.append((title, ink.laid()))

    def paint(self, canvas: Planes, time: Fraction) -> None:
        """Lay on what is shown at a time."""
        for title, laid in self.laid:
            if laid:
                laid.blend(canvas, title.opacity(time))


def title_block(title: Title, width: float, height: float) -> tuple[Block, float, float]:
    """A title's lines and where their left and upper edges are, on a frame of some square pixels.

    Lines break where they would leave the frame's safe area.
    """
    block = set_text(title.text, title, float(title.size) / 100 * height, float(1 - 2 * TITLE_SAFE_INSET) * width)
    return block, float(title.x) / 100 * width - block.width / 2, float(title.y) / 100 * height - block.height / 2


def draw_title(title: Title, ink: TextLayer) -> None:
    """Draw a title on a sheet."""
    block, left, top = title_block(title, ink.width, ink.height)
    if block.lines:
        draw_block(block, title, ink, left, top, title.align)


def draw_block(block: Block, style: Plated, ink: TextLayer, left: float, top: float, align: Align) -> None:
    """Draw lines on a sheet, on their plate where there is one. `left` and `top` are of the lines."""
    if style.plate:
        side, end = PLATE_SIDE * block.size, PLATE_END * block.size
        ink.wash(
            left - side,
            top - end,
            left + block.width + side,
            top + block.height + end,
            style.plate_colour,
            float(style.plate) / 100,
        )
    ink.cover(block.coverage(align), left, top, style.colour)
