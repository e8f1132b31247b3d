"""Sample clips: for somebody who has none at hand and wants to see how it goes."""

from pathlib import Path
from tempfile import TemporaryDirectory

from django.conf import settings
from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import QuerySet

from cadrage.errors import Busy
from cadrage.formats import Frame
from demo.clips import CLIPS, drawn
from server.studio.actions import jobs
from server.studio.actions.analyses import sweep_locks
from server.studio.actions.calls import call, called
from server.studio.actions.footage import import_file
from server.studio.actions.people import check_allowed
from server.studio.actions.projects import begin
from server.studio.actions.turns import waiting
from server.studio.models import Footage, Project, SampleClip

State = SampleClip.State
NAME = "Sample clips"
FRAMES = (Frame(name="Wide", width=1920, height=1080), Frame(name="Upright", width=1080, height=1920))
MAX_UNFINISHED = 2  # projects of one person whose sample clips are still to be drawn
SAMPLE_BYTES = 20_000_000  # of the clips of one project; they take about half of it
FILES = ("points.mp4", "yard.mp4", "crossing.mp4")
"""A 4:3 tape, an upright clip and a wide one."""


def begin_with_samples(owner: AbstractBaseUser) -> Project:
    """Return a new project into which workers draw a few clips.

    Raises:
        Busy: the clips of `MAX_UNFINISHED` projects of the same person are not drawn yet. NoRoom: the quota is used up.
    """
    unfinished = SampleClip.objects.filter(project__owner=owner).exclude(state__in=SampleClip.ENDED)
    if unfinished.values("project").distinct().count() >= MAX_UNFINISHED:
        raise Busy("Your sample clips are still being drawn.", remedy="Wait until they are there.")
    with transaction.atomic():
        project = begin(owner, NAME, FRAMES)
        check_allowed(project, SAMPLE_BYTES)
        SampleClip.objects.bulk_create(SampleClip(project=project, file=file) for file in FILES)
        call("samples")
    return project


def perform_next(person: int | None = None) -> bool:
    """Draw the first sample clip that waits and that no other worker draws; return whether there was one.

    Args:
        person: the owner of its project; None for the first of all.
    """
    return jobs.take(_ready(person).select_related("project__owner"), _perform)


def _ready(person: int | None = None) -> QuerySet[SampleClip]:
    """Return those that wait, but for projects that were removed: they go on if their project is restored."""
    return waiting(SampleClip, person).filter(project__removed=None)


def _perform(row: SampleClip) -> None:
    with jobs.ended_in_words(row):
        jobs.save(row, phase="drawing")
        _draw(row)
        jobs.end_if_there(row, State.DONE)


def _draw(row: SampleClip) -> None:
    clip = next(clip for clip in CLIPS if clip.file == row.file)
    name = f"{clip.name}.mp4"
    if Footage.everything.filter(project=row.project, name=name).exists():
        return  # by a worker that died before it could say so
    with TemporaryDirectory(dir=settings.INCOMING_DIR) as folder:
        list(drawn(Path(folder), [clip]))
        if Project.objects.filter(pk=row.project_id).exists():
            import_file(row.project, name, Path(folder) / clip.file)


def pick_up() -> None:
    """Queue again what a dead worker left, and call for what waits. Called by a worker, now and then."""
    jobs.pick_up(SampleClip.objects.filter(state=State.RUNNING), lambda _: None)
    there = set(SampleClip.objects.exclude(state__in=SampleClip.ENDED).values_list("pk", flat=True))
    sweep_locks(Path(settings.ANALYSES_DIR).glob(".sample-lock-*"), there)
    if not called("samples") and _ready().exists():
        call("samples")
