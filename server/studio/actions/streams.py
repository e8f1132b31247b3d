"""Answers that are made while they are sent, each of which holds a thread for as long."""

import threading
from collections.abc import Generator, Iterator
from contextlib import contextmanager

from cadrage.errors import Busy


def begun(parts: Generator[bytes, None, None]) -> Generator[bytes, None, None]:
    """The same parts, of which the first is there: what goes wrong at once goes wrong here."""
    return _from(next(parts, b""), parts)


def _from(first: bytes, parts: Generator[bytes, None, None]) -> Generator[bytes, None, None]:
    try:
        yield first
        yield from parts
    finally:
        parts.close()


class Few:
    """So many at a time and no more.

    Args:
        most: how many.
        problem: what is said to one more.
        patience: seconds for which that one waits first.
    """

    def __init__(self, most: int, problem: str, patience: float = 0.0) -> None:
        self._left = threading.BoundedSemaphore(most)
        self._problem, self._patience = problem, patience

    @contextmanager
    def one(self) -> Iterator[None]:
        """Be one of them until the end of the block.

        Raises:
            Busy: there are as many already.
        """
        if not self._left.acquire(timeout=self._patience):
            raise Busy(self._problem, remedy="Try again when one of them has ended.")
        try:
            yield
        finally:
            self._left.release()
