"""Renders: ordering, doing, cancelling, and picking up what a dead worker left."""

import shutil
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from pathlib import Path

from django.conf import settings
from django.db import connection, transaction
from django.utils import timezone

from cadrage import render as rendering
from cadrage.errors import BadRequest, CadrageError, Cancelled, CannotWrite
from cadrage.render.sheet import digest_of
from server.studio.actions.footage import check_there
from server.studio.actions.framings import plan_of
from server.studio.actions.materials import library_of
from server.studio.models import Framing, Render

State = Render.State
LEAST_ROOM = 200 * 2**20
"""Nothing is begun where less is free."""
MOST_ATTEMPTS = 2
BEAT_SECONDS = 3
SILENCE = timedelta(seconds=15)
"""A running render that has said nothing for this long has lost its worker."""


def order(framing: Framing) -> Render:
    """Order a render of a framing as it is now.

    Raises:
        BadRequest: its frame cannot be encoded, or what it uses is not there. MissingSource: its file is missing.
        CannotWrite: there is next to no room.
    """
    plan = plan_of(framing)
    how = framing.frame.settings
    rendering.writing_of(how, rendering.frame_written(plan.frame, how), framing.footage.name)
    check_there(framing.footage)
    _check_room()
    library = library_of(framing.footage, plan.interpretation)
    for name in plan.names:
        library.material(name)
    return _queue(
        framing=framing,
        plan_json=plan.model_dump(mode="json"),
        settings_json=how.model_dump(mode="json"),
        total=rendering.delivered(plan, framing.footage.facts).frames,
    )


def _queue(**fields: object) -> Render:
    """A new job, handed to the workers."""
    from server.studio.tasks import render_task  # noqa: PLC0415 - the task calls `perform` below

    with transaction.atomic():
        job = Render.objects.create(**fields)
        transaction.on_commit(lambda: render_task.enqueue(job.pk))
    return job


def free_bytes() -> int:
    """How much room there is for files."""
    return shutil.disk_usage(settings.RENDERS_DIR).free


def _check_room() -> None:
    free = free_bytes()
    if free < LEAST_ROOM:
        raise CannotWrite(
            f"The disk for results has {free // 2**20} MiB left.",
            remedy="Remove old renders or make room, then order again.",
        )


def retry(job: Render) -> Render:
    """Order a render that failed or was cancelled once more, just as it was ordered then.

    Raises:
        BadRequest: it has not ended so.
    """
    if job.state not in (State.FAILED, State.CANCELLED):
        raise BadRequest("This render has not failed.", remedy="Order another where it is framed.")
    check_there(job.framing.footage)
    _check_room()
    return _queue(framing=job.framing, plan_json=job.plan_json, settings_json=job.settings_json, total=job.total)


def perform(job_id: int) -> None:
    """Do a render: claim it, write the file, inspect it. Called by a worker."""
    job = _claim(job_id)
    if job is None:
        return
    with _beating(job):
        _perform(job)


@contextmanager
def _beating(job: Render) -> Iterator[None]:
    """Say every few seconds that this worker is alive, whatever the render is at."""
    over = threading.Event()

    def beat() -> None:
        while not over.wait(BEAT_SECONDS):
            Render.objects.filter(pk=job.pk, state=State.RUNNING).update(heartbeat=timezone.now())
        connection.close()

    thread = threading.Thread(target=beat, name="heartbeat", daemon=True)
    thread.start()
    try:
        yield
    finally:
        over.set()
        thread.join()


def _perform(job: Render) -> None:
    footage, plan = job.framing.footage, job.plan
    try:
        facts, library = footage.facts, library_of(footage, plan.interpretation)
        rendering.render(
            plan,
            footage.path,
            job.path,
            facts,
            settings=job.settings,
            library=library,
            report=lambda progress: _report(job, progress),
            cancelled=lambda: Render.objects.filter(pk=job.pk, cancel_asked=True).exists(),
        )
        _save(job, doing="inspecting")
        inspection = rendering.inspect_file(job.path, rendering.Order(plan, footage.path, facts, library, job.settings))
        digest = digest_of(job.path)
    except Cancelled:
        _end(job, State.CANCELLED)
    except CadrageError as error:
        error.clip = None if error.clip == footage.path.name else error.clip
        _end(job, State.FAILED, problem=f"{footage.name}: {error.problem}", remedy=error.remedy)
    except Exception:
        _end(job, State.FAILED, problem=f"{footage.name}: The render stopped unexpectedly.", remedy="Try again.")
        raise
    else:
        _end(job, State.DONE, report_json=inspection.model_dump(mode="json"), digest=digest)


def _claim(job_id: int) -> Render | None:
    with transaction.atomic():
        job = Render.objects.select_for_update().filter(pk=job_id, state=State.QUEUED).first()
        if job is None:
            return None
        if job.cancel_asked:
            _end(job, State.CANCELLED)
            return None
        _save(job, state=State.RUNNING, doing="rendering", attempts=job.attempts + 1, done=0, heartbeat=timezone.now())
    return job


def _report(job: Render, progress: rendering.Progress) -> None:
    _save(
        job,
        done=progress.done,
        total=progress.total,
        frames_per_second=progress.frames_per_second,
        seconds_left=progress.seconds_left,
        doing="rendering" if progress.done < progress.total else "finishing",
    )


def _end(job: Render, state: Render.State, **more: object) -> None:
    _save(job, state=state, doing="", seconds_left=None, finished=timezone.now(), **more)


def _save(job: Render, **fields: object) -> None:
    for name, value in fields.items():
        setattr(job, name, value)
    job.save(update_fields=list(fields))


def cancel(job: Render) -> Render:
    """Ask a render to stop; one that waits stops at once."""
    with transaction.atomic():
        job = Render.objects.select_for_update().get(pk=job.pk)
        if job.state in Render.ENDED:
            raise BadRequest("This render has already ended.", remedy="Order a new one.", clip=job.framing.footage.name)
        _save(job, cancel_asked=True)
        if job.state == State.QUEUED:
            _end(job, State.CANCELLED)
    return job


def remove(job: Render) -> None:
    """Take an ended render and its file away."""
    if job.state not in Render.ENDED:
        raise BadRequest("This render is still at work.", remedy="Cancel it first.", clip=job.framing.footage.name)
    path = job.path
    job.delete()
    transaction.on_commit(lambda: path.unlink(missing_ok=True))


def pick_up() -> None:
    """Find running renders whose worker has died: queue them again, or give them up after some attempts."""
    from server.studio.tasks import render_task  # noqa: PLC0415 - as in `order`

    lost = Render.objects.filter(state=State.RUNNING, heartbeat__lt=timezone.now() - SILENCE)
    for job in lost:
        with transaction.atomic():
            locked = Render.objects.select_for_update().filter(pk=job.pk, state=State.RUNNING).first()
            if locked is None:
                continue
            _sweep(locked.path)
            if locked.cancel_asked:
                _end(locked, State.CANCELLED)
            elif locked.attempts >= MOST_ATTEMPTS:
                problem = f"{locked.framing.footage.name}: The worker died {locked.attempts} times while rendering it."
                _end(locked, State.FAILED, problem=problem, remedy="Look at the worker's log, then try again.")
            else:
                _save(locked, state=State.QUEUED, doing="waiting", done=0, seconds_left=None)
                transaction.on_commit(lambda pk=job.pk: render_task.enqueue(pk))


def _sweep(target: Path) -> None:
    """Take away what a dead worker left half written."""
    for part in Path(settings.RENDERS_DIR).glob(f".{target.name}.*.part"):
        part.unlink(missing_ok=True)
