"""Folders on the server whose footage may be used where it lies."""

from pathlib import Path

from django.conf import settings
from django.contrib.auth.models import AnonymousUser, User

from cadrage.errors import BadRequest
from cadrage.footage.sequences import FOOTAGE_SUFFIXES, STILLS_IN_SEQUENCE, grouped
from cadrage.values import Value

MOST_LISTED = 500
Visitor = User | AnonymousUser


class Entry(Value):
    """A folder, a file, or a folder of numbered stills.

    Attributes:
        path: absolute.
        name: its own.
        kind: what it is.
    """

    path: str
    name: str
    kind: str


class Listing(Value):
    """What lies in a folder.

    Attributes:
        path: the folder; empty for the list of all allowed ones.
        up: the folder above, if that is allowed too; empty for the list; None where there is none above.
        entries: what lies in it, folders first.
    """

    path: str
    up: str | None
    entries: tuple[Entry, ...]


def delivery_folders(person: Visitor) -> list[Path]:
    """The folders that results may be written to for somebody."""
    return _for(person, settings.DELIVERY_FOLDERS)


def delivery_folder(person: Visitor, given: str) -> Path:
    """A folder that results may be written to, or one in it, once links and dots are followed.

    Raises:
        BadRequest: it is none.
    """
    path = _inside(given, delivery_folders(person))
    if path is None or not path.is_dir():
        raise BadRequest(
            "That is not a folder that this server may write to.", remedy="Choose from those it names.", clip=given
        )
    return path


def roots(person: Visitor) -> list[Path]:
    """The folders that somebody may use footage of, as they are once links are followed."""
    return _for(person, settings.FOOTAGE_FOLDERS)


def _for(person: Visitor, folders: list[str]) -> list[Path]:
    """Those that are for everybody, or for a person or a group of the name that stands behind an @."""
    if not person.is_authenticated:
        return []
    named = [folder.partition("@") for folder in folders]
    names = {person.get_username()} if any(who for _, _, who in named) else set()
    names |= set(person.groups.values_list("name", flat=True)) if names else set()
    return [Path(folder).resolve() for folder, _, who in named if not who or who in names]


def _inside(given: str, folders: list[Path]) -> Path | None:
    """A path that lies in one of some folders, once links and dots are followed; None where it does not."""
    path = Path(given).resolve() if given.startswith("/") else None
    return path if path is not None and any(path.is_relative_to(folder) for folder in folders) else None


def allowed(person: Visitor, given: str) -> Path:
    """A path in an allowed folder, once links and dots are followed.

    Raises:
        BadRequest: it lies elsewhere, or is not there. Which of the two is not said, so that nothing is told of the
            disk outside.
    """
    path = _inside(given, roots(person))
    if path is None or not path.exists():
        raise BadRequest(
            "That is not in a folder that this server allows.", remedy="Choose from the folders listed.", clip=given
        )
    return path


def listing(person: Visitor, given: str) -> Listing:
    """What lies in an allowed folder, or the allowed folders themselves.

    Raises:
        BadRequest: see `allowed`.
    """
    within = roots(person)
    if not given:
        there = [root for root in within if root.is_dir()]
        return Listing(path="", up=None, entries=tuple(_entry(root, str(root)) for root in there))
    folder = allowed(person, given)
    if not folder.is_dir():
        raise BadRequest("That is no folder.", remedy="Choose a folder.", clip=given)
    inside = sorted(folder.iterdir(), key=lambda path: (not path.is_dir(), path.name.lower()))
    kept = [path for path in inside if not path.name.startswith(".") and _shown(path, within)]
    up = str(folder.parent) if any(folder.parent.is_relative_to(root) for root in within) else ""
    return Listing(path=str(folder), up=up, entries=tuple(_entry(path, path.name) for path in kept[:MOST_LISTED]))


def _shown(path: Path, within: list[Path]) -> bool:
    """Folders and footage; a link that leads out of the allowed folders is passed over."""
    real = path.resolve()
    inside = any(real.is_relative_to(root) for root in within)
    return inside and (real.is_dir() or real.suffix.lower() in FOOTAGE_SUFFIXES)


def _entry(path: Path, name: str) -> Entry:
    if not path.is_dir():
        return Entry(path=str(path), name=name, kind="file")
    groups = grouped([child.name for child in path.iterdir() if child.is_file()][:STILLS_IN_SEQUENCE])
    sequence = len(groups) == 1 and len(groups[0].names) > 1
    return Entry(path=str(path), name=name, kind="sequence" if sequence else "folder")
