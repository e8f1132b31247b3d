"""Telling whether a file is still the same one."""

from pathlib import Path

from cadrage.errors import MissingSource


def fingerprint(path: Path) -> str:
    """A text that changes when a file, or a folder of stills, is changed or replaced: sizes and times of change.

    Raises:
        MissingSource: it is not there.
    """
    try:
        files = sorted(path.iterdir()) if path.is_dir() else [path]
        states = [file.stat() for file in files]
    except OSError as error:
        raise MissingSource("The file is not there.", remedy="Put it back, or choose another.", clip=path) from error
    newest = max((state.st_mtime_ns for state in states), default=0)
    return f"{len(states)} {sum(state.st_size for state in states)} {newest}"
