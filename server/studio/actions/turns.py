"""One fair order for every kind of job: people take turns, whatever it is that they wait for."""

from collections import Counter
from collections.abc import Callable, Sequence
from typing import TypeVar

from django.db.models import Max, Min, QuerySet

from server.studio.actions.calls import call
from server.studio.models import Analysis, Generation, Plate, Render, SampleClip, Size
from server.studio.models.job import Job

State = Job.State
Kind = TypeVar("Kind", bound=Job)
KINDS: tuple[type[Job], ...] = (Plate, Generation, Size, SampleClip, Analysis, Render)
"""Every kind of job. Of one person, those come first for which somebody waits at the bench."""
_performers: dict[str, Callable[[int], bool]] = {}


def performs(kind: type[Job], perform: Callable[[int], bool]) -> None:
    """Say what does the first job of a kind that waits of a person, and returns whether there was one."""
    _performers[kind.call_name] = perform


def take(name: str) -> None:
    """Do one job: the first of the person whose turn it is. Called by a worker.

    Args:
        name: of the kind that the worker was called for; it is called again where another kind came first.
    """
    for person in people_in_turn():
        for kind in KINDS:
            if _performers[kind.call_name](person):
                if kind.call_name != name:
                    call(name)
                return


def people_in_turn(kinds: Sequence[type[Job]] = KINDS) -> list[int]:
    """Return the ids of people who have jobs waiting, whose turn it is first.

    Whoever has fewer at work comes first, then whoever's last one ended the longest ago, then whoever has waited the
    longest.
    """
    at_work = Counter[int]()
    last: dict[int, float] = {}
    since: dict[int, float] = {}
    for kind in kinds:
        rows = kind.objects.order_by()
        owner = kind.owner_path
        at_work.update(rows.filter(state=State.RUNNING).values_list(owner, flat=True))
        for person, rank in rows.filter(state=State.QUEUED).values_list(owner).annotate(Min("rank")):
            since[person] = min(rank, since.get(person, rank))
        for person, finished in rows.exclude(finished=None).values_list(owner).annotate(Max("finished")):
            last[person] = max(finished.timestamp(), last.get(person, 0.0))
    return sorted(since, key=lambda person: (at_work[person], last.get(person, 0.0), since[person]))


def waiting(kind: type[Kind], person: int | None) -> QuerySet[Kind]:
    """Return the jobs of a kind that wait, in their order: of one person, or with None of all."""
    rows = kind.objects.filter(state=State.QUEUED).order_by("rank", "pk")
    return rows if person is None else rows.filter(**{kind.owner_path: person})
