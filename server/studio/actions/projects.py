"""Projects, their frames, and what people save of frames and settings for all of their projects."""

from collections.abc import Iterable
from dataclasses import dataclass, field
from hashlib import blake2b

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import Count, Q, QuerySet

from cadrage.errors import BadRequest
from cadrage.formats import FIRST_FRAME, Frame
from cadrage.output import SHIPPED as SHIPPED_SETTINGS
from cadrage.output import Settings
from server.studio.actions.history import only, recorded
from server.studio.models import Analysis, Framing, OwnFrame, OwnSettings, Project, ProjectFrame, Render
from server.studio.models.project import named

SHOWN = 4
MAX_PROJECTS = 1000
TOLD_EACH = 10
"""Percent of progress of an analysis between two updates of a page."""


def clips_state(project: Project) -> str:
    """A short text that changes when clips, frames or results of analyses of a project change, by any person."""
    clips = project.footage.order_by("pk").values_list("pk", "digest", "fingerprint", "name", "rank")
    frames = project.frames.order_by("pk").values_list("pk", "frame_json", "delivery_json", "settings_json", "rank")
    found = Analysis.objects.filter(footage__project=project).order_by("pk").values_list("pk", "state", "key", "done")
    told = [(pk, state, key, done // TOLD_EACH) for pk, state, key, done in found]
    ways = Framing.objects.filter(footage__project=project).exclude(ways_json=None).order_by("pk")
    return _short([*clips, *frames, *told, *ways.values_list("pk", "ways_json__asked")])


def renders_state(project: Project) -> str:
    """A short text that changes when renders are added, removed or make progress."""
    rows = Render.objects.filter(framing__footage__project=project).order_by("pk")
    return _short(rows.values_list("pk", "state", "done", "phase", "rank", "cleared"))


def _short(rows: Iterable[tuple[object, ...]]) -> str:
    return blake2b(repr(list(rows)).encode(), digest_size=8).hexdigest()


def check_project_count(owner: AbstractBaseUser) -> None:
    """Check that a person is below the limit of projects.

    Raises:
        BadRequest: they have `MAX_PROJECTS`.
    """
    if Project.objects.filter(owner=owner).count() >= MAX_PROJECTS:
        raise BadRequest(f"You have {MAX_PROJECTS} projects.", remedy="Delete some that you do not need any more.")


def begin(owner: AbstractBaseUser, name: str, frames: tuple[Frame, ...] = (FIRST_FRAME,)) -> Project:
    """A new project with some frames in it.

    Raises:
        BadRequest: see `check_project_count`.
    """
    check_project_count(owner)
    with transaction.atomic():
        project = Project.objects.create(owner=owner, name=name)
        for frame in frames:
            ProjectFrame.from_value(project, frame).save()
    return project


def change(project: Project, name: str | None = None, put_away: bool | None = None) -> Project:
    """Rename a project, archive it, or restore it from the archive; None changes nothing."""
    project.name = project.name if name is None else name
    project.put_away = project.put_away if put_away is None else put_away
    with recorded(project, "Rename project", only(project)):
        project.save(update_fields=["name", "put_away"])
    return project


@dataclass
class Line:
    """A project as lists show it.

    Attributes:
        project: with its owner and members read.
        clips: how many there are.
        frames: of it, in their order.
        framings: ids of a few to show it by.
        rendering: how many renders are under way or queued.
    """

    project: Project
    clips: int = 0
    frames: list[ProjectFrame] = field(default_factory=list)
    framings: list[int] = field(default_factory=list)
    rendering: int = 0


def lines(projects: QuerySet[Project]) -> list[Line]:
    """Projects, newest first, with what lists show of them; as many queries for many as for one."""
    rows = projects.filter(removed=None).select_related("owner").prefetch_related("members")
    counted = rows.annotate(clips=Count("footage", filter=Q(footage__removed__isnull=True)))
    found = {row.pk: Line(row, row.clips) for row in counted}
    for frame in ProjectFrame.objects.filter(project__in=found):
        found[frame.project_id].frames.append(frame)
    cells = Framing.present.filter(footage__project__in=found).order_by("footage", "frame")
    for pk, project in cells.values_list("pk", "footage__project"):
        found[project].framings.append(pk)
    under_way = (Render.State.QUEUED, Render.State.RUNNING)
    at_work = Render.objects.filter(framing__footage__project__in=found, state__in=under_way)
    for project in at_work.values_list("framing__footage__project", flat=True):
        found[project].rendering += 1
    for line in found.values():
        line.framings = _spread(line.framings)
    return list(found.values())


def _spread(found: list[int]) -> list[int]:
    """Return a few ids, evenly spaced."""
    return found if len(found) <= SHOWN else [found[at * (len(found) - 1) // (SHOWN - 1)] for at in range(SHOWN)]


def keep(project: Project, days: int | None, gigabytes: float | None) -> Project:
    """Set the age and the total size up to which finished files are kept."""
    project.keep_days, project.keep_gigabytes = days, gigabytes
    project.save(update_fields=["keep_days", "keep_gigabytes"])
    return project


def save_own_frame(owner: AbstractBaseUser, frame: Frame) -> OwnFrame:
    """Save a frame for all projects of its owner's."""
    return OwnFrame.objects.create(owner=owner, frame_json=named(frame).model_dump(mode="json"))


def save_own_settings(owner: AbstractBaseUser, settings: Settings) -> OwnSettings:
    """Save settings for all projects of their owner's."""
    return OwnSettings.objects.create(owner=owner, settings_json=settings.model_dump(mode="json"))


def settings_to_choose(owner: AbstractBaseUser) -> list[Settings]:
    """Return the file settings that a person can choose by name: the shipped ones, then their own."""
    return [*SHIPPED_SETTINGS, *(row.value for row in OwnSettings.objects.filter(owner=owner))]


def remove_own(row: OwnFrame | OwnSettings) -> None:
    """Delete a saved frame or saved settings from the catalogue; projects that use a copy keep it."""
    row.delete()
