"""What renders and analyses have in common: how a job comes from one state into another, and who may ask for it."""

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
AGAIN = "Ask for it again when you want it."
MOST_STALLED = 3
"""A job whose workers died so often without anything coming of it is given up."""
log = logging.getLogger(__name__)


class NotAllowed(BadRequest):
    """A job does not come into that state from the one it is in."""


def save(job: Job, **fields: object) -> None:
    """Set and store some fields, and no others."""
    for name, value in fields.items():
        setattr(job, name, value)
    job.save(update_fields=list(fields))


def _row(job: Kind) -> QuerySet[Kind]:
    """The row of a job as it is stored now, nobody else changing it."""
    return type(job)._base_manager.select_for_update().filter(pk=job.pk)  # noqa: SLF001 - of any kind of job


def advance(job: Job, state: State, **fields: object) -> None:
    """Put a job into another state; its row is what counts, whatever this object says.

    Raises:
        NotAllowed: it does not come into it from where it is.
    """
    with transaction.atomic():
        row = _row(job).get()
        if state not in Job.NEXT[State(row.state)]:
            raise NotAllowed(
                f"This is {row.state} and cannot become {state}.", remedy="Look at where it stands.", clip=job.clip_name
            )
        save(job, state=state, **fields)


def end(job: Job, state: State, **fields: object) -> None:
    """Put a job into a state in which nobody works on it."""
    advance(job, state, phase="", finished=timezone.now(), **fields)


def queue(job: Job, **fields: object) -> None:
    """Let a job wait for a worker."""
    advance(job, State.QUEUED, phase="waiting", finished=None, **fields)


def begin_anew(job: Job, **fields: object) -> None:
    """Let a job that ended be done again from the start.

    Raises:
        NotAllowed: it has not ended.
    """
    with transaction.atomic():
        job.refresh_from_db(fields=["state"])
        if not job.ended:
            raise NotAllowed("This has not ended.", remedy="Look at where it stands.", clip=job.clip_name)
        fresh = {"problem": "", "remedy": "", "attempts": 0, "stalled_attempts": 0, "done": 0}
        queue(job, cancel_asked=False, pause_asked=False, **fresh, **fields)


def claim(job: Job) -> bool:
    """Begin a job that waits and whose lock is held; says whether it still does."""
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
    """Hold the lock of a job within the block; gives whether it is held. Not where somebody else does, nor where it
    cannot be written: then the job waits until it can.
    """
    with ExitStack() as stack:
        try:
            mine = stack.enter_context(locked(job.lock))
        except OSError as error:
            log.warning("A job waits until its folder can be written: %s", error)
            mine = False
        yield mine


def take(rows: Iterable[Kind], perform: Callable[[Kind], object]) -> bool:
    """Do the first of some jobs that waits and that nobody else does; says whether there was one."""
    for row in rows:
        with held(row) as mine:
            if mine and claim(row):
                perform(row)
                return True
    return False


def cancel(job: Kind) -> Kind:
    """Ask a job to stop; one that nobody works on stops at once.

    Raises:
        BadRequest: it has ended.
    """
    return _ask(job, "cancel_asked", State.CANCELLED)


def pause(job: Kind) -> Kind:
    """Ask a job to be laid aside at the next place where that can be; one that waits is laid aside at once.

    Raises:
        BadRequest: it has ended.
    """
    return _ask(job, "pause_asked", State.PAUSED)


def _ask(job: Kind, what: str, at_once: State) -> Kind:
    with transaction.atomic():
        job = _row(job).get()
        if job.ended:
            raise BadRequest("This has already ended.", remedy="Look at where it stands.", clip=job.clip_name)
        save(job, **{what: True})
        if job.state not in (State.RUNNING, at_once):
            end(job, at_once)
    return job


def resume(job: Kind) -> Kind:
    """Let a job that was laid aside go on where it was, and call a worker for it.

    Raises:
        BadRequest: it was not.
    """
    with transaction.atomic():
        job = _row(job).get()
        if job.state != State.PAUSED and not job.pause_asked:
            raise BadRequest("This was not laid aside.", remedy="Look at where it stands.", clip=job.clip_name)
        save(job, pause_asked=False)
        if job.state == State.PAUSED:
            queue(job)
        call(job.call_name)
    return job


@contextmanager
def ended_in_words(job: Job) -> Iterator[None]:
    """Whatever stops the work on a job ends it, with the reason; its log lines name its project's owner."""
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
    """End a job, unless it is gone: another file has come in the place of its clip's meanwhile."""
    if type(job)._base_manager.filter(pk=job.pk).exists():  # noqa: SLF001 - of any kind of job
        end(job, state, **fields)


class Watch:
    """Tells how far a job is, and stops it when that was asked, or when it is gone: its clip is another by then.

    Args:
        job: that is being done; its work is counted in percent.
    """

    def __init__(self, job: Job) -> None:
        self._job, self._told = job, 0.0

    def __call__(self, fraction: float) -> None:
        """Say which fraction is done.

        Raises:
            Cancelled, Paused: it is not to be gone on with.
        """
        if time.monotonic() - self._told < REPORT_SECONDS:
            return
        self._told = time.monotonic()
        rows = type(self._job)._base_manager.filter(pk=self._job.pk)  # noqa: SLF001 - of any kind of job
        asked = rows.values("cancel_asked", "pause_asked").first()
        if asked is None:
            raise Cancelled("Its clip is another by now.", remedy=AGAIN)
        save(self._job, done=round(100 * fraction))
        if asked["cancel_asked"]:
            raise Cancelled("It was cancelled.", remedy=AGAIN)
        if asked["pause_asked"]:
            raise Paused("It was laid aside.", remedy="Let it go on when you want it.")


def pick_up(rows: Iterable[Job], swept: Callable[[Job], None]) -> None:
    """Find running jobs whose worker has died: queue them again, or give them up where it led nowhere.

    Args:
        rows: jobs that are running.
        swept: called with each whose worker died, to take away what it left unfinished.
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
                problem = f"{row.clip_name}: Workers died {row.stalled_attempts} times at the same place of it."
                end(row, State.FAILED, problem=problem, remedy="Look at the worker's log, then try again.")
            elif row.pause_asked:
                end(row, State.PAUSED)
            else:
                queue(row)

    each(rows, left)


def each(rows: Iterable[Row], do: Callable[[Row], object]) -> None:
    """Do something with each of some rows; what goes wrong with one keeps none of the others from it."""
    for row in rows:
        try:
            do(row)
        except DatabaseError:
            raise  # it concerns them all
        except Exception:
            log.exception("Nothing could be done with %s", row)
