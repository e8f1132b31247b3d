"""Renders: ordering, watching, fetching."""

import mimetypes

from django.db import transaction
from django.http import Http404, HttpRequest
from django.http.response import HttpResponseBase
from ninja import Router

from server.studio.actions import renders as actions
from server.studio.actions.rules import RuleBook
from server.studio.api import owned
from server.studio.api.schemas import RenderOut, RendersIn
from server.studio.files import send_file
from server.studio.models import Framing, Render

router = Router(tags=["renders"])
MOST_LISTED = 200


@router.post("/framings/{framing_id}/renders", response=RenderOut)
def order(request: HttpRequest, framing_id: int) -> RenderOut:
    """Order a render of a framing as it is now."""
    return RenderOut.of(actions.order(owned.framing(request, framing_id)))


@router.post("/projects/{project_id}/renders", response=list[RenderOut])
def order_many(request: HttpRequest, project_id: int, given: RendersIn) -> list[RenderOut]:
    """Order renders of framings as they are now; none is ordered where one cannot be."""
    project = owned.project(request, project_id)
    mine = Framing.objects.filter(footage__project=project, footage__removed__isnull=True)
    rows = mine.filter(pk__in=given.framings).select_related("footage__project", "frame")
    with transaction.atomic():
        return [RenderOut.of(actions.order(row)) for row in rows]


@router.get("/projects/{project_id}/renders", response=list[RenderOut])
def renders(request: HttpRequest, project_id: int) -> list[RenderOut]:
    """The renders of a project, newest first."""
    project = owned.project(request, project_id)
    rows = Render.objects.filter(framing__footage__project=project, framing__footage__removed__isnull=True)
    book = RuleBook.of(project)
    return [RenderOut.of(row, book) for row in rows.select_related("framing__footage", "framing__frame")[:MOST_LISTED]]


@router.post("/renders/{render_id}/cancel", response=RenderOut)
def cancel(request: HttpRequest, render_id: int) -> RenderOut:
    """Ask a render to stop."""
    return RenderOut.of(actions.cancel(owned.render(request, render_id)))


@router.post("/renders/{render_id}/retry", response=RenderOut)
def retry(request: HttpRequest, render_id: int) -> RenderOut:
    """Order a render that failed or was cancelled once more."""
    return RenderOut.of(actions.retry(owned.render(request, render_id)))


@router.delete("/renders/{render_id}", response={204: None})
def remove(request: HttpRequest, render_id: int) -> tuple[int, None]:
    """Take an ended render and its file away."""
    actions.remove(owned.render(request, render_id))
    return 204, None


@router.get("/renders/{render_id}/file")
def file(request: HttpRequest, render_id: int, *, download: bool = False) -> HttpResponseBase:
    """The finished file, whole or a range of it."""
    row = owned.render(request, render_id)
    if row.state != Render.State.DONE or not row.path.exists():
        raise Http404
    kind = mimetypes.guess_type(row.path.name)[0] or "application/octet-stream"
    return send_file(request, row.path, kind, row.name_among() if download else None)
