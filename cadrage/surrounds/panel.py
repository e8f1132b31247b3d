"""Laying out the words and the logo of a panel in the places that are free."""

from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from cadrage.fields import named, percent, text
from cadrage.footage.still_files import read_rgba
from cadrage.formats.guides import TITLE_SAFE_INSET
from cadrage.geometry import FrameRect
from cadrage.geometry.free import Side, chosen_places, free_places
from cadrage.lettering.style import Lettered
from cadrage.lettering.text import Align, Block, set_text
from cadrage.lettering.text_layer import TextLayer
from cadrage.lettering.times import Shown
from cadrage.pixels.light import seen_in
from cadrage.surrounds.base import Scene
from cadrage.values import Exact

Box = tuple[float, float, float, float]
"""Left, top, width and height in square pixels of a canvas line's height."""
Place = Literal["free_area", "left", "right", "above", "below"]

Orient = Literal["top", "middle", "bottom"]

GAP = Fraction(25, 1000)  # of the frame's height, kept from the picture
SUBTITLE, SMALL_PRINT = 0.52, 0.34  # of the title's size
SMALLER, SMALLEST = 0.92, 0.3  # steps in which all is made smaller until it fits, and where that ends
BETWEEN = 0.4  # of the title's size, from piece to piece
RULE = 0.055  # thickness of the rule, of the title's size
RULE_LENGTH = 2.4  # in title sizes


class Panel(Lettered, Shown):
    """Words and a logo, and how they are laid out.

    Attributes:
        heading, subtitle, small_print: its texts; empty ones are left out.
        logo: a picture, by the name it has where the plan is kept; empty for none.
        logo_size: its height, in percent of the frame's.
        rule: whether a line stands under the title.
        place: where it stands. Where it is free means the largest place beside the picture, and the one across from
            it too where that is nearly as large; logo and small print go there.
        align, upright: how words stand in their place.
    """

    heading: str = text("Title", "Title", 120)
    subtitle: str = text("Subtitle", "", 200)
    small_print: str = text("Small print", "", 400)
    logo: str = named("Logo", "logo")
    logo_size: Exact = percent(2, 60, 14, "Logo size")
    rule: bool = Field(default=True, title="Rule line")
    place: Place = Field(default="free_area", title="Place")
    align: Align = Field(default="left", title="Align")
    upright: Orient = Field(default="middle", title="Stands at")


@dataclass(frozen=True, slots=True)
class LayoutItem:
    """One thing in a panel, `width` by `height` square pixels: words, a picture, or, where both are None, a rule."""

    width: float
    height: float
    text: Block | None = None
    image: NDArray[np.float32] | None = None


@dataclass(frozen=True, slots=True)
class PlacedItem:
    """A piece and where its upper left corner is, in square pixels of a canvas line's height."""

    piece: LayoutItem
    left: float
    top: float


def places_of(panel: Panel, scene: Scene) -> tuple[FrameRect, ...]:
    """Where the panel stands, in frame pixels; nowhere where nothing stays free of the picture."""
    free = free_places(scene.taken(None), scene.frame, scene.opening, TITLE_SAFE_INSET, GAP * scene.frame.height)
    if panel.place == "free_area":
        return chosen_places(free)
    side: Side = panel.place
    return (free[side],) if side in free else ()


def laid_out(panel: Panel, scene: Scene) -> tuple[list[PlacedItem], float]:
    """Every piece in its place, and the factor by which all were made smaller to fit; 1 where they fit as they are."""
    boxes = [_box(place, scene) for place in places_of(panel, scene)]
    groups, factor = _fitted(panel, scene, boxes)
    gap = BETWEEN * _title_size(panel, scene) * factor
    standing = [at for group, box in zip(groups, boxes, strict=True) for at in _stacked(panel, group, box, gap)]
    return standing, factor


def _fitted(panel: Panel, scene: Scene, boxes: list[Box]) -> tuple[list[list[LayoutItem]], float]:
    """The pieces for each place, made smaller together until they fit, and the factor."""
    factor, logo = 1.0, read_rgba(scene.library.material(panel.logo).path) if panel.logo and boxes else None
    while True:
        groups = [
            _pieces(panel, scene, kinds, box[2], factor, logo) for kinds, box in zip(_shared(boxes), boxes, strict=True)
        ]
        gap = BETWEEN * _title_size(panel, scene) * factor
        if factor <= SMALLEST or all(_fits(group, box, gap) for group, box in zip(groups, boxes, strict=True)):
            return groups, factor
        factor *= SMALLER


def draw_panel(panel: Panel, scene: Scene) -> TextLayer:
    """The panel in ink."""
    ink = TextLayer(scene.canvas, scene.pixel_aspect)
    for at in laid_out(panel, scene)[0]:
        if at.piece.text:
            ink.cover(at.piece.text.coverage(panel.align), at.left, at.top, panel.colour)
        elif at.piece.image is not None:
            ink.image(at.piece.image, at.left, at.top)
        else:
            ink.wash(at.left, at.top, at.left + at.piece.width, at.top + at.piece.height, panel.colour)
    return ink


def _box(place: FrameRect, scene: Scene) -> Box:
    """Left, top, width and height in square pixels of the canvas."""
    rect, aspect = scene.on_canvas(place), scene.pixel_aspect
    return float(rect.x) * aspect, float(rect.y), float(rect.width) * aspect, float(rect.height)


def _shared(boxes: list[Box]) -> list[tuple[str, ...]]:
    if not boxes:
        return []
    whole = ("logo", "heading", "rule", "subtitle", "small_print")
    return [whole] if len(boxes) == 1 else [("heading", "rule", "subtitle"), ("logo", "small_print")]


def _title_size(panel: Panel, scene: Scene) -> float:
    return float(panel.size) / 100 * scene.frame.height * float(scene.scale[1])


def _pieces(
    panel: Panel,
    scene: Scene,
    kinds: tuple[str, ...],
    room: float,
    factor: float,
    logo: NDArray[np.uint8] | None,
) -> list[LayoutItem]:
    size = _title_size(panel, scene) * factor
    sizes = {"heading": size, "subtitle": size * SUBTITLE, "small_print": size * SMALL_PRINT}
    found = []
    for kind in kinds:
        if kind == "logo" and logo is not None:
            found.append(_logo(panel, scene, room, factor, logo))
        elif kind == "rule" and panel.rule and panel.heading.strip():
            found.append(LayoutItem(min(room, RULE_LENGTH * size), max(1.0, RULE * size)))
        elif kind in sizes and (text := getattr(panel, kind).strip()):
            block = set_text(text, panel, sizes[kind], room)
            found.append(LayoutItem(_honest_width(block, text), block.height, text=block))
    return found


def _honest_width(block: Block, text: str) -> float:
    """A block's width; without end where a word had to be broken, so that all is made smaller first."""
    whole = " ".join(block.lines).split() == text.split()
    return float(block.width) if whole else float("inf")


def _logo(panel: Panel, scene: Scene, room: float, factor: float, rgba: NDArray[np.uint8]) -> LayoutItem:
    height = float(panel.logo_size) / 100 * scene.frame.height * float(scene.scale[1]) * factor
    height = min(height, room * rgba.shape[0] / rgba.shape[1])
    width = height * rgba.shape[1] / rgba.shape[0]
    drawn = rgba.astype(np.float32) / 255
    drawn[..., :3] = seen_in(drawn[..., :3], scene.canvas.colour)
    drawn[..., :3] *= drawn[..., 3:]
    size = (max(1, round(width)), max(1, round(height)))
    way = cv2.INTER_AREA if size[1] < rgba.shape[0] else cv2.INTER_CUBIC
    made = np.clip(cv2.resize(drawn, size, interpolation=way), 0, 1).astype(np.float32)
    return LayoutItem(size[0], size[1], image=made)


def _fits(pieces: list[LayoutItem], box: Box, gap: float) -> bool:
    high = sum(piece.height for piece in pieces) + gap * max(0, len(pieces) - 1)
    return high <= box[3] and all(piece.width <= box[2] + 1 for piece in pieces)


def _stacked(panel: Panel, pieces: list[LayoutItem], box: Box, gap: float) -> list[PlacedItem]:
    left, top, width, height = box
    high = sum(piece.height for piece in pieces) + gap * max(0, len(pieces) - 1)
    y = top + {"top": 0.0, "middle": (height - high) / 2, "bottom": height - high}[panel.upright]
    standing = []
    for piece in pieces:
        wide = piece.text.width if piece.text else piece.width
        x = left + {"left": 0.0, "centre": (width - wide) / 2, "right": width - wide}[panel.align]
        standing.append(PlacedItem(piece, x, y))
        y += piece.height + gap
    return standing
