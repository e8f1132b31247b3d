"""Clips: sending them in, and seeing them."""

from fractions import Fraction

from django.http import HttpRequest, HttpResponse
from ninja import File, Router
from ninja.files import UploadedFile

from cadrage.errors import BadRequest
from cadrage.footage import Interpretation
from cadrage.values import parse_exact
from server.studio.actions import footage as actions
from server.studio.actions.looking import kept, looker
from server.studio.api import owned
from server.studio.api.schemas import FootageOut

router = Router(tags=["footage"])
MOST_MOMENTS, TALLEST_STRIP, WIDEST_PICTURE = 80, 160, 1920
AN_HOUR = "private, max-age=3600"


@router.post("/projects/{project_id}/footage", response=FootageOut)
def upload(request: HttpRequest, project_id: int, file: File[UploadedFile]) -> FootageOut:
    """Add a clip. It is probed before it is accepted."""
    project = owned.project(request, project_id)
    return FootageOut.of(actions.accept(project, file.name or "clip", file))


@router.delete("/footage/{footage_id}", response={204: None})
def remove(request: HttpRequest, footage_id: int) -> tuple[int, None]:
    """Take a clip, its file, and all that was made from it away."""
    actions.remove(owned.footage(request, footage_id))
    return 204, None


@router.get("/footage/{footage_id}/strip")
def strip(request: HttpRequest, footage_id: int, count: int = 36, height: int = 54) -> HttpResponse:
    """Moments of a clip side by side, as a JPEG."""
    clip = owned.footage(request, footage_id)
    count, height = min(max(count, 1), MOST_MOMENTS), min(max(height, 16), TALLEST_STRIP)
    name = f"strip {clip.path} {clip.interpretation} {count} {height}"
    return _jpeg(kept(name, lambda: looker.strip(clip.path, clip.facts, clip.interpretation, count, height)))


@router.put("/footage/{footage_id}/interpretation", response=FootageOut)
def interpret(request: HttpRequest, footage_id: int, given: Interpretation) -> FootageOut:
    """Say what a clip's samples mean, in all its framings."""
    return FootageOut.of(actions.interpret(owned.footage(request, footage_id), given))


@router.get("/footage/{footage_id}/picture")
def picture(
    request: HttpRequest, footage_id: int, time: str = "0", width: int = 320, pixel_aspect: str = ""
) -> HttpResponse:
    """The picture alone, upright and true, as a JPEG; or as it would be with another pixel aspect."""
    clip = owned.footage(request, footage_id)
    moment, width = _time(time), min(max(width, 16), WIDEST_PICTURE)
    reading = clip.interpretation
    if pixel_aspect:
        reading = Interpretation.model_validate({"pixel_aspect": pixel_aspect, "rotation": reading.rotation})
    name = f"picture {clip.path} {reading} {moment} {width}"
    return _jpeg(kept(name, lambda: looker.picture(clip.path, clip.facts, reading, moment, width)))


def _time(text: str) -> Fraction:
    try:
        return parse_exact(text)
    except ValueError as error:
        raise BadRequest(f"{text!r} is no time.", remedy="Send seconds as a number.") from error


def _jpeg(data: bytes) -> HttpResponse:
    return HttpResponse(data, content_type="image/jpeg", headers={"Cache-Control": AN_HOUR})
