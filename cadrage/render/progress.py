"""How far a render is, told now and then; and where it may be stopped."""

import time
from collections.abc import Callable

from cadrage.errors import Cancelled
from cadrage.values import Value

REPORT_SECONDS = 0.25


class Progress(Value):
    """How far a render is.

    Attributes:
        done, total: frames written and frames in all.
        frames_per_second: mean speed so far.
        seconds_left: at that speed.
    """

    done: int
    total: int
    frames_per_second: float
    seconds_left: float


Report = Callable[[Progress], None]
Asked = Callable[[], bool]


def no_progress(_: Progress) -> None:
    """Nobody listens."""


def never() -> bool:
    """Nobody asks for it."""
    return False


class Meter:
    """Counts frames, reports now and then, and stops the work when asked.

    Args:
        total: frames in all.
        report: told how far it is, a few times a second.
        cancelled: asked as often.
    """

    def __init__(self, total: int, report: Report = no_progress, cancelled: Asked = never) -> None:
        self.total, self.report, self.cancelled = total, report, cancelled
        self.done = 0
        self.began = self.reported = time.monotonic()
        self._found = 0

    def begin_at(self, done: int) -> None:
        """So many frames were there already; they say nothing about speed."""
        self.done = self._found = done

    def stand_at(self, done: int) -> None:
        """So many frames are done in all, by this worker and by others.

        Raises:
            Cancelled: somebody asked for that.
        """
        self.count(done - self.done)

    def count(self, frames: int = 1) -> None:
        """Some more frames are written.

        Raises:
            Cancelled: somebody asked for that.
        """
        self.done += frames
        now = time.monotonic()
        if now - self.reported < REPORT_SECONDS and self.done < self.total:
            return
        self.reported = now
        self.check()
        speed = (self.done - self._found) / max(now - self.began, 1e-6)
        self.report(
            Progress(
                done=self.done,
                total=self.total,
                frames_per_second=round(speed, 2),
                seconds_left=round(max(0, self.total - self.done) / speed, 1) if speed else 0.0,
            )
        )

    def check(self) -> None:
        """Stop here when that was asked.

        Raises:
            Cancelled: somebody asked for that.
        """
        if self.cancelled():
            raise Cancelled("The render was cancelled.", remedy="Start it again when you want it.")
