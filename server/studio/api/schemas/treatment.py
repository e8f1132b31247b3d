"""Treatments and line-ups."""

from ninja import Schema

from cadrage.compose import Measure
from cadrage.plan import Design
from cadrage.treatments import Part, Treatment
from server.studio.actions.framing_plans import plan_of
from server.studio.actions.rules import RuleBook
from server.studio.models import Framing
from server.studio.models import Treatment as Row


class SaveIn(Schema):
    """A treatment to save; `everywhere` is for all projects."""

    treatment: Treatment
    everywhere: bool = False


class Follower(Schema):
    """A framing that was given a treatment, and in which parts it differs from it now."""

    framing: int
    differs: list[Part]


class TreatmentOut(Schema):
    """A treatment; one that comes with Cadrage has no id."""

    id: int | None
    everywhere: bool
    treatment: Treatment
    followers: list[Follower]

    @classmethod
    def shipped(cls, treatment: Treatment) -> "TreatmentOut":
        """One that comes with Cadrage."""
        return cls(id=None, everywhere=True, treatment=treatment, followers=[])

    @classmethod
    def of(cls, row: Row, framings: list[Framing], book: RuleBook) -> "TreatmentOut":
        """From its row, with those framings of a project that were given it, and that project's rules."""
        value = row.value
        followers = [
            Follower(framing=framing.pk, differs=list(value.differences(plan_of(framing, book))))
            for framing in framings
        ]
        return cls(id=row.pk, everywhere=row.project_id is None, treatment=value, followers=followers)


class AlternativeOut(Schema):
    """One way of a line-up."""

    name: str
    design: Design
    measure: Measure
