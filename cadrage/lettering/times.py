"""When something is shown."""

from fractions import Fraction

from cadrage.fields import moment, seconds
from cadrage.values import Value


class Shown(Value):
    """Fields of whatever comes and goes.

    Attributes:
        start: when it comes, in seconds of the clip.
        end: when it has gone; 0 is never.
        fade: seconds in which it comes, and in which it goes.
    """

    start: float = moment("From")
    end: float = moment("Until")
    fade: float = seconds(0, 10, 0, "Fade")

    @property
    def stays(self) -> bool:
        """Whether it is the same at every time."""
        return not (self.start or self.end or self.fade)

    def opacity(self, time: Fraction) -> float:
        """How much of it is there at a time, 0 to 1."""
        since, left = float(time) - self.start, self.end - float(time) if self.end else float("inf")
        if since < 0 or left <= 0:
            return 0.0
        return min(1.0, since / self.fade, left / self.fade) if self.fade else 1.0
