"""What workers do with plates: making them, and picking up what a dead worker left."""

import logging

from cadrage.analysis import NotFound
from cadrage.errors import BadRequest
from cadrage.plates import make
from server.studio.actions import jobs, plates
from server.studio.actions.calls import call, called
from server.studio.actions.materials import library_of
from server.studio.actions.turns import waiting
from server.studio.models import Footage, Plate
from server.studio.models.analysis import store

State = Plate.State
log = logging.getLogger(__name__)


def perform_next(person: int | None = None) -> bool:
    """Make the first plate that waits and that nobody else makes; say whether there was one.

    Args:
        person: whose; None for the first of all.
    """
    done = jobs.take(waiting(Plate, person).select_related("footage__project"), _perform)
    if done:
        call("render")  # one may have waited for it
    return done


def _perform(row: Plate) -> None:
    with jobs.ended_in_words(row):
        footage = Footage.everything.select_related("project").get(pk=row.footage_id)
        jobs.save(row, phase="making", total=100)
        library = library_of(footage, row.taken)
        outcome = make(store, plates.subject_of(footage, row.taken), row.asked, library, jobs.Watch(row))
        if isinstance(outcome, NotFound):
            raise BadRequest(outcome.reason, remedy="Choose another stretch, or another surround.")
        jobs.end_if_there(row, State.DONE, done=100)


def pick_up() -> None:
    """See to plates that a dead worker left, and that nobody was called for. Called by a worker, now and then."""
    jobs.pick_up(Plate.objects.filter(state=State.RUNNING).select_related("footage"), lambda _: None)
    if not called("plate") and waiting(Plate, None).exists():
        call("plate")
