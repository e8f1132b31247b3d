"""Clearing old results, by a rule of their project's and never without saying: the render stays, its file goes."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

from django.conf import settings
from django.db import transaction
from django.utils import timezone

from cadrage.files import remove
from server.studio.actions.jobs import each, save
from server.studio.models import Project, Render
from server.studio.room import GIGABYTE

NEEDED = ("framing", "state", "settings_json", "cleared", "finished", "ordered")


@dataclass(frozen=True, slots=True)
class Kept:
    """What a project keeps.

    Attributes:
        files, bytes: of results that are there.
        due: renders whose files the rule takes away now, oldest first.
        due_bytes: of those.
        next_due: when the next one is old enough; None where none will be.
    """

    files: int
    bytes: int
    due: list[Render]
    due_bytes: int
    next_due: datetime | None


def kept(project: Project, days: int | None, gigabytes: float | None) -> Kept:
    """What a rule means for a project as it is now.

    Args:
        project: whose results.
        days: for which each is kept; None for ever.
        gigabytes: up to which all are kept, the newest first, and the newest of each framing in any case; None without
            end.
    """
    rows = Render.objects.filter(framing__footage__project=project, state=Render.State.DONE, cleared=None)
    there = [(row, row.size) for row in rows.only(*NEEDED).order_by("-finished", "-pk") if row.file_exists]
    now, due, due_bytes, held, ages = timezone.now(), [], 0, 0, []
    framings: set[int] = set()
    for row, size in there:
        newest = row.framing_id not in framings
        framings.add(row.framing_id)
        over = None if days is None else (row.finished or row.ordered) + timedelta(days=days)
        too_much = gigabytes is not None and held + size > gigabytes * GIGABYTE and not newest
        if (over is not None and over <= now) or too_much:
            due.append(row)
            due_bytes += size
            continue
        held += size
        if over is not None:
            ages.append(over)
    return Kept(len(there), sum(size for _, size in there), due[::-1], due_bytes, min(ages, default=None))


def clear_due() -> None:
    """Take away the files that the rules of their projects say. Called by a worker, now and then."""

    def clear_in(project: Project) -> None:
        each(kept(project, project.keep_days, project.keep_gigabytes).due, clear)

    each(Project.objects.exclude(keep_days=None, keep_gigabytes=None), clear_in)


def clear(job: Render) -> None:
    """Take the file of a finished render away; what was measured of it stays."""
    path = job.path
    save(job, cleared=timezone.now())
    transaction.on_commit(lambda: remove(path))


def sweep() -> None:
    """Take away desks and locks whose render is not there any more."""
    there = set(Render.objects.values_list("pk", flat=True))
    for pattern in (".desk-*", ".workspace-*", ".lock-*"):
        for path in Path(settings.RENDERS_DIR).glob(pattern):
            number = path.name.rpartition("-")[2]
            if number.isdecimal() and int(number) not in there:
                remove(path)
