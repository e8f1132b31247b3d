"""Laying out the words and the logo of a panel in the places that are free."""

from dataclasses import dataclass
from fractions import Fraction
from typing import TYPE_CHECKING, Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.footage.stills import read_rgba
from cadrage.formats.guides import TITLE_SAFE_INSET
from cadrage.geometry import FrameRect
from cadrage.geometry.free import Side, chosen_places, free_places
from cadrage.lettering.ink import Ink
from cadrage.lettering.text import Block, set_text
from cadrage.surrounds.base import Scene

if TYPE_CHECKING:
    from cadrage.surrounds.graphic import Graphic

Box = tuple[float, float, float, float]
"""Left, top, width and height in square pixels of a canvas line's height."""
Place = Literal["where it is free", "left", "right", "above", "below"]

GAP = Fraction(25, 1000)  # of the frame's height, kept from the picture
SUBTITLE, SMALL_PRINT = 0.52, 0.34  # of the title's size
SMALLER, SMALLEST = 0.92, 0.3  # steps in which all is made smaller until it fits, and where that ends
BETWEEN = 0.4  # of the title's size, from piece to piece
RULE = 0.055  # thickness of the rule, of the title's size
RULE_LENGTH = 2.4  # in title sizes


@dataclass(frozen=True, slots=True)
class Piece:
    """One thing in a panel, `width` by `height` square pixels: words, a picture, or, where both are None, a rule."""

    width: float
    height: float
    text: Block | None = None
    image: NDArray[np.float32] | None = None


@dataclass(frozen=True, slots=True)
class Standing:
    """A piece and where its upper left corner is, in square pixels of a canvas line's height."""

    piece: Piece
    left: float
    top: float


def places_of(graphic: "Graphic", scene: Scene) -> tuple[FrameRect, ...]:
    """Where the panel stands, in frame pixels; nowhere where the picture leaves nothing free."""
    free = free_places(scene.placed, scene.opening, TITLE_SAFE_INSET, GAP * scene.placed.frame.height)
    if graphic.place == "where it is free":
        return chosen_places(free)
    side: Side = graphic.place
    return (free[side],) if side in free else ()


def laid_out(graphic: "Graphic", scene: Scene) -> tuple[list[Standing], float]:
    """Every piece in its place, and the factor by which all were made smaller to fit; 1 where they fit as they are."""
    boxes = [_box(place, scene) for place in places_of(graphic, scene)]
    groups, factor = _fitted(graphic, scene, boxes)
    gap = BETWEEN * _title_size(graphic, scene) * factor
    standing = [at for group, box in zip(groups, boxes, strict=True) for at in _stacked(graphic, group, box, gap)]
    return standing, factor


def _fitted(graphic: "Graphic", scene: Scene, boxes: list[Box]) -> tuple[list[list[Piece]], float]:
    """The pieces for each place, made smaller together until they fit, and the factor."""
    factor, logo = 1.0, read_rgba(scene.library.material(graphic.logo).path) if graphic.logo and boxes else None
    while True:
        groups = [
            _pieces(graphic, scene, kinds, box[2], factor, logo)
            for kinds, box in zip(_shared(boxes), boxes, strict=True)
        ]
        gap = BETWEEN * _title_size(graphic, scene) * factor
        if factor <= SMALLEST or all(_fits(group, box, gap) for group, box in zip(groups, boxes, strict=True)):
            return groups, factor
        factor *= SMALLER


def draw_panel(graphic: "Graphic", scene: Scene) -> Ink:
    """The panel in ink."""
    ink = Ink(scene.canvas, scene.pixel_aspect)
    for at in laid_out(graphic, scene)[0]:
        if at.piece.text:
            ink.cover(at.piece.text.coverage(graphic.align), at.left, at.top, graphic.colour)
        elif at.piece.image is not None:
            ink.image(at.piece.image, at.left, at.top)
        else:
            ink.wash(at.left, at.top, at.left + at.piece.width, at.top + at.piece.height, graphic.colour)
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


def _title_size(graphic: "Graphic", scene: Scene) -> float:
    return graphic.size / 100 * scene.placed.frame.height * float(scene.scale[1])


def _pieces(
    graphic: "Graphic",
    scene: Scene,
    kinds: tuple[str, ...],
    room: float,
    factor: float,
    logo: NDArray[np.uint8] | None,
) -> list[Piece]:
    size = _title_size(graphic, scene) * factor
    sizes = {"heading": size, "subtitle": size * SUBTITLE, "small_print": size * SMALL_PRINT}
    found = []
    for kind in kinds:
        if kind == "logo" and logo is not None:
            found.append(_logo(graphic, scene, room, factor, logo))
        elif kind == "rule" and graphic.rule and graphic.heading.strip():
            found.append(Piece(min(room, RULE_LENGTH * size), max(1.0, RULE * size)))
        elif kind in sizes and (text := getattr(graphic, kind).strip()):
            block = set_text(text, graphic, sizes[kind], room)
            found.append(Piece(_honest_width(block, text), block.height, text=block))
    return found


def _honest_width(block: Block, text: str) -> float:
    """A block's width; without end where a word had to be broken, so that all is made smaller first."""
    whole = " ".join(block.lines).split() == text.split()
    return float(block.width) if whole else float("inf")


def _logo(graphic: "Graphic", scene: Scene, room: float, factor: float, rgba: NDArray[np.uint8]) -> Piece:
    height = graphic.logo_size / 100 * scene.placed.frame.height * float(scene.scale[1]) * factor
    height = min(height, room * rgba.shape[0] / rgba.shape[1])
    width = height * rgba.shape[1] / rgba.shape[0]
    drawn = rgba.astype(np.float32) / 255
    drawn[..., :3] *= drawn[..., 3:]
    size = (max(1, round(width)), max(1, round(height)))
    way = cv2.INTER_AREA if size[1] < rgba.shape[0] else cv2.INTER_CUBIC
    made = np.clip(cv2.resize(drawn, size, interpolation=way), 0, 1).astype(np.float32)
    return Piece(size[0], size[1], image=made)


def _fits(pieces: list[Piece], box: Box, gap: float) -> bool:
    high = sum(piece.height for piece in pieces) + gap * max(0, len(pieces) - 1)
    return high <= box[3] and all(piece.width <= box[2] + 1 for piece in pieces)


def _stacked(graphic: "Graphic", pieces: list[Piece], box: Box, gap: float) -> list[Standing]:
    left, top, width, height = box
    high = sum(piece.height for piece in pieces) + gap * max(0, len(pieces) - 1)
    y = top + {"top": 0.0, "middle": (height - high) / 2, "bottom": height - high}[graphic.upright]
    standing = []
    for piece in pieces:
        wide = piece.text.width if piece.text else piece.width
        x = left + {"left": 0.0, "centre": (width - wide) / 2, "right": width - wide}[graphic.align]
        standing.append(Standing(piece, x, y))
        y += piece.height + gap
    return standing
