"""Rectangles and lines as they are sent and stored."""

from cadrage.geometry.shapes import Rect
from cadrage.values import Exact, Value


class Box(Value):
    """A rectangle, in pixels of the frame or of the source."""

    x: Exact
    y: Exact
    width: Exact
    height: Exact

    @classmethod
    def of(cls, rect: Rect) -> "Box":
        """The same rectangle."""
        return cls(x=rect.x, y=rect.y, width=rect.width, height=rect.height)
