"""Framings."""

from ninja import Schema
from pydantic import Field

from cadrage.compose import Measure, measure
from cadrage.compose.concerns import Concern, concerns
from cadrage.geometry import Window
from cadrage.plan import Plan
from cadrage.render.words import Fitting
from cadrage.rules import format_words
from cadrage.values import Exact
from server.studio.actions.framings import own_plan
from server.studio.actions.rules import RuleBook
from server.studio.models import Framing


class FramingOut(Schema):
    """A framing: its plan, its numbers, and where it stands in its history.

    `obeys` says that it has no plan of its own; `rule_set`, that somebody set the rule for its format and frame.
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
    undo: str | None
    redo: str | None

    @classmethod
    def of(cls, row: Framing) -> "FramingOut":
        """From its row."""
        book = RuleBook.of(row.footage.project)
        own = own_plan(row)
        plan = book.plan(row, own)
        labels = dict(row.steps.values_list("number", "label"))
        facts = row.footage.facts
        numbers = measure(plan, facts)
        return cls(
            id=row.pk,
            footage=row.footage_id,
            frame=row.frame_id,
            plan=plan,
            measure=numbers,
            concerns=concerns(plan, facts, numbers, row.footage.bars, row.frame.delivery),
            obeys=own is None,
            rule_set=(row.footage.format_key, row.frame_id) in book.framings,
            rule_for=f"{format_words(facts)} into {row.frame.value.name}",
            version=row.current,
            undo=labels.get(row.current) if row.current - 1 in labels else None,
            redo=labels.get(row.current + 1),
        )


class PlanIn(Schema):
    """A plan to put in force, and what was done to it."""

    plan: Plan
    label: str = Field(max_length=80)


class MeasureIn(Schema):
    """A plan to measure."""

    plan: Plan


class EstimateOut(Schema):
    """About how large a file will be, how much room there is for files, in bytes, and how its rate is fitted."""

    bytes: int
    free: int
    fitting: Fitting | None


class WindowIn(Schema):
    """A window on the source, for which the placement is wanted."""

    plan: Plan
    window: Window


class LineIn(Schema):
    """A line drawn on the frame, in frame pixels, that ought to be level or upright."""

    plan: Plan
    across: Exact
    down: Exact


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
