"""What others feel while something goes on, and what it costs the server."""

import threading
import time
from dataclasses import dataclass, field
from pathlib import Path
from types import TracebackType
from typing import Any, Self

import requests

from tests.siege.people import PATIENCE, Person

STATUS = "VmRSS:"


def memory_of(process: int) -> int:
    """Bytes that a process holds in memory now; 0 where it is gone."""
    try:
        lines = Path(f"/proc/{process}/status").read_text().splitlines()
    except OSError:
        return 0
    return next((int(line.split()[1]) * 1024 for line in lines if line.startswith(STATUS)), 0)


def quantile(values: list[float], share: float) -> float:
    """A quantile of some values; 0 of none."""
    return sorted(values)[min(len(values) - 1, int(share * len(values)))] if values else 0.0


@dataclass
class Watch:
    """Somebody at the bench who asks for one picture after another, and a look at a process's memory meanwhile.

    Attributes:
        pictures: seconds for each.
        errors: what was answered instead.
        health: seconds for each answer that the server is alive, on a connection of its own.
        peak: bytes of memory, at most.
    """

    person: Person
    framing: dict[str, Any]
    process: int
    pictures: list[float] = field(default_factory=list)
    errors: list[str] = field(default_factory=list)
    health: list[float] = field(default_factory=list)
    peak: int = 0
    seconds: float = 0.0

    def __enter__(self) -> Self:
        self._over = threading.Event()
        self._begun = time.monotonic()
        self._threads = [threading.Thread(target=one, daemon=True) for one in (self._look, self._measure, self._ask)]
        for thread in self._threads:
            thread.start()
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.seconds = time.monotonic() - self._begun
        self._over.set()
        for thread in self._threads:
            thread.join()

    def _look(self) -> None:
        shift = 1
        while not self._over.is_set():
            begun = time.monotonic()
            answer = self.person.preview(self.framing, shift)
            self.pictures.append(time.monotonic() - begun)
            if answer.status_code != 200:
                self.errors.append(f"{answer.status_code} {answer.text[:80]}")
            shift = shift % 400 + 1
            self._over.wait(0.2)

    def _ask(self) -> None:
        while not self._over.is_set():
            begun = time.monotonic()
            try:
                requests.get(f"{self.person.address}/healthz", timeout=PATIENCE).raise_for_status()
            except requests.RequestException as error:
                self.errors.append(f"health: {error}"[:80])
            self.health.append(time.monotonic() - begun)
            self._over.wait(0.2)

    def _measure(self) -> None:
        while not self._over.is_set():
            self.peak = max(self.peak, memory_of(self.process))
            self._over.wait(0.05)
