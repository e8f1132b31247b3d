"""Names of files, made by a pattern; no file ever takes another's place."""

import re
import string
from collections.abc import Container
from pathlib import PurePath

from pathvalidate import sanitize_filename

PARTS = ("project", "clip", "frame", "width", "height", "settings")
USUAL = "{project}_{clip}_{frame}"
UNWANTED = re.compile(r"[^\w.,()+ -]+")
LONGEST = 120


def checked_pattern(pattern: str) -> str:
    """A pattern that only has parts that there are.

    Raises:
        ValueError: it has another, or cannot be read.
    """
    for _, field, spec, conversion in string.Formatter().parse(pattern):
        if field is not None and (field not in PARTS or spec or conversion):
            raise ValueError(f"a name is made of {', '.join(f'{{{part}}}' for part in PARTS)}, not {{{field}}}")
    return pattern


def file_name(pattern: str, parts: dict[str, str], suffix: str, taken: Container[str] = ()) -> str:
    """A file's name: what no file system takes is left out, and a number makes it unlike those that are taken."""
    made = pattern.format(**{part: PurePath(parts.get(part, "")).name for part in PARTS})
    return free_name(made, suffix, taken)


def free_name(text: str, suffix: str, taken: Container[str] = ()) -> str:
    """A name that file systems take and that is not taken, made of a text."""
    stem = sanitize_filename(UNWANTED.sub("-", text).strip(" .")[:LONGEST], platform="universal") or "file"
    name, number = f"{stem}{suffix}", 2
    while name in taken:
        name, number = f"{stem} {number}{suffix}", number + 1
    return name
