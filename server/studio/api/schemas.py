"""What the API sends and takes, beside the core's own values."""

from datetime import datetime
from fractions import Fraction
from typing import Annotated

from ninja import Schema
from pydantic import Field

from cadrage.compose import Measure, measure
from cadrage.footage import Candidate, Fact, Facts, Interpretation, candidates, describe
from cadrage.formats import Frame
from cadrage.formats.words import aspect_name
from cadrage.plan import Plan
from cadrage.render import Inspection
from cadrage.surrounds import Kind
from cadrage.values import ColourText, Exact, PositiveExact
from server.studio.actions.framings import plan_of
from server.studio.models import Footage, Framing, OrderedFrame, Render


class Visitor(Schema):
    """Who is looking."""

    name: str
    demonstration: bool


class Catalogue(Schema):
    """What there is to choose from."""

    frames: list[Frame]
    surrounds: list[Kind]


class ProjectIn(Schema):
    """A new name for a project."""

    name: str = Field(min_length=1, max_length=120)


class ProjectLine(Schema):
    """A project in a list."""

    id: int
    name: str
    clips: int
    frames: int


class FrameOut(Schema):
    """A frame of a project."""

    id: int
    frame: Frame
    shape: str

    @classmethod
    def of(cls, row: OrderedFrame) -> "FrameOut":
        """From its row."""
        return cls(id=row.pk, frame=row.value, shape=aspect_name(row.value.raster.display_aspect))


class ActiveIn(Schema):
    """An active picture inside a frame."""

    active: Annotated[PositiveExact, Field(ge=Fraction(1, 10), le=10)] | None
    bar_colour: ColourText = "#000000"


class FootageOut(Schema):
    """A clip of a project."""

    id: int
    name: str
    size: int
    facts: Facts
    missing: bool
    words: str
    described: list[Fact]
    interpretation: Interpretation
    candidates: list[Candidate]

    @classmethod
    def of(cls, row: Footage) -> "FootageOut":
        """From its row."""
        return cls(
            id=row.pk,
            name=row.name,
            size=row.size,
            facts=row.facts,
            missing=not row.path.exists(),
            words=row.facts.words,
            described=list(describe(row.facts)),
            interpretation=row.interpretation,
            candidates=list(candidates(row.facts)),
        )


class FramingOut(Schema):
    """A framing: its plan, its numbers, and where it stands in its history."""

    id: int
    footage: int
    frame: int
    plan: Plan
    measure: Measure
    version: int
    undo: str | None
    redo: str | None

    @classmethod
    def of(cls, row: Framing) -> "FramingOut":
        """From its row."""
        plan = plan_of(row)
        labels = dict(row.steps.values_list("number", "label"))
        return cls(
            id=row.pk,
            footage=row.footage_id,
            frame=row.frame_id,
            plan=plan,
            measure=measure(plan, row.footage.facts),
            version=row.current,
            undo=labels.get(row.current) if row.current - 1 in labels else None,
            redo=labels.get(row.current + 1),
        )


class Board(Schema):
    """A project with all its cells."""

    id: int
    name: str
    footage: list[FootageOut]
    frames: list[FrameOut]
    framings: list[FramingOut]


class PlanIn(Schema):
    """A plan to put in force, and what was done to it."""

    plan: Plan
    label: str = Field(max_length=80)


class MeasureIn(Schema):
    """A plan to measure."""

    plan: Plan


class PreviewIn(Schema):
    """A frame to compose.

    `slot` names the place on the page it is for; of several requests for one place only the one with the highest
    `ticket` is answered, the others get 204.
    """

    plan: Plan
    time: Exact
    width: int = Field(ge=16, le=3840)
    slot: str = Field(max_length=80)
    ticket: int


class RenderOut(Schema):
    """A render and how far it is."""

    id: int
    framing: int
    footage: int
    frame: int
    clip: str
    into: str
    state: str
    doing: str
    done: int
    total: int
    frames_per_second: float
    seconds_left: float | None
    attempts: int
    problem: str
    remedy: str
    report: Inspection | None
    size: int
    current: bool
    ordered: datetime
    finished: datetime | None

    @classmethod
    def of(cls, row: Render) -> "RenderOut":
        """From its row."""
        framing = row.framing
        finished = row.state == Render.State.DONE and row.path.exists()
        return cls(
            id=row.pk,
            framing=framing.pk,
            footage=framing.footage_id,
            frame=framing.frame_id,
            clip=framing.footage.name,
            into=str(framing.frame),
            state=row.state,
            doing="stopping" if row.cancel_asked and row.state == Render.State.RUNNING else row.doing,
            done=row.done,
            total=row.total,
            frames_per_second=row.frames_per_second,
            seconds_left=row.seconds_left,
            attempts=row.attempts,
            problem=row.problem,
            remedy=row.remedy,
            report=row.report_json,
            size=row.path.stat().st_size if finished else 0,
            current=row.plan == plan_of(framing),
            ordered=row.ordered,
            finished=row.finished,
        )
