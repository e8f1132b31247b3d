"""Deliveries: finished files together, and their sheet."""

from django.http import Http404, HttpRequest, HttpResponse, StreamingHttpResponse
from django.http.response import HttpResponseBase
from ninja import Router

from cadrage.inspection.sheet import SheetForm, sheet_csv, sheet_html, sheet_json
from server.studio.actions import deliveries as actions
from server.studio.actions.folders import delivery_folder
from server.studio.api import owned
from server.studio.api.schemas import PathIn
from server.studio.asking import visitor
from server.studio.files import attachment
from server.studio.models import Render
from server.studio.numbers import whole_number

router = Router(tags=["deliveries"])


@router.get("/projects/{project_id}/delivery/files")
def files(request: HttpRequest, project_id: int, only: str = "", failed: bool = False) -> HttpResponseBase:
    """Finished files as one ZIP archive: the newest of every framing, or only some renders, their ids after commas.

    Of the newest, those whose check failed are left out unless `failed` asks for them too.
    """
    project, rows = owned.downloadable_project(request, project_id), _chosen(request, project_id, only)
    if not only and not failed:
        rows = actions.passed(rows)
    response = StreamingHttpResponse(actions.archive(rows, visitor()), content_type="application/zip")
    response["Content-Disposition"] = attachment(f"{project.name}.zip")
    return response


@router.get("/projects/{project_id}/delivery/sheet")
def sheet(request: HttpRequest, project_id: int, form: SheetForm = "html", only: str = "") -> HttpResponse:
    """The delivery sheet of the same files: a page that prints well, a table, or JSON."""
    project, rows = owned.downloadable_project(request, project_id), _chosen(request, project_id, only)
    listed = actions.sheet_rows(rows)
    if form == "html":
        return HttpResponse(sheet_html(project.name, listed, actions.pictures(rows)))
    text = sheet_csv(listed) if form == "csv" else sheet_json(project.name, listed)
    kind = "text/csv; charset=utf-8" if form == "csv" else "application/json"
    headers = {"Content-Disposition": attachment(f"{project.name} delivery.{form}")}
    return HttpResponse(text, content_type=kind, headers=headers)


@router.post("/projects/{project_id}/delivery/folder", response=list[str])
def write(request: HttpRequest, project_id: int, given: PathIn, only: str = "") -> list[str]:
    """Write the same files, and their sheet, into a folder that this server may write to; answers with their names."""
    project, rows = owned.downloadable_project(request, project_id), _chosen(request, project_id, only)
    return actions.write_to(delivery_folder(request.user, given.path), project.name, rows)


def _chosen(request: HttpRequest, project_id: int, only: str) -> list[Render]:
    numbers = {number for part in only.split(",") if (number := whole_number(part)) is not None} if only else None
    rows = actions.finished(owned.project(request, project_id), numbers)
    if not rows:
        raise Http404
    return rows
