"""What workers do with renders: taking them, drawing parts, and picking up what a dead worker left."""

import logging
import os

from django.conf import settings
from django.db import transaction

from cadrage import render as rendering
from cadrage.errors import CadrageError, Cancelled, Paused, SourceChanged
from cadrage.files import sweep
from cadrage.render.desk import Desk, locked
from cadrage.render.segments import finish, help_out
from cadrage.render.sheet import digest_of
from server.studio.actions.materials import library_of
from server.studio.actions.renders import adopt, end, follow_what_was_found, identity_of, save, wake
from server.studio.actions.seeing import look
from server.studio.models import Render

State = Render.State
MOST_IN_VAIN = 3
"""A render whose workers died so often without finishing a part is given up."""
MOST_HELPERS = 8
log = logging.getLogger(__name__)


def perform_next() -> None:
    """Do the first render that waits and that nobody else makes."""
    for job in Render.objects.filter(state=State.QUEUED).order_by("rank", "pk"):
        with locked(job.lock) as mine:
            if not mine:
                continue
            if job.attempts == 0:
                _look_first(job)
            if _claim(job):
                _perform(job)
                return


def _look_first(job: Render) -> None:
    """See that a render is of its clip as it is; it may have been ordered as soon as the clip was there."""
    try:
        look(job.framing.footage_id)
        follow_what_was_found(job)
    except CadrageError as error:  # the render meets the same, and says so
        log.info("A clip could not be looked at: %s", error)


def _claim(job: Render) -> bool:
    """Take a job whose lock is held; says whether there is anything to be done."""
    with transaction.atomic():
        row = Render.objects.select_for_update().filter(pk=job.pk, state=State.QUEUED).first()
        if row is None:
            return False
        if row.cancel_asked:
            end(job, State.CANCELLED)
            return False
        if Render.objects.filter(identity=row.identity, state=State.RUNNING).exists():
            return False  # its file will be there when that one is done
        if adopt(job):
            return False
        save(job, state=State.RUNNING, doing="starting", attempts=row.attempts + 1)
    return True


def _perform(job: Render) -> None:
    footage = job.framing.footage
    try:
        order = _order(job)
        desk = Desk.laid_out(job.desk.folder, order, job.desk.root, settings.PART_SECONDS)
        _count_attempt(job, desk)
        _call_helpers(desk)
        finish(
            desk,
            job.path,
            report=lambda progress: _report(job, desk, progress),
            cancelled=lambda: Render.objects.filter(pk=job.pk, cancel_asked=True).exists(),
            paused=lambda: Render.objects.filter(pk=job.pk, pause_asked=True).exists(),
            replace=True,
        )
        save(job, doing="inspecting")
        inspection = rendering.inspect_file(job.path, order)
        digest = digest_of(job.path)
    except Cancelled:
        job.desk.clear()
        end(job, State.CANCELLED)
    except Paused:
        _lay_aside(job)
    except CadrageError as error:
        error.clip = None if error.clip == footage.path.name else error.clip
        end(job, State.FAILED, problem=f"{footage.name}: {error.problem}", remedy=error.remedy)
    except Exception:
        end(job, State.FAILED, problem=f"{footage.name}: The render stopped unexpectedly.", remedy="Try again.")
        raise
    else:
        desk.clear()
        end(job, State.DONE, report_json=inspection.model_dump(mode="json"), digest=digest)
    finally:
        wake()  # for one that waited for this file, or that came meanwhile


def _order(job: Render) -> rendering.Order:
    """What was ordered, if all that it needs is what it was then.

    Raises:
        SourceChanged: it is not. MissingSource, BadRequest: it is gone.
    """
    footage, plan = job.framing.footage, job.plan
    library = library_of(footage, plan.interpretation)
    if identity_of(plan, job.settings, footage, library) != job.identity:
        raise SourceChanged("The file was changed after the render was ordered.", remedy="Order it again.")
    return rendering.Order(plan, footage.path, footage.facts, library, job.settings, footage.name)


def _count_attempt(job: Render, desk: Desk) -> None:
    """Note how far it is as this attempt begins."""
    there = _parts_done(desk)
    in_vain = job.in_vain + 1 if there == job.parts_done and job.attempts > 1 else 0
    parts = desk.stored.count * len(desk.stages)
    save(job, parts=parts, parts_done=there, in_vain=in_vain, doing="rendering")


def _parts_done(desk: Desk) -> int:
    return sum(desk.stored.count - len(desk.undone(stage)) for stage in desk.stages)


def _call_helpers(desk: Desk) -> None:
    """Ask other workers to draw parts with this one."""
    from server.studio.tasks import part_task  # noqa: PLC0415 - the task calls `draw_part` below

    for _ in range(min(MOST_HELPERS, sum(len(desk.undone(stage)) for stage in desk.stages) - 1)):
        part_task.enqueue(desk.folder.name)


def draw_part(name: str) -> None:
    """Draw one part of a render for whoever finishes it. Asks nothing of the database, so that a worker on another
    machine can do it, with the media folder alone.

    Args:
        name: of the desk's folder.
    """
    from server.studio.tasks import part_task  # noqa: PLC0415 - as above

    desk = Desk(settings.RENDERS_DIR / os.path.basename(name), settings.MEDIA_DIR)  # noqa: PTH119 - never a path
    try:
        if desk.there and not desk.paused and help_out(desk, stopped=lambda: not desk.there):
            part_task.enqueue(name)
    except CadrageError as error:
        if desk.there:  # whoever finishes it meets the same, and says so
            log.warning("A part was not drawn: %s", error)


def _report(job: Render, desk: Desk, progress: rendering.Progress) -> None:
    save(
        job,
        done=progress.done // len(desk.stages),
        total=progress.total // len(desk.stages),
        frames_per_second=progress.frames_per_second / len(desk.stages),
        seconds_left=progress.seconds_left,
        parts_done=_parts_done(desk),
        doing=_doing(desk),
    )


def _doing(desk: Desk) -> str:
    return {"measure": "measuring", "draw": "rendering", None: "joining"}[desk.stage]


def _lay_aside(job: Render) -> None:
    with transaction.atomic():
        row = Render.objects.select_for_update().get(pk=job.pk)
        if row.pause_asked:
            job.desk.pause()
            end(job, State.PAUSED)
        else:  # somebody wants it after all
            save(job, state=State.QUEUED, doing="waiting")


def pick_up() -> None:
    """Find running renders whose worker has died: queue them again, or give them up where it led nowhere."""
    for job in Render.objects.filter(state=State.RUNNING):
        with locked(job.lock) as dead, transaction.atomic():
            row = Render.objects.select_for_update().filter(pk=job.pk, state=State.RUNNING).first()
            if not dead or row is None:
                continue
            sweep(row.path.parent)  # parts that are done stay
            if row.cancel_asked:
                row.desk.clear()
                end(row, State.CANCELLED)
            elif row.in_vain >= MOST_IN_VAIN:
                problem = f"{row.framing.footage.name}: Workers died {row.in_vain} times at the same place of it."
                end(row, State.FAILED, problem=problem, remedy="Look at the worker's log, then try again.")
            elif row.pause_asked:
                end(row, State.PAUSED)
            else:
                save(row, state=State.QUEUED, doing="waiting", seconds_left=None)
                wake()
