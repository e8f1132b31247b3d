"""Clips."""

from math import ceil, floor

from ninja import Schema
from pydantic import Field

from cadrage.footage import Candidate, Fact, Facts, Interpretation, candidates, describe, taken_as
from cadrage.footage.baked import BakedBars
from cadrage.footage.describe import notices
from cadrage.footage.fields import FieldsFound
from cadrage.footage.findings import places
from cadrage.plan import Range
from cadrage.rules import format_words
from cadrage.surrounds import Blurred
from cadrage.values import Exact
from server.studio.actions.footage import twin_of
from server.studio.actions.rules import RuleBook
from server.studio.models import Footage


class Timing(Schema):
    """A clip's time as it is taken: after deinterlacing, or as a still is shown."""

    rate: Exact
    frames: int
    duration: Exact


class Marks(Schema):
    """The first and the last frame of a clip that are delivered, counted from 0 as the clip is taken."""

    first: int = Field(ge=0)
    last: int = Field(ge=0)

    @classmethod
    def of(cls, row: Footage, taken: Facts) -> "Marks | None":
        """From a clip's row; None where all of it is delivered."""
        part = row.range
        if part.whole:
            return None
        end = taken.duration if part.end is None else min(part.end, taken.duration)
        return cls(first=floor(part.start * taken.rate), last=max(0, ceil(end * taken.rate) - 1))

    def part(self, taken: Facts) -> Range:
        """The same in seconds."""
        end = None if self.last >= taken.frames - 1 else (self.last + 1) / taken.rate
        return Range(start=self.first / taken.rate, end=end)


class NoticeOut(Schema):
    """Something that was noticed about a clip: damage, or what one would not expect; and the frame it begins at."""

    says: str
    damage: bool
    frame: int


class FootageOut(Schema):
    """A clip of a project.

    `said` is what it is said to be, by itself (`own`) or by the rule of its format; `interpretation` is what it is
    taken to be, where what was found in its pictures fills in what nobody said.
    """

    id: int
    name: str
    size: int
    facts: Facts
    timing: Timing
    missing: bool
    linked: bool
    words: str
    format: str
    described: list[Fact]
    noticed: list[NoticeOut]
    damaged_places: int
    said: Interpretation
    interpretation: Interpretation
    own: bool
    candidates: list[Candidate]
    looked: bool
    bars: BakedBars | None
    fields: FieldsFound | None
    twin: str | None
    range: Marks | None
    copy_to_begin_with: Blurred

    @classmethod
    def of(cls, row: Footage, book: RuleBook | None = None, firsts: dict[str, Footage] | None = None) -> "FootageOut":
        """From its row; for many, with the project's rules and the first clip of every digest."""
        book = book or RuleBook.of(row.project)
        facts, interpretation = row.facts, book.interpretation(row)
        taken = taken_as(facts, interpretation)
        return cls(
            id=row.pk,
            name=row.name,
            size=row.size,
            facts=facts,
            timing=Timing(rate=taken.rate, frames=taken.frames, duration=taken.duration),
            missing=not row.path.exists(),
            linked=bool(row.linked),
            words=facts.words,
            format=format_words(facts),
            described=list(describe(facts)),
            noticed=[
                NoticeOut(says=one.says, damage=one.damage, frame=min(floor(one.start * taken.rate), taken.frames - 1))
                for one in notices(facts)
            ],
            damaged_places=places(facts.findings),
            said=book.said(row),
            interpretation=interpretation,
            own=row.interpretation_json is not None,
            candidates=list(candidates(facts)),
            looked=row.looked,
            bars=row.bars,
            fields=row.fields,
            twin=twin_of(row, firsts),
            range=Marks.of(row, taken),
            copy_to_begin_with=row.quiet_copy,
        )


class InterpretIn(Schema):
    """What to take a clip to be; null goes back to the rule of its format. With `for_format`, it becomes that rule."""

    interpretation: Interpretation | None
    for_format: bool = False


class RenameIn(Schema):
    """A new name for a clip."""

    name: str = Field(min_length=1, max_length=240)


class PathIn(Schema):
    """A path in an allowed folder."""

    path: str = Field(min_length=1, max_length=1000)
