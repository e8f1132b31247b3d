"""Clips: upload, interpretation and pictures."""

from fractions import Fraction
from pathlib import Path

import pydantic
from django.http import HttpRequest, HttpResponse
from ninja import File, Router
from ninja.files import UploadedFile

from cadrage.errors import BadRequest
from cadrage.fields import SettingGroup
from cadrage.footage import Interpretation, effective_timing
from cadrage.interpretation_settings import interpretation_settings
from cadrage.plan import Range
from cadrage.values import parse_exact
from server.studio.actions import analyses, folders, materials, removing
from server.studio.actions import footage as actions
from server.studio.actions.people import check_allowed
from server.studio.actions.previews import alone_key, kept, own_colours, previewer
from server.studio.actions.rules import RuleBook
from server.studio.api import owned
from server.studio.api.schemas import FootageOut, InterpretIn, MarkIn, Marks, MaterialOut, PathIn, RenameIn
from server.studio.models import Footage

router = Router(tags=["footage"])
MOST_MOMENTS, MOST_PARTS, TALLEST_STRIP, WIDEST_PICTURE = 80, 64, 160, 1920
AN_HOUR = "private, max-age=3600"


@router.post("/projects/{project_id}/footage", response=FootageOut)
def upload(request: HttpRequest, project_id: int, file: File[UploadedFile]) -> FootageOut:
    """Add a clip. It is probed before it is accepted."""
    project = owned.project(request, project_id)
    check_allowed(project, file.size or 0)
    return FootageOut.of(actions.accept(project, file.name or "clip", file))


@router.post("/projects/{project_id}/stills", response=list[FootageOut])
def upload_stills(request: HttpRequest, project_id: int, files: File[list[UploadedFile]]) -> list[FootageOut]:
    """Add stills; numbered stills become one sequence."""
    project = owned.project(request, project_id)
    check_allowed(project, sum(file.size or 0 for file in files))
    rows = actions.accept_all(project, [(file.name or "still", Path(file.temporary_file_path())) for file in files])
    return [FootageOut.of(row) for row in rows]


@router.get("/folders", response=folders.Listing)
def folder(request: HttpRequest, path: str = "") -> folders.Listing:
    """What lies in an allowed folder of the server; without a path, those folders themselves."""
    return folders.listing(request.user, path)


@router.post("/projects/{project_id}/linked", response=FootageOut)
def link(request: HttpRequest, project_id: int, given: PathIn) -> FootageOut:
    """Add a file of an allowed folder where it lies, without copying it."""
    project = owned.project(request, project_id)
    return FootageOut.of(actions.link(project, folders.allowed(request.user, given.path)))


@router.get("/footage/{footage_id}/settings", response=list[SettingGroup])
def settings(request: HttpRequest, footage_id: int) -> list[SettingGroup]:
    """List the settings of a clip's interpretation."""
    row = owned.footage(request, footage_id)
    return list(interpretation_settings(row.info, RuleBook.of(row.project).stated(row), row.fields))


@router.post("/footage/{footage_id}/shots", response=FootageOut)
def find_shots(request: HttpRequest, footage_id: int) -> FootageOut:
    """Request the detection of shots, unless it is done."""
    row = owned.footage(request, footage_id)
    analyses.request(row, "shots")
    return FootageOut.of(owned.footage(request, footage_id))


@router.post("/footage/{footage_id}/captions", response=FootageOut)
def read_captions(request: HttpRequest, footage_id: int) -> FootageOut:
    """Request the reading of closed captions, unless it is done."""
    row = owned.footage(request, footage_id)
    analyses.request(row, "captions")
    return FootageOut.of(owned.footage(request, footage_id))


@router.post("/footage/{footage_id}/captions/material", response=MaterialOut)
def keep_captions(request: HttpRequest, footage_id: int) -> MaterialOut:
    """Add the closed captions that were read of a clip to its project as a captions file."""
    return MaterialOut.of(materials.keep_captions(owned.footage(request, footage_id)))


@router.patch("/footage/{footage_id}", response=FootageOut)
def rename(request: HttpRequest, footage_id: int, given: RenameIn) -> FootageOut:
    """Give a clip another name."""
    return FootageOut.of(actions.rename(owned.footage(request, footage_id), given.name))


@router.post("/footage/{footage_id}/replace", response=FootageOut)
def replace(request: HttpRequest, footage_id: int, file: File[UploadedFile]) -> FootageOut:
    """Put another file in the place of a clip's; its framings stay."""
    return FootageOut.of(actions.replace(owned.footage(request, footage_id), file.name or "clip", file))


@router.post("/footage/{footage_id}/find", response=FootageOut)
def find(request: HttpRequest, footage_id: int, given: PathIn) -> FootageOut:
    """Point a clip whose file is missing at a file of an allowed folder."""
    row = owned.footage(request, footage_id)
    return FootageOut.of(actions.find_again(row, folders.allowed(request.user, given.path)))


@router.delete("/footage/{footage_id}", response={204: None})
def remove(request: HttpRequest, footage_id: int, *, confirmed: bool = False) -> tuple[int, None]:
    """Take a clip out of its project; for a while it can be brought back. One that is used elsewhere is refused, 409,
    with what uses it, unless that is confirmed.
    """
    removing.remove(owned.footage(request, footage_id), confirmed=confirmed)
    return 204, None


@router.post("/footage/{footage_id}/restore", response=FootageOut)
def restore(request: HttpRequest, footage_id: int) -> FootageOut:
    """Bring a removed clip back."""
    return FootageOut.of(removing.bring_back(owned.footage(request, footage_id, Footage.everything)))


@router.get("/footage/{footage_id}/strip")
def strip(
    request: HttpRequest, footage_id: int, count: int = 36, height: int = 54, part: int = 0, parts: int = 1
) -> HttpResponse:
    """Moments of a clip side by side, as a JPEG; or of one of several equal parts of it, counted from 0."""
    clip = owned.footage(request, footage_id)
    count, height = min(max(count, 1), MOST_MOMENTS), min(max(height, 16), TALLEST_STRIP)
    reading = RuleBook.of(clip.project).interpretation(clip)
    parts = min(max(parts, 1), MOST_PARTS)
    shown = (min(max(part, 0), parts - 1), parts)
    key = alone_key(clip, reading, strip=(count, height, *shown), lasts=clip.info.duration)
    heavy = previewer.is_heavy(clip.info, clip.identity_now)
    return _jpeg(kept(key, lambda: previewer.strip(clip.path, clip.info, reading, count, height, shown), heavy=heavy))


@router.put("/footage/{footage_id}/interpretation", response=FootageOut)
def interpret(request: HttpRequest, footage_id: int, given: InterpretIn) -> FootageOut:
    """Set the interpretation of a clip in all its framings, or of every clip of its format."""
    row = owned.footage(request, footage_id)
    if given.for_format and given.interpretation is not None:
        return FootageOut.of(actions.interpret_format(row, given.interpretation))
    return FootageOut.of(actions.interpret(row, given.interpretation))


@router.put("/footage/{footage_id}/range", response=FootageOut)
def mark(request: HttpRequest, footage_id: int, given: MarkIn | None = None) -> FootageOut:
    """Mark the first or the last frame of a clip that is delivered, into every frame; without a mark, all of it is."""
    row = owned.footage(request, footage_id)
    taken = effective_timing(row.info, RuleBook.of(row.project).interpretation(row))
    actions.mark(row, Range() if given is None else given.on(Marks.of(row, taken), taken).part(taken))
    return FootageOut.of(owned.footage(request, footage_id))


@router.get("/footage/{footage_id}/picture")
def picture(
    request: HttpRequest, footage_id: int, time: str = "", width: int = 320, reading: str = "", *, whole: bool = False
) -> HttpResponse:
    """The picture alone, upright and true, as a JPEG.

    With `reading`, an interpretation as JSON, as it would be if it were taken so; with `whole`, bars and blanking stay.
    """
    clip = owned.footage(request, footage_id)
    width = min(max(width, 16), WIDEST_PICTURE)
    taken = _reading(reading) if reading else RuleBook.of(clip.project).interpretation(clip)
    if whole:
        taken = taken.model_copy(update={"burned_in_bars": None, "clean_aperture": None})
    info = clip.info
    moment = read_time(time) if time else effective_timing(info, taken).duration / 2
    own, key = clip.identity_now, alone_key(clip, taken, time=moment, width=width)
    heavy = previewer.is_heavy(info, own)
    return _jpeg(kept(key, lambda: previewer.picture(clip.path, info, taken, moment, width, own), heavy=heavy))


@router.get("/footage/{footage_id}/levels")
def levels(request: HttpRequest, footage_id: int) -> HttpResponse:
    """Peaks of a clip's sound, 100 a second: bytes from 0, which is -60 dB or less, to 255, which is full scale.

    Without a byte where it has no sound; 202 while that is being analysed.
    """
    data = analyses.sound_levels(owned.footage(request, footage_id))
    if data is None:
        return HttpResponse(status=202, headers={"Cache-Control": "no-store"})
    return HttpResponse(data, content_type="application/octet-stream", headers={"Cache-Control": AN_HOUR})


@router.get("/footage/{footage_id}/colours", response=list[str])
def colours(request: HttpRequest, footage_id: int) -> list[str]:
    """Five colours of the clip's own, darkest first."""
    clip = owned.footage(request, footage_id)
    return list(own_colours(clip, RuleBook.of(clip.project).interpretation(clip)))


def _reading(text: str) -> Interpretation:
    try:
        return Interpretation.model_validate_json(text)
    except pydantic.ValidationError as error:
        raise BadRequest("That is no interpretation.", remedy="Send one as JSON.") from error


def read_time(text: str) -> Fraction:
    """Seconds, as they were sent.

    Raises:
        BadRequest: they are no number.
    """
    try:
        return parse_exact(text)
    except ValueError as error:
        raise BadRequest(f"{text!r} is no time.", remedy="Send seconds as a number.") from error


def _jpeg(data: bytes) -> HttpResponse:
    return HttpResponse(data, content_type="image/jpeg", headers={"Cache-Control": AN_HOUR})
