"""Sample clips: for somebody who has none at hand and wants to see how it goes."""

from pathlib import Path
from tempfile import TemporaryDirectory

from django.conf import settings
from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from cadrage.errors import Busy
from cadrage.formats import Frame
from demo.clips import CLIPS, drawn
from server.studio.actions.calls import awaited, call
from server.studio.actions.footage import import_file
from server.studio.actions.people import check_allowed
from server.studio.actions.projects import begin
from server.studio.models import Footage, Project

NAME = "Sample clips"
FRAMES = (Frame(name="Wide", width=1920, height=1080), Frame(name="Upright", width=1080, height=1920))
MAX_UNFINISHED = 2  # projects of one person whose sample clips are still to be drawn
SAMPLE_BYTES = 20_000_000  # of the clips of one project; they take about half of it
FILES = ("points.mp4", "yard.mp4", "crossing.mp4")
"""A 4:3 tape, an upright clip and a wide one."""


def begin_with_samples(owner: AbstractBaseUser) -> Project:
    """A new project into which a worker puts a few clips, drawn for it.

    Raises:
        Busy: the clips of others of the same person are still to be drawn. NoRoom: their quota is used up.
    """
    if Project.everything.filter(owner=owner, pk__in=awaited("samples")).count() >= MAX_UNFINISHED:
        raise Busy("Your sample clips are still being drawn.", remedy="Wait until they are there.")
    with transaction.atomic():
        project = begin(owner, NAME, FRAMES)
        check_allowed(project, SAMPLE_BYTES)
        call("samples", project.pk)
    return project


def draw_for(project_id: int) -> None:
    """Put the next sample clip into a project, and call for the one after it; others come to their turn in between."""
    there = set(Footage.everything.filter(project=project_id).values_list("name", flat=True))
    wanted = [clip for clip in CLIPS if clip.file in FILES and f"{clip.name}.mp4" not in there]
    if not wanted or not Project.objects.filter(pk=project_id).exists():
        return
    with TemporaryDirectory(dir=settings.INCOMING_DIR) as folder:
        for clip in drawn(Path(folder), wanted[:1]):
            project = Project.objects.filter(pk=project_id).first()
            if project is not None:
                import_file(project, f"{clip.name}.mp4", Path(folder) / clip.file)
    call("samples", project_id)
