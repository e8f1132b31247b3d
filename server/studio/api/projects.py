"""Projects, their boards and their frames."""

from django.conf import settings
from django.db.models import Count
from django.http import HttpRequest
from ninja import Router

from cadrage.errors import BadRequest
from cadrage.formats import FRAMES, Frame
from cadrage.surrounds import offered
from cadrage.values import format_exact
from server.studio.actions import framings as framing_actions
from server.studio.api import owned
from server.studio.api.schemas import (
    ActiveIn,
    Board,
    Catalogue,
    FootageOut,
    FrameOut,
    FramingOut,
    ProjectIn,
    ProjectLine,
    Visitor,
)
from server.studio.models import OrderedFrame, Project

router = Router(tags=["projects"])
MOST_FRAMES = 12


@router.get("/visitor", response=Visitor)
def visitor(request: HttpRequest) -> Visitor:
    """Who is looking."""
    return Visitor(name=request.user.get_username(), demonstration=settings.DEMO)


@router.get("/catalogue", response=Catalogue)
def catalogue(request: HttpRequest) -> Catalogue:
    """What there is to choose from."""
    return Catalogue(frames=list(FRAMES), surrounds=list(offered()))


@router.get("/projects", response=list[ProjectLine])
def projects(request: HttpRequest) -> list[ProjectLine]:
    """The visitor's projects, newest first."""
    rows = Project.objects.filter(owner=request.user).annotate(
        clips=Count("footage", distinct=True), shapes=Count("frames", distinct=True)
    )
    return [ProjectLine(id=row.pk, name=row.name, clips=row.clips, frames=row.shapes) for row in rows]


@router.post("/projects", response=ProjectLine)
def create_project(request: HttpRequest, given: ProjectIn) -> ProjectLine:
    """A new project, with the first frame of the catalogue in it."""
    project = Project.objects.create(owner=request.user, name=given.name)
    OrderedFrame.from_value(project, FRAMES[0]).save()
    return ProjectLine(id=project.pk, name=project.name, clips=0, frames=1)


@router.get("/projects/{project_id}", response=Board)
def board(request: HttpRequest, project_id: int) -> Board:
    """A project with all its cells; framings that are not there yet begin here."""
    project = owned.project(request, project_id)
    footage, frames = list(project.footage.all()), list(project.frames.all())
    return Board(
        id=project.pk,
        name=project.name,
        footage=[FootageOut.of(clip) for clip in footage],
        frames=[FrameOut.of(frame) for frame in frames],
        framings=[FramingOut.of(framing_actions.begin(clip, frame)) for clip in footage for frame in frames],
    )


@router.patch("/projects/{project_id}", response=ProjectLine)
def rename_project(request: HttpRequest, project_id: int, given: ProjectIn) -> ProjectLine:
    """Give a project another name."""
    project = owned.project(request, project_id)
    project.name = given.name
    project.save(update_fields=["name"])
    return ProjectLine(id=project.pk, name=project.name, clips=project.footage.count(), frames=project.frames.count())


@router.post("/projects/{project_id}/frames", response=FrameOut)
def add_frame(request: HttpRequest, project_id: int, given: Frame) -> FrameOut:
    """Add a frame to a project."""
    project = owned.project(request, project_id)
    if project.frames.count() >= MOST_FRAMES:
        raise BadRequest(f"A project has at most {MOST_FRAMES} frames.", remedy="Remove one first.")
    row = OrderedFrame.from_value(project, given)
    row.save()
    return FrameOut.of(row)


@router.patch("/frames/{frame_id}/active", response=FrameOut)
def set_active(request: HttpRequest, frame_id: int, given: ActiveIn) -> FrameOut:
    """Set the active picture inside a frame, for every clip that goes into it."""
    row = owned.frame(request, frame_id)
    row.active = "" if given.active is None else format_exact(given.active)
    row.bar_colour = given.bar_colour
    row.save(update_fields=["active", "bar_colour"])
    return FrameOut.of(row)


@router.delete("/frames/{frame_id}", response={204: None})
def remove_frame(request: HttpRequest, frame_id: int) -> tuple[int, None]:
    """Take a frame, and every framing in it, out of its project."""
    row = owned.frame(request, frame_id)
    if row.framings.filter(renders__isnull=False).exists():
        raise BadRequest(f"{row.name} has been rendered into.", remedy="Remove its renders first.")
    row.delete()
    return 204, None
