"""Where files may be read from: everywhere, or, where others name the files, in some folders only.

A file is looked at again once it is open: what its name leads to then is what was opened, or nothing is read of it.
"""

import os
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path

from cadrage.errors import MissingSource

_folders: Callable[[], Iterable[Path]] | None = None


def read_only_in(folders: Callable[[], Iterable[Path]] | None) -> None:
    """Read files in some folders only from now on, in this process; None for everywhere.

    Args:
        folders: says which, each time.
    """
    global _folders  # noqa: PLW0603 - of the process, as what it may read is
    _folders = folders


@contextmanager
def checked(path: Path) -> Iterator[None]:
    """Open a file within the block; that it lies where it may, once links are followed, is seen before and after.

    Raises:
        MissingSource: it does not, or its name came to stand for another file meanwhile.
    """
    if _folders is None:
        yield
        return
    before = _state(path)
    yield
    if _state(path) != before:
        raise _gone(path)


def _state(path: Path) -> tuple[str, int, int]:
    """Where a file lies and which it is."""
    real = os.path.realpath(path)
    if _folders is not None and not any(Path(real).is_relative_to(folder.resolve()) for folder in _folders()):
        raise _gone(path)
    try:
        state = os.stat(real, follow_symlinks=False)  # noqa: PTH116 - of the place itself, whatever it has become
    except OSError as error:
        raise _gone(path) from error
    return real, state.st_dev, state.st_ino


def _gone(path: Path) -> MissingSource:
    return MissingSource("The file is not there.", remedy="Put it back, or choose another.", clip=path)
