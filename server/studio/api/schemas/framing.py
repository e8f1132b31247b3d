"""Framings."""

from fractions import Fraction
from typing import Literal

from ninja import Schema
from pydantic import Field

from cadrage.compose import Measure
from cadrage.compose.concerns import Concern
from cadrage.compose.scopes import Scope, ScopeKind
from cadrage.geometry import Placement, Window
from cadrage.motion.follow import Follow
from cadrage.plan import Design, Part, Plan
from cadrage.playing.request import LINES, MOST_LINES, MOST_TILES
from cadrage.render import Estimate
from cadrage.render.offers import Fitting
from cadrage.render.written_tracks import join_offer
from cadrage.rules import format_summary
from cadrage.values import Exact
from server.studio.actions.framings import LONGEST_HISTORY, Did
from server.studio.actions.materials import Shelf
from server.studio.actions.renders import free_bytes
from server.studio.actions.rules import RuleBook
from server.studio.api.schemas.board import CellOut, measured
from server.studio.models import Framing, Size


class FramingOut(Schema):
    """A framing: its plan, and its numbers.

    `obeys` says that it has no plan of its own; `rule_set`, that somebody set the rule for its format and frame.
    `version` is another after every change, also after one that was taken back and done again. `joinable_tracks` is the
    setting that pairs the clip's mono tracks into stereo, or empty.
    """

    id: int
    footage: int
    frame: int
    plan: Plan
    measure: Measure
    concerns: list[Concern]
    obeys: bool
    rule_set: bool
    rule_for: str
    version: int
    cell: CellOut
    joinable_tracks: str

    @classmethod
    def of(cls, row: Framing) -> "FramingOut":
        """From its row."""
        book = RuleBook.of(row.footage.project)
        plan = book.plan(row, row.own)
        info = row.footage.info
        cell = CellOut.of(row, book, Shelf(row.footage.project))
        return cls(
            id=row.pk,
            footage=row.footage_id,
            frame=row.frame_id,
            plan=plan,
            measure=measured(plan, info),
            concerns=cell.concerns,
            obeys=row.own is None,
            rule_set=(row.footage.format_key, row.frame_id) in book.framings,
            rule_for=f"{format_summary(info)} into {row.frame.value.name}",
            cell=cell,
            joinable_tracks=join_offer(info.sounds),
            version=row.version,
        )


class StepIn(Schema):
    """A design to put in force, with the label of the change."""

    design: Design
    label: str = Field(max_length=80)


class StepsIn(Schema):
    """Changes one after another, and the version that the first was made on."""

    steps: list[StepIn] = Field(min_length=1, max_length=LONGEST_HISTORY)
    version: int

    @property
    def each(self) -> list[Did]:
        """The changes, in their order."""
        return [Did(step.design, step.label) for step in self.steps]


class VersionIn(Schema):
    """The version of a framing that something is to be done to."""

    version: int


class MeasureIn(Schema):
    """A design to measure, or to change: in the shot of a number, counted from 0, or in the whole clip."""

    design: Design
    shot: int | None = Field(None, ge=0)


class MomentIn(MeasureIn):
    """A design at a time, in seconds of the clip."""

    time: Exact = Fraction(0)


class KeyIn(MeasureIn):
    """A design to set a key in, at a time in seconds of the clip; and which placement it is to hold, if not its own.

    That placement becomes a key of that moment, or shifts all keys, or is what the nearest key holds.
    """

    time: Exact
    placement: Placement | None = None
    way: Literal["key", "shift", "nearest"] = "key"


class FollowIn(MeasureIn):
    """A design whose window is to follow, with its settings; a path found before is ignored."""

    follow: Follow


class EstimateOut(Schema):
    """About how large a file will be, how much room there is for files, in bytes, and how its rate is fitted.

    `bytes` is null while that is being found out, of which `done_percent` is done, or where it cannot be.
    """

    bytes: int | None
    done_percent: int
    problem: str
    remedy: str
    free: int
    fitting: Fitting | None

    @classmethod
    def of(cls, known: Estimate | None, job: Size | None, fitting: Fitting | None) -> "EstimateOut":
        """The result, or the job that makes it."""
        if known is not None or job is None:
            return cls(
                bytes=known and known.bytes, done_percent=100, problem="", remedy="", free=free_bytes(), fitting=fitting
            )
        found = job.bytes if job.state == Size.State.DONE else None
        return cls(
            bytes=found,
            done_percent=min(100, job.done),
            problem=job.problem,
            remedy=job.remedy,
            free=free_bytes(),
            fitting=fitting,
        )


class WindowIn(MeasureIn):
    """A window on the source, for which the placement is wanted."""

    window: Window


class LineIn(MeasureIn):
    """A line drawn on the frame, in frame pixels, that ought to be level or upright."""

    across: Exact
    down: Exact


class PreviewIn(Schema):
    """A design to preview at a time, in seconds of the clip.

    `width` is that of the picture in pixels; without it no picture is composed. With `measured` the answer holds the
    numbers of the design at that time.
    """

    design: Design
    time: Exact = Fraction(0)
    width: int | None = Field(None, ge=16, le=3840)
    measured: bool = False


class PreviewOut(Schema):
    """A composed frame as the data URL of a JPEG, and its numbers: each if it was asked for."""

    picture: str | None
    measure: Measure | None


class ScopeIn(Schema):
    """A scope to draw of a composed frame."""

    design: Design
    time: Exact
    kind: ScopeKind


class ScopeOut(Schema):
    """A scope as the data URL of a PNG, and its numbers."""

    picture: str
    scope: Scope


class PlayIn(Schema):
    """The things to play.

    `designs` are seen side by side in rows of tiles, each drawn up to `lines` tall; with `source`, the clip's own
    picture is, as it is stored; with `alone`, only the shot of that time is, round and round. `viewer` names the place
    on the page it is for: it plays one thing at a time, the one of the latest `turn`.
    """

    designs: list[Design] = Field(min_length=1, max_length=MOST_TILES)
    time: Exact
    lines: int = Field(LINES, ge=16, le=MOST_LINES)
    speed: Literal[1, 2, 4, 8] = 1
    source: bool = False
    alone: bool = False
    viewer: str = Field(max_length=80)
    turn: int = Field(0, ge=0, le=2**53)


class CutIn(Schema):
    """An edit of the shots of a design.

    `found` cuts where they were found; `split` before the picture of `time`; `join` makes shot `number` one with that
    before it; `move` lets it begin with the picture of `time`; `as_whole` lets its `part` be as in the whole clip;
    `copy_next` and `copy_all` copy its custom parts to others.
    """

    design: Design
    do: Literal["found", "split", "join", "move", "as_whole", "copy_next", "copy_all"]
    number: int = Field(0, ge=0)
    time: Exact = Fraction(0)
    part: Part = "placement"
