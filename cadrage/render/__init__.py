"""A plan makes a file."""

from cadrage.render.estimate import Estimate, estimate, stated
from cadrage.render.frame_timing import delivered
from cadrage.render.job import render
from cadrage.render.progress import Progress
from cadrage.render.request import RenderRequest, frame_written, info_to_render, plan_written

__all__ = [
    "Estimate",
    "Progress",
    "RenderRequest",
    "delivered",
    "estimate",
    "frame_written",
    "info_to_render",
    "plan_written",
    "render",
    "stated",
]
