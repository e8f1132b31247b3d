"""Sending files in pieces: the tus protocol, version 1.0.0 (https://tus.io/protocols/resumable-upload).

With its extensions creation, creation-with-upload, expiration and termination. It is written out here since no library
for the server's side is kept; one for the other side, which is, speaks with it in the tests.
"""

import base64
import binascii

from django.http import HttpRequest, HttpResponse
from django.urls import reverse
from django.utils.http import http_date
from ninja import Router

from cadrage.errors import BadRequest
from server.studio.actions import uploads as actions
from server.studio.api import owned
from server.studio.api.errors import problem
from server.studio.api.schemas import FootageOut, SentIn, UploadOut
from server.studio.models import Upload
from server.studio.numbers import whole_number

router = Router(tags=["uploads"])
VERSION = "1.0.0"
SPOKEN = {"Tus-Resumable": VERSION, "Cache-Control": "no-store"}
PIECE = "application/offset+octet-stream"


@router.post("/projects/{project_id}/uploads", response={201: None})
def begin(request: HttpRequest, project_id: int) -> HttpResponse:
    """Begin to send a file: `Upload-Length` says how long it is, `Upload-Metadata` its `filename` in base64."""
    project = owned.project(request, project_id)
    if told := _other_version(request):
        return told
    size = _number(request, "Upload-Length")
    upload = actions.begin(project, request.user, _name(request.headers.get("Upload-Metadata", "")), size)
    if request.content_type == PIECE:
        actions.append(upload, 0, request)
    address = reverse("api-1:upload", kwargs={"token": upload.token})
    return _told(upload, 201, {"Location": address})


@router.api_operation(["HEAD"], "/uploads/{token}", url_name="upload")
def how_far(request: HttpRequest, token: str) -> HttpResponse:
    """How much of a file has arrived: `Upload-Offset`."""
    upload = owned.upload(request, token)
    return _told(upload, 200, {"Upload-Length": str(upload.size)})


@router.patch("/uploads/{token}", response={204: None})
def append(request: HttpRequest, token: str) -> HttpResponse:
    """Send the next piece of a file, from `Upload-Offset` on."""
    upload = owned.upload(request, token)
    if told := _other_version(request):
        return told
    if request.content_type != PIECE:
        return problem(415, "That is no piece of a file.", remedy=f"Send it as {PIECE}.")
    actions.append(upload, _number(request, "Upload-Offset"), request)
    return _told(upload, 204, {})


@router.delete("/uploads/{token}", response={204: None})
def forget(request: HttpRequest, token: str) -> HttpResponse:
    """Give a file up that was on its way."""
    actions.forget(owned.upload(request, token))
    return HttpResponse(status=204, headers=SPOKEN)


@router.get("/projects/{project_id}/uploads", response=list[UploadOut])
def unfinished(request: HttpRequest, project_id: int) -> list[UploadOut]:
    """Files that the visitor began to send and that have not arrived, and how far each is."""
    project = owned.project(request, project_id)
    return [UploadOut.of(row) for row in project.uploads.filter(sender=request.user)]


@router.post("/projects/{project_id}/sent", response=list[FootageOut])
def take_in(request: HttpRequest, project_id: int, given: SentIn) -> list[FootageOut]:
    """Make files that have arrived clips of a project; stills that are numbered alike become one sequence."""
    project = owned.project(request, project_id)
    rows = [owned.upload(request, token) for token in given.uploads]
    return [FootageOut.of(row) for row in actions.take_in(project, rows)]


def _told(upload: Upload, status: int, more: dict[str, str]) -> HttpResponse:
    expires = http_date((upload.begun + actions.KEPT).timestamp())
    return HttpResponse(
        status=status, headers={**SPOKEN, "Upload-Offset": str(upload.received), "Upload-Expires": expires, **more}
    )


def _other_version(request: HttpRequest) -> HttpResponse | None:
    if request.headers.get("Tus-Resumable") == VERSION:
        return None
    answer = problem(412, "That is another version of the protocol.", remedy=f"Speak tus {VERSION}.")
    answer.headers["Tus-Version"] = VERSION
    return answer


def _number(request: HttpRequest, header: str) -> int:
    number = whole_number(request.headers.get(header, ""))
    if number is None:
        raise BadRequest(f"{header} is no number of bytes.", remedy="Say how many there are.")
    return number


def _name(metadata: str) -> str:
    for pair in metadata.split(","):
        key, _, value = pair.strip().partition(" ")
        if key == "filename":
            try:
                return base64.b64decode(value, validate=True).decode(errors="replace")
            except binascii.Error:
                break
    return "clip"
