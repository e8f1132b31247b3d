"""Streaming responses: each holds a thread of the web process while it is sent, so their number is limited."""

import threading
from collections import Counter
from collections.abc import Generator, Iterator
from contextlib import contextmanager

from cadrage.errors import Busy


def start_stream(parts: Generator[bytes, None, None]) -> Generator[bytes, None, None]:
    """Produce the first part now, so that an immediate error is raised here, and return all parts."""
    return _from(next(parts, b""), parts)


def _from(first: bytes, parts: Generator[bytes, None, None]) -> Generator[bytes, None, None]:
    try:
        yield first
        yield from parts
    finally:
        parts.close()


class ConcurrencyLimit:
    """Allow at most some streams at the same time.

    Args:
        limit: streams that may run at once.
        message: shown to the person whose stream is refused.
        wait_s: seconds that a new stream waits for a free place before it is refused.
        limit_each: streams of one person, or of one link, among them.
    """

    def __init__(self, limit: int, message: str, wait_s: float = 0.0, limit_each: int | None = None) -> None:
        self._free = threading.BoundedSemaphore(limit)
        self._message, self._wait_s, self._limit_each = message, wait_s, limit_each
        self._each: Counter[str] = Counter()
        self._lock = threading.Lock()

    @contextmanager
    def slot(self, whose: str = "") -> Iterator[None]:
        """Hold one of the places until the end of the block.

        Args:
            whose: the person, or the link, whose stream it is.

        Raises:
            Busy: no place became free in time, or this person has as many as they may.
        """
        with self._lock:
            if self._limit_each is not None and self._each[whose] >= self._limit_each:
                raise Busy(f"{self._limit_each} of these are running for you already.", remedy=WAIT)
            self._each[whose] += 1
        try:
            if not self._free.acquire(timeout=self._wait_s):
                raise Busy(self._message, remedy=WAIT)
            try:
                yield
            finally:
                self._free.release()
        finally:
            with self._lock:
                self._each[whose] -= 1
                self._each += Counter()  # forget whoever has none


WAIT = "Try again when one of them has ended."
