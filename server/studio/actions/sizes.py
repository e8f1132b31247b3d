"""How large files will be: found out by workers, kept for as long as the same is to be written."""

from pathlib import Path

from django.conf import settings
from django.db import transaction

from cadrage.render import RenderRequest, estimate
from server.studio.actions import jobs
from server.studio.actions.analyses import sweep_locks
from server.studio.actions.calls import call, called
from server.studio.actions.framing_plans import plan_of
from server.studio.actions.renders import request_of
from server.studio.actions.turns import waiting
from server.studio.models import Framing, Size

State = Size.State


def wanted(framing: Framing) -> RenderRequest:
    """What would be written of a framing now."""
    return request_of(plan_of(framing), framing.frame.settings, framing.footage)


def ask(framing: Framing, key: str) -> Size:
    """The job of finding out the size of what has a key; what was asked for before is not wanted any more."""
    with transaction.atomic():
        row, new = Size.objects.select_for_update().get_or_create(framing=framing, defaults={"key": key})
        if new:
            call("size")
        elif row.key != key:
            jobs.save(row, key=key, bytes=None)
            if row.ended:
                jobs.begin_anew(row)
                call("size")
            elif row.state == State.RUNNING:
                jobs.save(row, cancel_asked=True)  # and is then begun anew
    return row


def perform_next(person: int | None = None) -> bool:
    """Find out the first size that is waited for and that nobody else finds out; say whether there was one.

    Args:
        person: whose; None for the first of all.
    """
    return jobs.take(waiting(Size, person), _perform)


def _perform(row: Size) -> None:
    with jobs.ended_in_words(row):
        framing = Framing.objects.select_related("footage__project", "frame").get(pk=row.framing_id)
        request = wanted(framing)
        jobs.save(row, phase="encoding", total=100)
        found = estimate(request, jobs.Watch(row))
        jobs.end_if_there(row, State.DONE, done=100, bytes=found.bytes, key=request.key)
    _begin_anew_if_asked(row)


def _begin_anew_if_asked(row: Size) -> None:
    """Where another was asked for meanwhile, that is found out next."""
    now = Size.objects.filter(pk=row.pk, state=State.CANCELLED).first()
    if now is not None:
        jobs.begin_anew(now)


def pick_up() -> None:
    """See to those that a dead worker left, and that nobody was called for. Called by a worker, now and then."""
    jobs.pick_up(Size.objects.filter(state=State.RUNNING), lambda _: None)
    sweep_locks(Path(settings.ANALYSES_DIR).glob(".size-lock-*"), set(Size.objects.values_list("pk", flat=True)))
    if not called("size") and waiting(Size, None).exists():
        call("size")
