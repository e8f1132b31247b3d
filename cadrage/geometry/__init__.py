"""Exact sizes, rectangles, placement and its cost. Fractions only; nothing here rounds."""

from cadrage.geometry.cautions import cautions
from cadrage.geometry.cost import Cost, cost_of
from cadrage.geometry.placement import Placed, Placement, place
from cadrage.geometry.shapes import FrameRect, Opening, Raster, Rect, SourceRect, active_picture, drawn_even
from cadrage.geometry.snapping import Snap, snaps

__all__ = [
    "Cost",
    "FrameRect",
    "Opening",
    "Placed",
    "Placement",
    "Raster",
    "Rect",
    "Snap",
    "SourceRect",
    "active_picture",
    "cautions",
    "cost_of",
    "drawn_even",
    "place",
    "snaps",
]
