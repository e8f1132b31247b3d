"""Treatments: those that come with Cadrage, and those that the visitor has saved."""

from typing import Any

from django.http import HttpRequest
from ninja import Body, Router

from cadrage.compose import measure
from cadrage.compose.lineup import starting_set
from cadrage.treatments import SHIPPED, read_treatment
from server.studio.actions import treatments as actions
from server.studio.actions.framing_plans import plan_of
from server.studio.actions.rules import RuleBook
from server.studio.api import owned
from server.studio.api.schemas.treatment import AlternativeOut, SaveIn, TreatmentOut
from server.studio.models import Framing

router = Router(tags=["treatments"])


@router.get("/projects/{project_id}/treatments", response=list[TreatmentOut])
def treatments(request: HttpRequest, project_id: int) -> list[TreatmentOut]:
    """Every treatment that can be used in a project; those that come with Cadrage have no id."""
    project = owned.project(request, project_id)
    rows, book = list(actions.usable(project, request.user)), RuleBook.of(project)
    given = actions.given_in(project)
    own = [TreatmentOut.of(row, given.get(row.pk, []), book) for row in rows]
    return [TreatmentOut.shipped(treatment) for treatment in SHIPPED] + own


@router.post("/projects/{project_id}/treatments", response=TreatmentOut)
def save(request: HttpRequest, project_id: int, given: SaveIn) -> TreatmentOut:
    """Save a treatment, for this project or for all."""
    project = owned.project(request, project_id)
    row = actions.save(request.user, None if given.everywhere else project, given.treatment)
    return TreatmentOut.of(row, [], RuleBook.of(project))


@router.post("/projects/{project_id}/treatments/import", response=TreatmentOut)
def import_one(request: HttpRequest, project_id: int, given: Body[dict[str, Any]]) -> TreatmentOut:
    """Save a treatment that was exported as JSON."""
    project = owned.project(request, project_id)
    return TreatmentOut.of(actions.save(request.user, project, read_treatment(given)), [], RuleBook.of(project))


@router.put("/treatments/{treatment_id}", response=list[int])
def rewrite(request: HttpRequest, treatment_id: int, given: SaveIn) -> list[int]:
    """Change a treatment; answers with the framings that followed it and have changed along."""
    row = owned.treatment(request, treatment_id)
    return [framing.pk for framing in actions.rewrite(row, given.treatment)]


@router.delete("/treatments/{treatment_id}", response={204: None})
def remove(request: HttpRequest, treatment_id: int) -> tuple[int, None]:
    """Take a treatment away; framings keep what it gave them."""
    actions.remove(owned.treatment(request, treatment_id))
    return 204, None


@router.get("/framings/{framing_id}/lineup", response=list[AlternativeOut])
def lineup(request: HttpRequest, framing_id: int) -> list[AlternativeOut]:
    """Ways worth seeing for a framing, the present one first, each with its numbers."""
    row: Framing = owned.framing(request, framing_id)
    info = row.footage.info
    return [
        AlternativeOut(name=way.name, design=way.plan.design, measure=measure(way.plan, info))
        for way in starting_set(plan_of(row), info)
    ]
