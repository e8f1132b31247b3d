"""A plan and a moment make one finished frame. There is no other implementation: what is seen is what is rendered."""

from cadrage.compose.compositor import Compositor, compose
from cadrage.compose.measure import Measure, measure
from cadrage.compose.preview import Previewer
from cadrage.compose.target import screen_layout

__all__ = ["Compositor", "Measure", "Previewer", "compose", "measure", "screen_layout"]
