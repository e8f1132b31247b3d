"""Processes that run together on one machine: one that ends by itself is started again, the others go on."""

import signal
import subprocess
import time
from collections.abc import Sequence
from dataclasses import dataclass, field
from types import FrameType

SOON, LATER = 1.0, 30.0
"""Seconds until a process is started again: soon, and later each time that it ends at once."""
STEADY = 60.0
"""Seconds after which a process that ends had come up well."""
PATIENCE = 20.0
TICK = 0.2


@dataclass
class Kept:
    """A process that is kept running."""

    command: Sequence[str]
    process: subprocess.Popen[bytes] | None = None
    begun: float = 0.0
    wait: float = SOON
    again: float = 0.0

    def look(self, now: float) -> None:
        """Start it where it is not running and it is time to."""
        if self.process is not None and self.process.poll() is not None:
            self.wait = SOON if now - self.begun > STEADY else min(2 * self.wait, LATER)
            self.process, self.again = None, now + self.wait
        if self.process is None and now >= self.again:
            self.process, self.begun = subprocess.Popen(self.command), now  # noqa: S603 - our own

    def ask_to_end(self) -> None:
        """Ask it to end."""
        if self.process is not None and self.process.poll() is None:
            self.process.terminate()

    def see_off(self, until: float) -> None:
        """Wait until it has ended; from a moment on it is killed."""
        if self.process is None:
            return
        try:
            self.process.wait(max(0.1, until - time.monotonic()))
        except subprocess.TimeoutExpired:
            self.process.kill()
            self.process.wait()


@dataclass
class Together:
    """Processes that run until SIGTERM or Ctrl-C comes."""

    all: list[Kept]
    _over: bool = field(default=False, init=False)

    def run(self) -> None:
        """Keep all running; when told to stop, end all."""
        for one in (signal.SIGTERM, signal.SIGINT):
            signal.signal(one, self._stop)
        while not self._over:
            for kept in self.all:
                kept.look(time.monotonic())
            time.sleep(TICK)
        for kept in self.all:
            kept.ask_to_end()
        until = time.monotonic() + PATIENCE
        for kept in self.all:
            kept.see_off(until)

    def _stop(self, number: int, frame: FrameType | None) -> None:
        self._over = True
