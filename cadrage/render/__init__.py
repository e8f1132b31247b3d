"""A plan makes a file; the file is opened again and measured."""

from cadrage.render.estimate import Estimate, estimate
from cadrage.render.inspection import Inspection, inspect_file
from cadrage.render.job import render
from cadrage.render.kinds import KINDS, QUALITY_WORDS
from cadrage.render.order import Order, facts_to_render, frame_written, plan_written
from cadrage.render.pace import delivered
from cadrage.render.progress import Progress
from cadrage.render.report import Line
from cadrage.render.settings import (
    DEFAULT,
    SHIPPED,
    Settings,
    check_decided,
    check_undamaged,
    find_settings,
    read_settings,
    writing_of,
)

__all__ = [
    "DEFAULT",
    "KINDS",
    "QUALITY_WORDS",
    "SHIPPED",
    "Estimate",
    "Inspection",
    "Line",
    "Order",
    "Progress",
    "Settings",
    "check_decided",
    "check_undamaged",
    "delivered",
    "estimate",
    "facts_to_render",
    "find_settings",
    "frame_written",
    "inspect_file",
    "plan_written",
    "read_settings",
    "render",
    "writing_of",
]
