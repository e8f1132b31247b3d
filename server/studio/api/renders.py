"""Renders: ordering, watching, fetching."""

import mimetypes

from django.http import Http404, HttpRequest, HttpResponse, StreamingHttpResponse
from django.http.response import HttpResponseBase
from ninja import Router

from server.studio.actions import framing_plans, jobs, projects, render_review
from server.studio.actions import renders as actions
from server.studio.actions.deliveries import archive
from server.studio.actions.materials import Shelf
from server.studio.actions.rules import RuleBook
from server.studio.api import owned
from server.studio.api.footage import read_time
from server.studio.api.schemas import (
    CellOut,
    KeepIn,
    KeptOut,
    PlaceIn,
    QueueIn,
    QueueOut,
    RenderOut,
    RendersIn,
    ReviewOut,
)
from server.studio.asking import visitor
from server.studio.files import attachment, send_file
from server.studio.models import Framing, Render

router = Router(tags=["renders"])
MOST_LISTED = 200
WIDEST = 1920


@router.post("/framings/{framing_id}/renders", response=RenderOut)
def order(request: HttpRequest, framing_id: int) -> RenderOut:
    """Order a render of a framing as it is now."""
    return RenderOut.of(actions.order(owned.framing(request, framing_id)))


@router.post("/projects/{project_id}/renders", response=list[RenderOut])
def order_many(request: HttpRequest, project_id: int, given: RendersIn) -> list[RenderOut]:
    """Order renders of framings as they are now; none is ordered where one cannot be."""
    project = owned.project(request, project_id)
    mine = Framing.present.filter(footage__project=project)
    rows = mine.filter(pk__in=given.framings).select_related("footage__project", "frame")
    ordered = actions.order_all(rows)
    book = RuleBook.of(project)
    return [RenderOut.of(row, book) for row in ordered]


@router.post("/projects/{project_id}/renders/review", response=ReviewOut)
def review(request: HttpRequest, project_id: int, given: RendersIn) -> ReviewOut:
    """How the files of framings would be written, and what to look at before; nothing is ordered."""
    project = owned.project(request, project_id)
    mine = Framing.present.filter(footage__project=project, pk__in=given.framings)
    book, shelf = RuleBook.of(project), Shelf(project)
    rows = [
        (row, book.plan(row, row.own), CellOut.of(row, book, shelf).concerns) for row in framing_plans.fresh(list(mine))
    ]
    return ReviewOut.of(render_review.review(rows, projects.settings_to_choose(request.user)))


@router.get("/projects/{project_id}/renders", response=list[RenderOut])
def renders(request: HttpRequest, project_id: int) -> list[RenderOut]:
    """The renders of a project, newest first."""
    project = owned.project(request, project_id)
    book = RuleBook.of(project)
    return [RenderOut.of(row, book) for row in actions.newest(project, MOST_LISTED)]


@router.post("/renders/{render_id}/cancel", response=RenderOut)
def cancel(request: HttpRequest, render_id: int) -> RenderOut:
    """Ask a render to stop."""
    return RenderOut.of(actions.cancel(owned.render(request, render_id)))


@router.post("/renders/{render_id}/retry", response=RenderOut)
def retry(request: HttpRequest, render_id: int) -> RenderOut:
    """Queue a failed or cancelled render again."""
    return RenderOut.of(actions.retry(owned.render(request, render_id)))


@router.post("/renders/{render_id}/pause", response=RenderOut)
def pause(request: HttpRequest, render_id: int) -> RenderOut:
    """Pause a render; its finished parts are kept."""
    return RenderOut.of(jobs.pause(owned.render(request, render_id)))


@router.post("/renders/{render_id}/resume", response=RenderOut)
def resume(request: HttpRequest, render_id: int) -> RenderOut:
    """Resume a paused render."""
    return RenderOut.of(jobs.resume(owned.render(request, render_id)))


@router.post("/renders/{render_id}/move", response={204: None})
def move(request: HttpRequest, render_id: int, given: PlaceIn) -> tuple[int, None]:
    """Move a queued render within its queue."""
    actions.move(owned.render(request, render_id), given.place)
    return 204, None


@router.get("/projects/{project_id}/queue", response=QueueOut)
def queue(request: HttpRequest, project_id: int) -> QueueOut:
    """Progress of all renders of a project together, and the finished files that are kept."""
    return QueueOut.of(owned.project(request, project_id), actions.free_bytes())


@router.post("/projects/{project_id}/queue", response=QueueOut)
def change_queue(request: HttpRequest, project_id: int, given: QueueIn) -> QueueOut:
    """Pause, resume or cancel all renders of a project."""
    project = owned.project(request, project_id)
    verb = {"pause": jobs.pause, "resume": jobs.resume, "cancel": actions.cancel}[given.do]
    rows = Render.objects.filter(framing__footage__project=project).exclude(state__in=Render.ENDED)
    actions.each(rows.order_by("rank", "pk"), verb)
    return QueueOut.of(project, actions.free_bytes())


@router.post("/projects/{project_id}/kept", response=KeptOut)
def would_keep(request: HttpRequest, project_id: int, given: KeepIn) -> KeptOut:
    """Files that a keep setting would delete; nothing is deleted."""
    return KeptOut.of(owned.project(request, project_id), given)


@router.put("/projects/{project_id}/kept", response=KeptOut)
def keep(request: HttpRequest, project_id: int, given: KeepIn) -> KeptOut:
    """Set how long finished files are kept. Older files are deleted within seconds; their renders stay."""
    return KeptOut.of(projects.keep(owned.project(request, project_id), given.days, given.gigabytes))


@router.delete("/renders/{render_id}", response={204: None})
def remove(request: HttpRequest, render_id: int) -> tuple[int, None]:
    """Remove an ended render and its file."""
    actions.remove(owned.render(request, render_id))
    return 204, None


@router.get("/renders/{render_id}/picture")
def picture(
    request: HttpRequest, render_id: int, time: str = "0", width: int = 1280, *, asked: bool = False
) -> HttpResponse:
    """A frame of the finished file at a time in seconds, or the expected frame (`asked`), as a JPEG."""
    row = owned.render(request, render_id)
    if not row.file_exists:
        raise Http404
    shown = actions.picture(row, read_time(time), min(max(width, 16), WIDEST), asked=asked)
    return HttpResponse(shown, content_type="image/jpeg", headers={"Cache-Control": "private, max-age=3600"})


@router.get("/renders/{render_id}/file")
def file(request: HttpRequest, render_id: int, *, download: bool = False) -> HttpResponseBase:
    """The finished file, whole or a range of it."""
    row = owned.render(request, render_id)
    if download or row.path.is_dir():
        owned.check_downloads(request, row.framing.footage.project)
    if not row.file_exists:
        raise Http404
    if row.path.is_dir():
        response = StreamingHttpResponse(archive([row], visitor()), content_type="application/zip")
        response["Content-Disposition"] = attachment(f"{row.name_among()}.zip")
        return response
    kind = mimetypes.guess_type(row.path.name)[0] or "application/octet-stream"
    return send_file(request, row.path, kind, row.name_among() if download else None)
