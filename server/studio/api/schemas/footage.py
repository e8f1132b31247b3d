"""Clips."""

from collections.abc import Iterator
from math import ceil, floor
from typing import Literal, Self

from ninja import Schema
from pydantic import Field, model_validator

from cadrage.analyses import ANALYSES
from cadrage.analysis.burned_in_bars import BurnedInBars
from cadrage.analysis.fields import FieldsFound
from cadrage.analysis.following.analysis import FollowingFound
from cadrage.analysis.shots import ShotsFound
from cadrage.compose.advice import extendable_sides
from cadrage.extend.request import Side
from cadrage.footage import Candidate, Fact, Interpretation, MediaInfo, candidates, describe, effective_timing, resolve
from cadrage.footage.describe import notices
from cadrage.footage.findings import places
from cadrage.formats.frames import FrameSize, size_like
from cadrage.plan import Range
from cadrage.rules import format_summary
from cadrage.surrounds import Blurred
from cadrage.values import Exact, VisibleText
from server.studio.actions.footage import twin_of
from server.studio.actions.previews import alone_key
from server.studio.actions.rules import RuleBook
from server.studio.models import Analysis, Footage


class Timing(Schema):
    """The timing of a clip as interpreted: after deinterlacing, or the duration of a still."""

    rate: Exact
    frames: int
    duration: Exact


class Marks(Schema):
    """The first and the last frame of a clip that are delivered, counted from 0 as the clip is taken."""

    first: int = Field(ge=0)
    last: int = Field(ge=0)

    @classmethod
    def of(cls, row: Footage, taken: MediaInfo) -> "Marks | None":
        """From a clip's row; None where all of it is delivered."""
        part = row.range
        if part.whole:
            return None
        end = taken.duration if part.end is None else min(part.end, taken.duration)
        return cls(first=floor(part.start * taken.rate), last=max(0, ceil(end * taken.rate) - 1))

    def part(self, taken: MediaInfo) -> Range:
        """The same in seconds."""
        end = None if self.last >= taken.frames - 1 else (self.last + 1) / taken.rate
        return Range(start=self.first / taken.rate, end=end)


class MarkIn(Schema):
    """A frame that is to be the first, or the last, that is delivered."""

    first: int | None = Field(default=None, ge=0)
    last: int | None = Field(default=None, ge=0)

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.first is not None and self.last is not None and self.first > self.last:
            raise ValueError("The last frame is before the first.")
        return self

    def on(self, marks: Marks | None, taken: MediaInfo) -> Marks:
        """The marks with it; one that passes the other takes that along to its end of the clip."""
        end = max(0, taken.frames - 1)
        first, last = (0, end) if marks is None else (marks.first, marks.last)
        if self.first is not None:
            first = min(self.first, end)
            last = last if first <= last else end
        if self.last is not None:
            last = min(self.last, end)
            first = first if first <= last else 0
        return Marks(first=first, last=last)


class NoticeOut(Schema):
    """Something that was noticed about a clip: damage, or what one would not expect; and the frame it begins at."""

    message: str
    damage: bool
    frame: int


def _noticed(row: Footage, taken: MediaInfo) -> Iterator[NoticeOut]:
    if row.changed:
        yield NoticeOut(message="Its file was changed since it was taken in; it is read anew.", damage=False, frame=0)
    for one in notices(row.info):
        frame = min(floor(one.start * taken.rate), taken.frames - 1)
        yield NoticeOut(message=one.message, damage=one.damage, frame=frame)


TITLES = {
    "bars": "Bars",
    "fields": "Fields",
    "quiet_copy": "The quiet copy",
    "pictures": "Damage",
    "shots": "Shots",
    "following": "What moves",
    "sides": "Sides",
    "captions": "Closed captions",
}
"""Titles of analyses."""


class AnalysisOut(Schema):
    """An analysis of a clip, queued, running or ended; `done_percent` is its progress."""

    id: int
    kind: str
    title: str
    state: Analysis.State
    done_percent: int
    problem: str
    remedy: str

    @classmethod
    def of(cls, row: Analysis) -> "AnalysisOut":
        """From its row."""
        return cls(
            id=row.pk,
            kind=row.kind,
            title=TITLES.get(row.kind, row.kind),
            state=row.state,
            done_percent=min(100, row.done),
            problem=row.problem,
            remedy=row.remedy,
        )


def _closed_captions(row: Footage) -> Literal["none", "unread", "read"]:
    if not any(finding.kind == "captions_in_picture" for finding in row.info.findings):
        return "none"
    return "read" if "captions" in row.found else "unread"


class FootageOut(Schema):
    """A clip of a project.

    `stated` is the interpretation that was set, for the clip (`own`) or for its format; `interpretation` adds results
    of analyses. `stamp` changes with everything that its pictures depend on. `display_aspect` is that of the picture as
    interpreted; `frame_size` is that of a frame of square pixels with its shape. `extendable` lists the sides that can
    be extended in some shot; None before they were analysed.
    """

    id: int
    name: str
    size: int
    info: MediaInfo
    timing: Timing
    missing: bool
    linked: bool
    summary: str
    display_aspect: float
    frame_size: FrameSize
    format: str
    described: list[Fact]
    noticed: list[NoticeOut]
    damaged_places: int
    stated: Interpretation
    interpretation: Interpretation
    own: bool
    candidates: list[Candidate]
    stamp: str
    analysing: bool
    analyses: list[AnalysisOut]
    bars: BurnedInBars | None
    fields: FieldsFound | None
    shots: ShotsFound | None
    following: FollowingFound | None
    extendable: list[Side] | None
    closed_captions: Literal["none", "unread", "read"]
    twin: str | None
    range: Marks | None
    copy_to_begin_with: Blurred

    @classmethod
    def of(cls, row: Footage, book: RuleBook | None = None, firsts: dict[str, Footage] | None = None) -> "FootageOut":
        """From its row; for many, with the project's rules and the first clip of every digest."""
        book = book or RuleBook.of(row.project)
        info, interpretation = row.info, book.interpretation(row)
        taken, picture = effective_timing(info, interpretation), resolve(info, interpretation).picture
        return cls(
            id=row.pk,
            name=row.name,
            size=row.size,
            info=info,
            timing=Timing(rate=taken.rate, frames=taken.frames, duration=taken.duration),
            missing=not row.path.exists(),
            linked=bool(row.linked),
            summary=info.summary,
            display_aspect=float(picture.display_aspect),
            frame_size=size_like(picture),
            format=format_summary(info),
            described=list(describe(info)),
            noticed=[*_noticed(row, taken)],
            damaged_places=places(info.findings),
            stated=book.stated(row),
            interpretation=interpretation,
            own=row.interpretation_json is not None,
            candidates=list(candidates(info)),
            stamp=alone_key(row, interpretation),
            analysing=any(not one.ended for one in row.analyses.all() if not ANALYSES[one.kind].background),
            analyses=[AnalysisOut.of(one) for one in row.analyses.all()],
            bars=row.bars,
            fields=row.fields,
            shots=row.shots,
            following=row.following,
            extendable=None if row.sides is None else extendable_sides(row.sides),
            closed_captions=_closed_captions(row),
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

    name: VisibleText = Field(min_length=1, max_length=240)


class PathIn(Schema):
    """A path in an allowed folder."""

    path: str = Field(min_length=1, max_length=1000)
