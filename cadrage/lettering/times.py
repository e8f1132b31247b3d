"""When something is shown."""

from fractions import Fraction

from cadrage.fields import moment, seconds
from cadrage.values import Exact, Value


class Shown(Value):
    """Fields of whatever comes and goes.

    Attributes:
        start: when it comes, in seconds of the clip.
        end: when it has gone; 0 is never.
        fade: seconds in which it comes, and in which it goes.
    """

    start: Exact = moment("From")
    end: Exact = moment("Until")
    fade: Exact = seconds(0, 10, 0, "Fade")

    @property
    def constant(self) -> bool:
        """Whether it is the same at every time."""
        return not (self.start or self.end or self.fade)

    def opacity(self, time: Fraction) -> float:
        """How much of it is there at a time, 0 to 1."""
        since, left = time - self.start, self.end - time
        if since < 0 or (self.end and left <= 0):
            return 0.0
        if not self.fade:
            return 1.0
        return float(min(1, since / self.fade, left / self.fade if self.end else 1))
