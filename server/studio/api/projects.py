"""Projects, their boards and their cells."""

from typing import TypeVar

from django.conf import settings
from django.contrib.auth.models import AbstractBaseUser, User
from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from ninja import Router
from pydantic import TypeAdapter

from cadrage.motion import Motion
from server.studio.access import Needs, may_take, role_in, shared_with
from server.studio.actions import folders, frames, framing_plans, history, removing, samples
from server.studio.actions import framings as framing_actions
from server.studio.actions import projects as actions
from server.studio.actions import treatments as treatment_actions
from server.studio.actions.duplicating import duplicate
from server.studio.actions.footage import first_of_each
from server.studio.actions.materials import Shelf
from server.studio.actions.people import allowed_to, use_of
from server.studio.actions.rules import RuleBook
from server.studio.api import owned
from server.studio.api.schemas import (
    Board,
    CellAction,
    CellOut,
    CellsIn,
    Changes,
    FootageOut,
    FrameOut,
    OrderIn,
    ProjectChange,
    ProjectIn,
    ProjectLine,
    Visitor,
)
from server.studio.models import Footage, Framing, Material, Member, Project, ProjectFrame

router = Router(tags=["projects"])
FIRST_CLIPS = 24
"""Clips in the head of a board: about what a tall window shows, so that the page can draw it at once."""
CELLS = TypeAdapter(list[CellOut])
CELLS_AT_A_TIME = 60


@router.get("/visitor", response=Visitor)
def visitor(request: HttpRequest) -> Visitor:
    """Who is looking."""
    return Visitor(
        name=request.user.get_username(),
        signed_in=request.user.is_authenticated,
        administrator=request.user.is_staff,
        use=use_of(request.user) if request.user.is_authenticated and _is_bounded(request.user) else None,
        demonstration=settings.DEMO,
        folders=bool(folders.roots(request.user)),
        deliveries=[str(folder) for folder in folders.delivery_folders(request.user)],
    )


def _is_bounded(person: User) -> bool:
    return any(allowed_to(person))


@router.get("/projects", response=list[ProjectLine])
def projects(request: HttpRequest) -> list[ProjectLine]:
    """The visitor's projects, newest first."""
    return [_line(request.user, line) for line in actions.lines(shared_with(request.user))]


def _line(person: AbstractBaseUser, line: actions.Line) -> ProjectLine:
    row = line.project
    members = {one.person_id: one for one in row.members.all()}
    mine = members.get(person.pk)
    return ProjectLine(
        owner=row.owner.get_username(),
        role="own" if row.owner_id == person.pk else mine.role if mine else Member.Role.SEE,
        shared=len(members),
        membership=mine and mine.pk,
        id=row.pk,
        name=row.name,
        clips=line.clips,
        frames=len(line.frames),
        put_away=row.put_away,
        created=row.created,
        framings=line.framings,
        delivers=[frame.value.name for frame in line.frames],
        rendering=line.rendering,
    )


def _line_of(request: HttpRequest, row: Project) -> ProjectLine:
    return _line(request.user, actions.lines(Project.objects.filter(pk=row.pk))[0])


@router.post("/projects", response=ProjectLine)
def create_project(request: HttpRequest, given: ProjectIn) -> ProjectLine:
    """A new project, with the first frame of the catalogue in it."""
    return _line_of(request, actions.begin(request.user, given.name))


@router.post("/samples", response=ProjectLine)
def begin_with_samples(request: HttpRequest) -> ProjectLine:
    """A new project with a few clips to try things with; a worker draws them, one after another."""
    return _line_of(request, samples.begin_with_samples(request.user))


@router.post("/projects/{project_id}/duplicate", response=ProjectLine)
def duplicate_project(request: HttpRequest, project_id: int) -> ProjectLine:
    """A second project with the same clips, frames, rules and framings; without renders."""
    return _line_of(request, duplicate(owned.project(request, project_id, needs=Needs.OWN)))


@router.delete("/projects/{project_id}", response={204: None})
def remove_project(request: HttpRequest, project_id: int) -> tuple[int, None]:
    """Take a project away, with all that is in it. For a while it can be brought back."""
    removing.remove(owned.project(request, project_id, needs=Needs.OWN))
    return 204, None


@router.post("/projects/{project_id}/restore", response=ProjectLine)
def restore_project(request: HttpRequest, project_id: int) -> ProjectLine:
    """Bring a removed project back."""
    return _line_of(request, removing.bring_back(owned.project(request, project_id, Project.everything, Needs.OWN)))


@router.get("/projects/{project_id}", response=Board)
def board(request: HttpRequest, project_id: int, head: bool = False) -> HttpResponse:
    """A project with all its cells, or only its head: those of its first clips. Missing framings are created."""
    project = owned.project(request, project_id)
    book, shelf = RuleBook.of(project), Shelf(project)
    footage = list(project.footage.prefetch_related("analyses"))
    firsts, part = first_of_each(footage), footage[: FIRST_CLIPS if head else None]
    found = Board(
        id=project.pk,
        name=project.name,
        owner=project.owner.get_username(),
        role=role_in(request, project),
        downloads=may_take(request, project),
        clips=len(footage),
        footage=[FootageOut.of(clip, book, firsts) for clip in part],
        frames=[FrameOut.of(frame) for frame in project.frames.all()],
        cells=[CellOut.of(row, book, shelf) for row in framing_plans.begin_all(project, part)],
        gone=[{"id": clip.pk, "name": clip.name} for clip in _removed_from(project, Footage)],
        gone_frames=[{"id": frame.pk, "name": frame.value.name} for frame in _removed_from(project, ProjectFrame)],
        gone_materials=[{"id": row.pk, "name": row.name} for row in _removed_from(project, Material)],
    )
    # Serialised here: validation on the way out doubles the time of a large board.
    return HttpResponse(found.model_dump_json(by_alias=True), content_type="application/json")


Removed = TypeVar("Removed", Footage, Material, ProjectFrame)


def _removed_from(project: Project, kind: type[Removed]) -> QuerySet[Removed]:
    """Return removed rows of a project that can be restored, newest first."""
    return kind.everything.filter(project=project, removed__isnull=False).order_by("-removed")


@router.get("/projects/{project_id}/changes", response=Changes)
def changes(request: HttpRequest, project_id: int) -> Changes:
    """Whether anything is to be asked for again; cheap, so that a page may ask every few seconds."""
    project = owned.project(request, project_id)
    return Changes(clips=actions.clips_state(project), renders=actions.renders_state(project))


@router.patch("/projects/{project_id}", response=ProjectLine)
def change_project(request: HttpRequest, project_id: int, given: ProjectChange) -> ProjectLine:
    """Give a project another name, put it away, or fetch it back."""
    return _line_of(
        request, actions.change(owned.project(request, project_id, needs=Needs.OWN), given.name, given.put_away)
    )


@router.put("/projects/{project_id}/order", response={204: None})
def put_in_order(request: HttpRequest, project_id: int, given: OrderIn) -> tuple[int, None]:
    """Reorder the frames or the clips of a project; omitted ones follow."""
    project = owned.project(request, project_id)
    if given.frames is not None:
        frames.put_in_order(project, ProjectFrame, given.frames)
    if given.footage is not None:
        frames.put_in_order(project, Footage, given.footage)
    return 204, None


def _acted(request: HttpRequest, rows: list[Framing], action: CellAction, seen: dict[int, int]) -> list[Framing]:
    """Apply an action to some cells and return the changed ones.

    Raises:
        Stale: a cell has a newer version than the request names.
    """
    with framing_actions.unchanged_since(rows, seen):
        return _changed(request, rows, action)


def _changed(request: HttpRequest, rows: list[Framing], action: CellAction) -> list[Framing]:
    if action.do == "paste":
        changed = framing_actions.paste(owned.framing(request, action.source), rows, action.parts)
    elif action.do == "motion":
        follow = action.follow and action.follow.reusable
        changed = framing_actions.move_over_time(rows, Motion(move=action.move, follow=follow))
    elif action.do == "place":
        changed = framing_actions.place_all(rows, action.placement)
    elif action.do == "move":
        changed = framing_actions.move(rows, {"offset_x": action.offset_x, "offset_y": action.offset_y})
    elif action.do == "treat":
        saved = None if action.saved is None else owned.treatment(request, action.saved)
        changed = treatment_actions.apply(saved.value if saved else action.treatment, rows, saved)
    elif action.do == "rule":
        changed = framing_actions.make_rules(rows)
    else:
        changed = framing_actions.obey(rows)
    return changed


@router.post("/projects/{project_id}/cells", response=list[CellOut])
def change_cells(request: HttpRequest, project_id: int, given: CellsIn) -> HttpResponse:
    """Apply an action to many cells of a project and return the changed ones.

    It is done to some dozens at a time, between which others come to their turn. Cells of other versions than were seen
    are refused, 409. Requests with the same `batch` are one change of the history.
    """
    project = owned.project(request, project_id)
    mine = Framing.present.filter(footage__project=project).select_related("footage__project", "frame")
    rows = list(mine.filter(pk__in=given.framings))
    whole = given.action.do == "rule"  # what many have in common is one rule
    step = max(1, len(rows)) if whole else CELLS_AT_A_TIME
    parts = (rows[first : first + step] for first in range(0, len(rows), step))
    with history.as_one(given.label, given.batch):
        changed = [row for part in parts for row in _acted(request, part, given.action, given.seen)]
    book, shelf = RuleBook.of(project), Shelf(project)
    cells = [CellOut.of(row, book, shelf) for row in framing_plans.fresh(changed)]
    return HttpResponse(CELLS.dump_json(cells, by_alias=True), content_type="application/json")
