"""What was noticed about a file while it was gone through: damage, and what is not as one would expect."""

from collections.abc import Iterable
from fractions import Fraction
from typing import Literal

from cadrage.values import Exact, Value

FindingKind = Literal[
    "leading",
    "undecodable",
    "concealed",
    "missing",
    "held",
    "unreadable",
    "cut_short",
    "sound_damaged",
    "clock_jumps",
    "size_changes",
    "samples_change",
    "pixel_aspect_changes",
    "turned_askew",
    "other_pictures",
    "sound_unknown",
    "film_by_flags",
    "captions_in_picture",
    "active_format",
    "subtitles_unknown",
]
DAMAGE: frozenset[FindingKind] = frozenset(
    ("undecodable", "concealed", "missing", "unreadable", "cut_short", "sound_damaged")
)
"""Kinds that mean that something is lost."""

TOGETHER = Fraction(1, 2)  # seconds between two stretches of damage that are told as one
MOST_TOLD = 100


class Finding(Value):
    """One thing that was noticed.

    Attributes:
        kind: what it is.
        start, end: the stretch it is about, in seconds from the first picture; the end is None for a moment, or for
            all of the file.
        count: how many pictures or streams it is about; 0 where that says nothing.
        told: a value that goes with it, such as a size.
    """

    kind: FindingKind
    start: Exact = Fraction(0)
    end: Exact | None = None
    count: int = 0
    told: str = ""

    @property
    def damage(self) -> bool:
        """Whether something is lost."""
        return self.kind in DAMAGE


def stretches(kind: FindingKind, moments: Iterable[Fraction], length: Fraction) -> list[Finding]:
    """Moments of damage put together where they lie close to one another.

    Args:
        kind: of damage.
        moments: when each begins, in seconds.
        length: how long each lasts, in seconds.
    """
    return together(Finding(kind=kind, start=moment, end=moment + length, count=1) for moment in sorted(moments))


def together(findings: Iterable[Finding]) -> list[Finding]:
    """Findings of one kind, in the order of time, those in one that lie close to one another."""
    found: list[Finding] = []
    for one in findings:
        last = found[-1] if found else None
        if last is not None and last.end is not None and one.end is not None and one.start - last.end <= TOGETHER:
            both = {"end": max(last.end, one.end), "count": last.count + one.count}
            found[-1] = last.model_copy(update=both)
        else:
            found.append(one)
    return found


def places(findings: Iterable[Finding]) -> int:
    """In how many places a clip is damaged: what is wrong with picture and sound at one place counts once."""
    count, until = 0, None
    for one in sorted((one for one in findings if one.damage), key=lambda one: one.start):
        if until is None or one.start - until > TOGETHER:
            count += 1
        until = max(until or one.start, one.end or one.start)
    return count


def limited(found: list[Finding]) -> tuple[Finding, ...]:
    """Findings in the order of time; where there are too many of a file to tell, the later ones in one."""
    ordered = sorted(found, key=lambda one: (one.start, one.kind))
    if len(ordered) <= MOST_TOLD:
        return tuple(ordered)
    kept, rest = ordered[:MOST_TOLD], ordered[MOST_TOLD:]
    ends = [one.end or one.start for one in rest]
    kind = next((one.kind for one in rest if one.damage), rest[0].kind)
    return (*kept, Finding(kind=kind, start=rest[0].start, end=max(ends), count=sum(one.count for one in rest)))
