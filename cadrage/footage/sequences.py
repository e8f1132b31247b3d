"""Telling which stills are numbered alike and so belong to one sequence."""

import re
from collections.abc import Iterable
from dataclasses import dataclass

SUFFIXES = (".png", ".jpg", ".jpeg", ".tif", ".tiff", ".webp", ".bmp", ".jp2", ".avif")
FOOTAGE_SUFFIXES = {
    *(".mp4", ".mov", ".m4v", ".mkv", ".webm", ".avi", ".ts", ".m2ts", ".mts", ".mpg", ".mpeg", ".mxf", ".dv"),
    *(".y4m", ".ogv", ".gif"),
    *(".j2k", ".heic", ".jxl"),  # the last two are refused, by their names
    *SUFFIXES,
}
"""What files in a folder are looked at; whether they are footage is then found by probing."""
NUMBERED = re.compile(r"(?P<stem>.*?)(?P<number>\d+)(?P<suffix>\.[a-z]+)", re.IGNORECASE)
FEWEST = 3
STILLS_IN_SEQUENCE = 100_000


@dataclass(frozen=True, slots=True)
class Group:
    """Stills that belong together, in order.

    Attributes:
        title: what to call them.
        names: their file names.
    """

    title: str
    names: tuple[str, ...]


def number_of(name: str) -> int | None:
    """The number at the end of a still's name; None where it has none, or is hidden."""
    match = _match_numbered(name)
    return int(match["number"]) if match else None


def _match_numbered(name: str) -> re.Match[str] | None:
    """Match the name of a numbered still; hidden files never match."""
    match = None if name.startswith(".") else NUMBERED.fullmatch(name)
    return match if match and match["suffix"].lower() in SUFFIXES else None


def grouped(names: Iterable[str]) -> list[Group]:
    """Put names that differ only by a number together, where there are at least three in unbroken order; else apart.

    A file of attributes, such as "._tram.mov" beside "tram.mov", is left out; copies from some file systems bring them.
    """
    there = set(names)
    alike: dict[tuple[str, str], list[tuple[int, str]]] = {}
    groups: list[Group] = []
    for name in sorted(name for name in there if not (name.startswith("._") and name[2:] in there)):
        if match := _match_numbered(name):
            alike.setdefault((match["stem"], match["suffix"].lower()), []).append((int(match["number"]), name))
        else:
            groups.append(Group(name, (name,)))
    for (stem, suffix), found in alike.items():
        found.sort()
        unbroken = found[-1][0] - found[0][0] == len(found) - 1 == len({number for number, _ in found}) - 1
        if len(found) >= FEWEST and unbroken:
            groups.append(Group(f"{stem.rstrip('._- ') or 'Sequence'}{suffix}", tuple(name for _, name in found)))
        else:
            groups += [Group(name, (name,)) for _, name in found]
    return groups
