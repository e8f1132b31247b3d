"""Jobs of every kind: their states, the lock of the worker that runs one, progress, and recovery of abandoned jobs."""

import logging
import time
from collections.abc import Callable, Iterable, Iterator
from contextlib import ExitStack, contextmanager
from typing import TypeVar

from django.db import DatabaseError, transaction
from django.db.models import QuerySet
from django.utils import timezone

from cadrage.errors import BadRequest, CadrageError, Cancelled, Paused
from cadrage.files import locked
from server.studio.actions.calls import call
from server.studio.logs import person
from server.studio.models.job import Job

State = Job.State
Kind = TypeVar("Kind", bound=Job)
Row = TypeVar("Row")
REPORT_SECONDS = 0.5
AGAIN = "Queue it again when you want it."
MOST_STALLED = 3
"""A job fails once its workers have died so often without any progress."""
log = logging.getLogger(__name__)


class NotAllowed(BadRequest):
    """The job cannot change from its present state to that one."""


def save(job: Job, **fields: object) -> None:
    """Set and store some fields, and no others."""
    for name, value in fields.items():
        setattr(job, name, value)
    job.save(update_fields=list(fields))


def _row(job: Kind) -> QuerySet[Kind]:
    """Return the row of a job as it is stored now, locked against other changes."""
    return type(job)._base_manager.select_for_update().filter(pk=job.pk)  # noqa: SLF001 - of any kind of job


def advance(job: Job, state: State, **fields: object) -> None:
    """Change the state of a job. The stored row decides, not this object.

    Raises:
        NotAllowed: the job cannot change to that state.
    """
    with transaction.atomic():
        row = _row(job).get()
        if state not in Job.NEXT[State(row.state)]:
            raise NotAllowed(
                f"The job is {row.state} and cannot become {state}.", remedy="Reload the page.", clip=job.clip_name
            )
        save(job, state=state, **fields)


def end(job: Job, state: State, **fields: object) -> None:
    """Put a job into a state in which no worker runs it."""
    advance(job, state, phase="", finished=timezone.now(), **fields)


def queue(job: Job, **fields: object) -> None:
    """Queue a job for a worker."""
    advance(job, State.QUEUED, phase="waiting", finished=None, **fields)


def begin_anew(job: Job, **fields: object) -> None:
    """Queue a finished, failed or cancelled job again from the start.

    Raises:
        NotAllowed: it has not ended.
    """
    with transaction.atomic():
        job.refresh_from_db(fields=["state"])
        if not job.ended:
            raise NotAllowed("The job has not ended.", remedy="Wait for it, or cancel it.", clip=job.clip_name)
        fresh = {"problem": "", "remedy": "", "attempts": 0, "stalled_attempts": 0, "done": 0}
        queue(job, cancel_asked=False, pause_asked=False, **fresh, **fields)


def claim(job: Job) -> bool:
    """Start a queued job whose lock is held; return whether it was still queued."""
    with transaction.atomic():
        row = _row(job).filter(state=State.QUEUED).first()
        if row is None:
            return False
        if row.cancel_asked:
            end(job, State.CANCELLED)
            return False
        advance(job, State.RUNNING, phase="starting", attempts=row.attempts + 1)
    return True


@contextmanager
def held(job: Job) -> Iterator[bool]:
    """Hold the lock of a job within the block; yield whether it is held.

    It is not held where another worker has it, nor where its file cannot be written: the job then stays queued.
    """
    with ExitStack() as stack:
        try:
            mine = stack.enter_context(locked(job.lock))
        except OSError as error:
            log.warning("A job waits until its folder can be written: %s", error)
            mine = False
        yield mine


def take(rows: Iterable[Kind], perform: Callable[[Kind], object]) -> bool:
    """Run the first queued job that no other worker runs, then call for the next; return whether there was one."""
    for row in rows:
        with held(row) as mine:
            taken = mine and claim(row)
            if taken:
                perform(row)
        if taken:
            call(row.call_name)
            return True
    return False


def cancel(job: Kind) -> Kind:
    """Cancel a job: at once where it waits, else as soon as its worker notices.

    Raises:
        BadRequest: it has ended.
    """
    return _ask(job, "cancel_asked", State.CANCELLED)


def pause(job: Kind) -> Kind:
    """Pause a job: at once where it waits, else as soon as its worker can.

    Raises:
        BadRequest: it has ended.
    """
    return _ask(job, "pause_asked", State.PAUSED)


def _ask(job: Kind, what: str, at_once: State) -> Kind:
    with transaction.atomic():
        job = _row(job).get()
        if job.ended:
            raise BadRequest("The job has already ended.", remedy="Reload the page.", clip=job.clip_name)
        save(job, **{what: True})
        if job.state not in (State.RUNNING, at_once):
            end(job, at_once)
    return job


def resume(job: Kind) -> Kind:
    """Resume a paused job where it stopped.

    Raises:
        BadRequest: it is not paused.
    """
    with transaction.atomic():
        job = _row(job).get()
        if job.state != State.PAUSED and not job.pause_asked:
            raise BadRequest("The job is not paused.", remedy="Reload the page.", clip=job.clip_name)
        save(job, pause_asked=False)
        if job.state == State.PAUSED:
            queue(job)
        call(job.call_name)
    return job


@contextmanager
def ended_in_words(job: Job) -> Iterator[None]:
    """Run the block as the work of a job: any error ends the job with its reason, and log lines name its owner."""
    told = f"{type(job).__name__} {job.pk} of “{job.clip_name}”"
    token = person.set(job.owner_name)
    log.info("%s begins", told)
    try:
        yield
        log.info("%s has ended", told)
    except Cancelled:
        log.info("%s was cancelled", told)
        end_if_there(job, State.CANCELLED)
    except Paused:
        end_if_there(job, State.PAUSED)
    except CadrageError as error:
        log.warning("%s failed: %s", told, error)
        end_if_there(job, State.FAILED, problem=error.problem, remedy=error.remedy)
    except Exception:
        log.exception("%s stopped", told)
        end_if_there(job, State.FAILED, problem="It stopped unexpectedly.", remedy="Try again.")
    finally:
        person.reset(token)


def end_if_there(job: Job, state: State, **fields: object) -> None:
    """End a job unless its row was deleted, as when the clip's file was replaced meanwhile."""
    if type(job)._base_manager.filter(pk=job.pk).exists():  # noqa: SLF001 - of any kind of job
        end(job, state, **fields)


class Watch:
    """Reports the progress of a job, and stops it when it was cancelled, paused or deleted.

    Args:
        job: that is running; its progress is stored in percent.
    """

    def __init__(self, job: Job) -> None:
        self._job, self._told = job, 0.0

    def __call__(self, fraction: float) -> None:
        """Report the fraction that is done, 0 to 1.

        Raises:
            Cancelled, Paused: the work has to stop.
        """
        if time.monotonic() - self._told < REPORT_SECONDS:
            return
        self._told = time.monotonic()
        rows = type(self._job)._base_manager.filter(pk=self._job.pk)  # noqa: SLF001 - of any kind of job
        asked = rows.values("cancel_asked", "pause_asked").first()
        if asked is None:
            raise Cancelled("The clip's file has changed since this job was queued.", remedy=AGAIN)
        save(self._job, done=round(100 * fraction))
        if asked["cancel_asked"]:
            raise Cancelled("It was cancelled.", remedy=AGAIN)
        if asked["pause_asked"]:
            raise Paused("It was paused.", remedy="Resume it when you want it.")


def pick_up(rows: Iterable[Job], swept: Callable[[Job], None]) -> None:
    """Recover running jobs whose worker has died: queue them again, or let them fail after too many attempts.

    Args:
        rows: running jobs.
        swept: called with each whose worker died, to delete its unfinished files.
    """

    def left(job: Job) -> None:
        with locked(job.lock) as dead, transaction.atomic():
            row = _row(job).filter(state=State.RUNNING).first()
            if not dead or row is None:
                return
            swept(row)
            if row.cancel_asked:
                end(row, State.CANCELLED)
            elif row.stalled_attempts >= MOST_STALLED:
                problem = f"{row.clip_name}: workers died {row.stalled_attempts} times at the same place."
                end(row, State.FAILED, problem=problem, remedy="Look at the worker's log, then try again.")
            elif row.pause_asked:
                end(row, State.PAUSED)
            else:
                queue(row)

    each(rows, left)


def each(rows: Iterable[Row], do: Callable[[Row], object]) -> None:
    """Call a function with each row; an error with one row does not stop the others."""
    for row in rows:
        try:
            do(row)
        except DatabaseError:
            raise  # it concerns them all
        except Exception:
            log.exception("Nothing could be done with %s", row)
