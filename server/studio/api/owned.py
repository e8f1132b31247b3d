"""Loading what a visitor may see or change. What they may not see is not there for them: 404."""

from typing import TypeVar

from django.db.models import Manager, Model, QuerySet
from django.http import Http404, HttpRequest
from django.shortcuts import get_object_or_404

from server.studio.access import Needs, NotLet, may_take, needs_of, projects_for
from server.studio.models import (
    Analysis,
    Footage,
    Framing,
    Generation,
    Invitation,
    LookLink,
    Material,
    Member,
    OwnFrame,
    OwnSettings,
    Plate,
    Project,
    ProjectFrame,
    Render,
    Treatment,
    Upload,
)

Row = TypeVar("Row", bound=Model)


def _row(request: HttpRequest, rows: QuerySet[Row], pk: int, project: str, needs: Needs | None = None) -> Row:
    """A row by its id, where the visitor may do in its project what the request takes.

    Args:
        request: whose.
        rows: among which it is.
        pk: its id.
        project: how its project is reached from it.
        needs: what the request takes; None for what requests of its kind do.

    Raises:
        Http404: they may not see it. NotLet: they may, and no more than that.
    """
    takes = needs_of(request) if needs is None else needs
    row = rows.filter(pk=pk, **{f"{project}__in": projects_for(request, takes)}).first()
    if row is not None:
        return row
    if takes > Needs.SEE and rows.filter(pk=pk, **{f"{project}__in": projects_for(request)}).exists():
        raise NotLet("You may look at this project and not do that in it.", remedy="Ask its owner to let you.")
    raise Http404


def project(
    request: HttpRequest, pk: int, among: Manager[Project] = Project.objects, needs: Needs | None = None
) -> Project:
    """A project of the visitor's; one that was removed only where it is looked for among all."""
    return _row(request, among.all(), pk, "pk", needs)


def downloadable_project(request: HttpRequest, pk: int) -> Project:
    """A project whose files the visitor may take along.

    Raises:
        Http404: they may not see it. NotLet: they have a link to it that does not allow downloads.
    """
    found = project(request, pk)
    check_downloads(request, found)
    return found


def check_downloads(request: HttpRequest, found: Project) -> None:
    """Refuse files of a project that the visitor may only look at.

    Raises:
        NotLet: they have a link to this project that does not allow downloads.
    """
    if not may_take(request, found):
        raise NotLet("This link does not allow downloads.", remedy="Ask for a link that does.")


def frame(request: HttpRequest, pk: int, among: Manager[ProjectFrame] = ProjectFrame.objects) -> ProjectFrame:
    """A frame in one of the visitor's projects; one that was removed only where it is looked for among all."""
    return _row(request, among.select_related("project"), pk, "project")


def treatment(request: HttpRequest, pk: int) -> Treatment:
    """A treatment that the visitor has saved, or one of a project in which they work."""
    row = Treatment.objects.filter(pk=pk, owner=request.user).first()
    return row or _row(request, Treatment.objects.all(), pk, "project")


def own_frame(request: HttpRequest, pk: int) -> OwnFrame:
    """A frame that the visitor has saved."""
    return get_object_or_404(OwnFrame, pk=pk, owner=request.user)


def own_settings(request: HttpRequest, pk: int) -> OwnSettings:
    """Settings that the visitor has saved."""
    return get_object_or_404(OwnSettings, pk=pk, owner=request.user)


def footage(request: HttpRequest, pk: int, among: Manager[Footage] = Footage.objects) -> Footage:
    """A clip in one of the visitor's projects; one that was removed only where it is looked for among all."""
    return _row(request, among.select_related("project"), pk, "project")


def analysis(request: HttpRequest, pk: int) -> Analysis:
    """What is found out about a clip in one of the visitor's projects."""
    return _row(request, Analysis.objects.select_related("footage"), pk, "footage__project")


def material(request: HttpRequest, pk: int, among: Manager[Material] = Material.objects) -> Material:
    """A picture or a file of captions in one of the visitor's projects; see `footage`."""
    return _row(request, among.select_related("project"), pk, "project")


def framing(request: HttpRequest, pk: int) -> Framing:
    """A framing in one of the visitor's projects."""
    related = Framing.present.select_related("footage__project", "frame")
    return _row(request, related, pk, "footage__project")


def plate(request: HttpRequest, pk: int) -> Plate:
    """A plate of a clip in one of the visitor's projects."""
    return _row(request, Plate.objects.select_related("footage"), pk, "footage__project")


def generation(request: HttpRequest, pk: int) -> Generation:
    """Pictures that an outside generator was asked for, for a framing in one of the visitor's projects."""
    related = Generation.objects.select_related("framing__footage")
    return _row(request, related, pk, "framing__footage__project")


def render(request: HttpRequest, pk: int) -> Render:
    """A render in one of the visitor's projects."""
    related = Render.objects.select_related("framing__footage__project", "framing__frame")
    return _row(request, related, pk, "framing__footage__project")


def upload(request: HttpRequest, token: str) -> Upload:
    """A file that the visitor sends."""
    return get_object_or_404(Upload.objects.select_related("project"), token=token, sender=request.user)


def member(request: HttpRequest, pk: int) -> Member:
    """Somebody who is let into one of the visitor's projects, or the visitor in somebody's."""
    own = Member.objects.filter(pk=pk, person=request.user).first()
    return own or _row(request, Member.objects.all(), pk, "project", Needs.OWN)


def invitation(request: HttpRequest, pk: int) -> Invitation:
    """An invitation into one of the visitor's projects."""
    return _row(request, Invitation.objects.all(), pk, "project", Needs.OWN)


def link(request: HttpRequest, pk: int) -> LookLink:
    """A link to one of the visitor's projects."""
    return _row(request, LookLink.objects.all(), pk, "project", Needs.OWN)
