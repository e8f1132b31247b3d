"""Exact sizes, rectangles, placement and its cost. Fractions only; nothing here rounds."""

from cadrage.geometry.cautions import cautions
from cadrage.geometry.cost import Cost, cost_of
from cadrage.geometry.placement import Placed, Placement, place
from cadrage.geometry.shapes import FrameRect, Raster, Rect, SourceRect
from cadrage.geometry.snapping import Snap, snaps

__all__ = [
    "Cost",
    "FrameRect",
    "Placed",
    "Placement",
    "Raster",
    "Rect",
    "Snap",
    "SourceRect",
    "cautions",
    "cost_of",
    "place",
    "snaps",
]
