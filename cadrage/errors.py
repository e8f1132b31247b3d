"""What can go wrong, one class for each cause.

Every error says what happened and what to do next; the clip it happened to, where there is one, is an attribute.
"""

from pathlib import Path
from typing import Any


class CadrageError(Exception):
    """Root of every error that Cadrage raises on purpose.

    Attributes:
        problem: one sentence, what happened.
        remedy: one sentence, what to do next.
        clip: the file or clip it happened to, or None.
    """

    def __init__(self, problem: str, *, remedy: str, clip: str | Path | None = None) -> None:
        self.problem = problem
        self.remedy = remedy
        self.clip = None if clip is None else Path(clip).name
        super().__init__(str(self))

    def __reduce__(self) -> tuple[object, ...]:
        return _again, (type(self), self.__dict__)

    def __str__(self) -> str:
        where = f"{self.clip}: " if self.clip else ""
        return f"{where}{self.problem} {self.remedy}"


def _again(kind: type[CadrageError], said: dict[str, Any]) -> CadrageError:
    """An error as it was in another process."""
    error = kind.__new__(kind, "")
    error.__dict__.update(said)
    return error


class UnreadableFile(CadrageError):
    """The file is not footage that Cadrage reads: empty, damaged, cut short or of another kind."""


class NoPicture(CadrageError):
    """The file holds no moving picture, only sound or data."""


class RasterOutOfRange(CadrageError):
    """The picture or the frame is smaller or larger than the stated limits."""


class MissingSource(CadrageError):
    """The source file is not where it was."""


class SourceChanged(CadrageError):
    """A file is not the one any more that a render was ordered of."""


class Stale(CadrageError):
    """What was to be changed is not as it was when somebody began to change it.

    Attributes:
        changed: what happened to it in between, in order.
    """

    def __init__(self, problem: str, *, remedy: str, changed: tuple[str, ...], clip: str | None = None) -> None:
        super().__init__(problem, remedy=remedy, clip=clip)
        self.changed = changed


class BadRequest(CadrageError):
    """A value that was asked for cannot be used: a number out of range, a colour that is none."""


class CannotWrite(CadrageError):
    """The result could not be written: no space, no permission."""


class Busy(CadrageError):
    """Too much of that is being done already."""


class Cancelled(CadrageError):
    """The work was stopped because somebody asked for that."""


class Paused(CadrageError):
    """The work was paused on request; finished parts are kept."""
