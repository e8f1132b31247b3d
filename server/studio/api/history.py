"""Undo and redo, in a whole project."""

from django.http import HttpRequest
from ninja import Router

from server.studio.actions import framing_plans, undoing
from server.studio.actions.materials import Shelf
from server.studio.actions.rules import RuleBook
from server.studio.actions.undoing import Walked
from server.studio.api import owned
from server.studio.api.schemas import CellOut, ChangeOut, FramingOut, HistoryOut, WalkedOut, WalkIn
from server.studio.api.schemas.history import CELLS_SENT
from server.studio.models import Framing, Project

router = Router(tags=["history"])


@router.get("/projects/{project_id}/history", response=HistoryOut)
def history(request: HttpRequest, project_id: int) -> HistoryOut:
    """The changes that undo and redo would apply to, for the visitor."""
    project = owned.project(request, project_id)
    return HistoryOut.of(project, request.user)


@router.post("/projects/{project_id}/undo", response=WalkedOut)
def undo(request: HttpRequest, project_id: int, given: WalkIn) -> WalkedOut:
    """Undo the last thing that the visitor did in a project; nothing where that is not the change that is given."""
    return _walk(request, project_id, given, redo=False)


@router.post("/projects/{project_id}/redo", response=WalkedOut)
def redo(request: HttpRequest, project_id: int, given: WalkIn) -> WalkedOut:
    """Redo what the visitor undid last in a project; nothing where that is not the change that is given."""
    return _walk(request, project_id, given, redo=True)


def _walk(request: HttpRequest, project_id: int, given: WalkIn, *, redo: bool) -> WalkedOut:
    project = owned.project(request, project_id)
    walked = undoing.walk(project, request.user, redo=redo, change=given.change)
    there = given.framing is not None and Framing.present.filter(pk=given.framing, footage__project=project).exists()
    return WalkedOut(
        done=walked and ChangeOut.of(walked.change),
        left=walked.left if walked else 0,
        framing=FramingOut.of(owned.framing(request, given.framing)) if given.framing and there else None,
        cells=[] if walked is None else _cells(project, walked),
        history=HistoryOut.of(project, request.user),
    )


def _cells(project: Project, walked: Walked) -> list[CellOut] | None:
    if walked.others or len(walked.framings) > CELLS_SENT:
        return None
    book, shelf = RuleBook.of(project), Shelf(project)
    rows = list(Framing.present.filter(pk__in=walked.framings))
    return [CellOut.of(row, book, shelf) for row in framing_plans.fresh(rows)]
