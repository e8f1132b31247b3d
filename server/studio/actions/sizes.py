"""Estimated file sizes: computed by workers, and valid until the plan or the file settings change."""

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
    """The render request of a framing as it is now."""
    return request_of(plan_of(framing), framing.frame.settings, framing.footage)


def ask(framing: Framing, key: str) -> Size:
    """Return the job that estimates the size of the request with a key; it replaces the framing's previous estimate."""
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
                jobs.save(row, cancel_asked=True)  # and is restarted when it has stopped
    return row


def perform_next(person: int | None = None) -> bool:
    """Estimate the first queued size that no other worker estimates; return whether there was one.

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
    """Restart a job that was cancelled because another estimate was requested."""
    now = Size.objects.filter(pk=row.pk, state=State.CANCELLED).first()
    if now is not None:
        jobs.begin_anew(now)


def pick_up() -> None:
    """Recover estimates of dead workers, and call for queued ones without a call. Workers run this periodically."""
    jobs.pick_up(Size.objects.filter(state=State.RUNNING), lambda _: None)
    sweep_locks(Path(settings.ANALYSES_DIR).glob(".size-lock-*"), set(Size.objects.values_list("pk", flat=True)))
    if not called("size") and waiting(Size, None).exists():
        call("size")
