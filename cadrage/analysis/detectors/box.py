"""A box around something in a picture."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Box:
    """Something in a picture: its upper left corner and sides, and how sure it is that it is there, 0 to 1."""

    x: float
    y: float
    width: float
    height: float
    score: float = 1.0

    @classmethod
    def about(cls, middle: tuple[float, float], width: float, height: float, score: float = 1.0) -> "Box":
        """The one with a centre and sides."""
        return cls(middle[0] - width / 2, middle[1] - height / 2, width, height, score)

    @property
    def middle(self) -> tuple[float, float]:
        """Its centre."""
        return self.x + self.width / 2, self.y + self.height / 2

    @property
    def area(self) -> float:
        """How much it covers."""
        return self.width * self.height

    def shared(self, other: "Box") -> float:
        """How much both cover."""
        across = min(self.x + self.width, other.x + other.width) - max(self.x, other.x)
        down = min(self.y + self.height, other.y + other.height) - max(self.y, other.y)
        return max(0.0, across) * max(0.0, down)

    def overlap(self, other: "Box") -> float:
        """What both cover, of what either does: 0 to 1."""
        both = self.shared(other)
        return both / (self.area + other.area - both) if both else 0.0
