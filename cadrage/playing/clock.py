"""Keeping up with real time: how far a stream is ahead of who watches it, and what is given up where it is not."""

import time
from collections.abc import Callable

LEAD = 1.5  # seconds that a stream may be ahead, so that what is changed shows soon and little is made for nothing
SAFE = 0.5  # seconds ahead with which it keeps up, whatever it did just now
WINDOW = 0.6  # seconds over which it is seen whether it keeps up
ENOUGH = 1.02  # made seconds in one that passes
PARTS = (1, 2, 4)
"""Size is given up first: to one half, then to a quarter of each side."""
MOST_LEFT_OUT = 4  # of pictures, at most all but every fourth


class Clock:
    """The time of one who watches: it begins with the first picture, and stands while there is none.

    Args:
        now: seconds on a clock that only goes forward.

    Attributes:
        part: 1 at full size, 2 at half, 4 at a quarter.
        every: 1 where every picture is shown, 2 where every other is, and so on.
    """

    def __init__(self, now: Callable[[], float] = time.monotonic) -> None:
        self._now = now
        self._begun: float | None = None
        self._since, self._made = 0.0, 0.0
        self._level = 0
        self.every = 1

    @property
    def part(self) -> int:
        """By how much each side is smaller."""
        return PARTS[self._level]

    @property
    def elapsed(self) -> float:
        """Seconds that were watched."""
        return 0.0 if self._begun is None else self._now() - self._begun

    def ahead(self, made: float) -> float:
        """How far the stream is ahead, in seconds, when it is made up to a time."""
        return made - self.elapsed

    def too_early(self, made: float) -> float:
        """How many seconds to wait before more is made."""
        return max(0.0, self.ahead(made) - LEAD)

    def too_late(self, time: float) -> bool:
        """Whether a picture is not worth making any more, where pictures are left out."""
        return self.every > 1 and self._begun is not None and time < self.elapsed

    def tick(self, made: float) -> None:
        """Something was made, up to a time. Where that is too slow, size is given up, then pictures."""
        now = self._now()
        if self._begun is None:
            self._begun, self._since, self._made = now, now, made
            return
        late = -self.ahead(made)
        if late > 0 and self.every == 1:
            self._begun += late  # who watches has been waiting
        if self.ahead(made) > SAFE:
            self._restart(now, made)
        elif now - self._since > WINDOW:
            if made - self._made < ENOUGH * (now - self._since):
                self._give_up()
            self._restart(now, made)

    def _restart(self, now: float, made: float) -> None:
        self._since, self._made = now, made

    def _give_up(self) -> None:
        if self._level + 1 < len(PARTS):
            self._level += 1
        else:
            self.every = min(self.every + 1, MOST_LEFT_OUT)
