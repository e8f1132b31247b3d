"""Exact sizes, rectangles, placement and its cost. Fractions only; nothing here rounds."""

from cadrage.geometry.boxes import Box
from cadrage.geometry.cautions import Caution, CautionKind, cautions
from cadrage.geometry.cost import Cost, cost_of
from cadrage.geometry.placement import Placed, Placement, PlacementLimits, place
from cadrage.geometry.shapes import FrameRect, Opening, Picture, Raster, Rect, SourceRect, active_picture, drawn_even
from cadrage.geometry.snapping import Snap, snaps
from cadrage.geometry.turning import Turn, turn_of
from cadrage.geometry.window import Window, angle_of_line, placement_for, window_of

__all__ = [
    "Box",
    "Caution",
    "CautionKind",
    "Cost",
    "FrameRect",
    "Opening",
    "Picture",
    "Placed",
    "Placement",
    "PlacementLimits",
    "Raster",
    "Rect",
    "Snap",
    "SourceRect",
    "Turn",
    "Window",
    "active_picture",
    "angle_of_line",
    "cautions",
    "cost_of",
    "drawn_even",
    "place",
    "placement_for",
    "snaps",
    "turn_of",
    "window_of",
]
