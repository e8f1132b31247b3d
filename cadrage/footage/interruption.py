"""Ending a decode from outside: readers ask after every picture whether they go on."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar

Check = Callable[[], None]
"""Raises whatever ends the work."""
_check: ContextVar[Check | None] = ContextVar("check", default=None)


@contextmanager
def interrupted_by(check: Check) -> Iterator[None]:
    """Call a check after every picture that this thread decodes within the block, besides those set outside it."""
    outer = _check.get()

    def both() -> None:
        if outer is not None:
            outer()
        check()

    token = _check.set(both)
    try:
        yield
    finally:
        _check.reset(token)


def check_interrupted() -> None:
    """Raise what ends this work, if something does."""
    check = _check.get()
    if check is not None:
        check()
