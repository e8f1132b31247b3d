"""Frames: those of a project with their guides, and the catalogue with the visitor's own."""

from fractions import Fraction
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Body, Router

from cadrage.errors import BadRequest
from cadrage.exchange import chart_of, to_png, to_svg
from cadrage.formats import Frame, Guide, guides_for, same_height, turned_upright
from cadrage.formats.active_measures import ActiveMeasures, active_aspect, active_measures
from cadrage.formats.frames import MAX_ASPECT, MAX_SIDE, MIN_ASPECT, MIN_SIDE
from cadrage.geometry import Raster
from cadrage.output import read_settings
from cadrage.values import parse_exact, parse_size
from server.studio.actions import frames as actions
from server.studio.actions import projects, removing
from server.studio.api import owned
from server.studio.api.schemas import (
    ActiveIn,
    Catalogue,
    FrameChanged,
    FrameIn,
    FrameOut,
    GuidesOut,
    OwnFrameOut,
    OwnSettingsOut,
)
from server.studio.files import attachment
from server.studio.models import ProjectFrame

router = Router(tags=["frames"])


@router.get("/catalogue", response=Catalogue)
def catalogue(request: HttpRequest) -> Catalogue:
    """What there is to choose from."""
    return Catalogue.of(list(request.user.own_frames.all()), list(request.user.own_settings.all()))


@router.post("/formats", response=OwnFrameOut)
def save_own(request: HttpRequest, given: Frame) -> OwnFrameOut:
    """Save a frame of the visitor's own for all projects."""
    return OwnFrameOut.of(projects.save_own_frame(request.user, given))


@router.delete("/formats/{own_id}", response={204: None})
def remove_own(request: HttpRequest, own_id: int) -> tuple[int, None]:
    """Take a frame of the visitor's own out of the catalogue; projects that have it keep it."""
    projects.remove_own(owned.own_frame(request, own_id))
    return 204, None


@router.post("/settings", response=OwnSettingsOut)
def save_settings(request: HttpRequest, given: Body[dict[str, Any]]) -> OwnSettingsOut:
    """Save settings of the visitor's own for all projects; also such as were exported."""
    return OwnSettingsOut.of(projects.save_own_settings(request.user, read_settings(given)))


@router.get("/settings/{own_id}/file")
def export_settings(request: HttpRequest, own_id: int) -> HttpResponse:
    """Settings of the visitor's own as a JSON file, to be imported elsewhere or used on the command line."""
    value = owned.own_settings(request, own_id).value
    headers = {"Content-Disposition": attachment(f"{value.name}.settings.json")}
    return HttpResponse(value.model_dump_json(indent=2), content_type="application/json", headers=headers)


@router.delete("/settings/{own_id}", response={204: None})
def remove_settings(request: HttpRequest, own_id: int) -> tuple[int, None]:
    """Take settings of the visitor's own away; frames that have them keep them."""
    projects.remove_own(owned.own_settings(request, own_id))
    return 204, None


@router.post("/catalogue/derived", response=Frame)
def derived(request: HttpRequest, given: Frame, aspect: str = "") -> Frame:
    """A frame derived from another: of the same height in an aspect, or without one turned upright."""
    if not aspect:
        return turned_upright(given)
    return same_height(given, _aspect(aspect))


@router.post("/catalogue/active", response=ActiveMeasures)
def active(request: HttpRequest, given: ActiveIn) -> ActiveMeasures:
    """An active picture that is written by aspect, pixels or percent, in each of these ways."""
    aspect = active_aspect(given.frame, given.by, given.value, given.bars)
    return active_measures(given.frame.model_copy(update={"active": aspect}))


def _aspect(text: str) -> Fraction:
    try:
        value = parse_exact(text)
    except ValueError as error:
        raise BadRequest(f"{text!r} is no aspect.", remedy="Write it like 4:3 or 2.39.") from error
    if not MIN_ASPECT <= value <= MAX_ASPECT:
        raise BadRequest(f"{text!r} is no aspect of a picture.", remedy="Write it like 4:3 or 2.39.")
    return value


@router.post("/projects/{project_id}/frames", response=FrameOut)
def add_frame(request: HttpRequest, project_id: int, given: Frame) -> FrameOut:
    """Add a frame to a project."""
    return FrameOut.of(actions.add(owned.project(request, project_id), given))


@router.put("/frames/{frame_id}", response=FrameChanged)
def change_frame(request: HttpRequest, frame_id: int, given: FrameIn) -> FrameChanged:
    """Change a frame for every clip that goes into it, and what is asked of it. Where its size changes, framings follow
    as far as they can; those that keep less of their picture then are listed.
    """
    row, losses = actions.change(owned.frame(request, frame_id), given.frame, given.delivery, given.settings)
    return FrameChanged.after(row, losses)


@router.delete("/frames/{frame_id}", response={204: None})
def remove_frame(request: HttpRequest, frame_id: int) -> tuple[int, None]:
    """Take a frame, and every framing in it, out of its project. For a while it can be brought back."""
    removing.remove(owned.frame(request, frame_id))
    return 204, None


@router.post("/frames/{frame_id}/restore", response=FrameOut)
def restore_frame(request: HttpRequest, frame_id: int) -> FrameOut:
    """Bring a removed frame back, with all framings in it."""
    return FrameOut.of(removing.bring_back(owned.frame(request, frame_id, ProjectFrame.everything)))


@router.get("/frames/{frame_id}/guides", response=GuidesOut)
def guides(request: HttpRequest, frame_id: int) -> GuidesOut:
    """Every guide that a frame has, with the outlines of the project's other frames."""
    return GuidesOut(guides=list(_guides(owned.frame(request, frame_id))))


def _guides(row: ProjectFrame) -> tuple[Guide, ...]:
    others = tuple(other.value for other in row.project.frames.exclude(pk=row.pk))
    return guides_for(row.value, row.delivery, others)


@router.get("/frames/{frame_id}/chart")
def chart(request: HttpRequest, frame_id: int, kind: str = "svg", raster: str = "", only: str = "") -> HttpResponse:
    """A chart of a frame's guides as a file. `only` names kinds of guides, separated by commas; empty is all."""
    row = owned.frame(request, frame_id)
    wanted = set(filter(None, only.split(",")))
    chosen = tuple(guide for guide in _guides(row) if not wanted or guide.kind in wanted)
    drawn = chart_of(row.value, chosen, _raster(raster) if raster else None)
    data, mime = (to_png(drawn), "image/png") if kind == "png" else (to_svg(drawn).encode(), "image/svg+xml")
    name = f"{row.value.name} {drawn.width}x{drawn.height}.{'png' if kind == 'png' else 'svg'}"
    response = HttpResponse(data, content_type=mime)
    response.headers["Content-Disposition"] = attachment(name)
    return response


def _raster(text: str) -> Raster:
    try:
        sides = parse_size(text)
    except ValueError as error:
        raise BadRequest(f"{error}.", remedy="Write it like 4096x2160.") from error
    if not all(MIN_SIDE <= side <= MAX_SIDE for side in sides):
        raise BadRequest(f"{text!r} is out of range.", remedy=f"Use sides from {MIN_SIDE} to {MAX_SIDE} pixels.")
    return Raster(*sides)
