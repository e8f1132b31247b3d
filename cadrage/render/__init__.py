"""A plan makes a file; the file is opened again and measured."""

from cadrage.render.encoder import check
from cadrage.render.inspection import Inspection, Line, Order, inspect_file
from cadrage.render.job import Progress, render
from cadrage.render.pace import delivered

__all__ = ["Inspection", "Line", "Order", "Progress", "check", "delivered", "inspect_file", "render"]
