"""How workers take renders, draw parts, and recover renders of a dead worker."""

import logging
import os

from django.conf import settings
from django.db import transaction

from cadrage import render as rendering
from cadrage.compose.extending import extends
from cadrage.errors import CadrageError, Cancelled, CannotWrite, Paused, SourceChanged
from cadrage.files import sweep
from cadrage.footage import ClipIdentity
from cadrage.inspection import inspect_file
from cadrage.inspection.sheet import digest_of
from cadrage.render.segments import finish, help_out
from cadrage.render.workspace import RenderWorkspace
from server.studio.actions import jobs
from server.studio.actions.analyses import settled
from server.studio.actions.calls import call, call_now, called
from server.studio.actions.jobs import held, save
from server.studio.actions.materials import library_of
from server.studio.actions.people import may_render_more
from server.studio.actions.plates import missing
from server.studio.actions.renders import follow_what_was_found, has_room, request_of, reuse_result
from server.studio.actions.turns import people_in_turn, waiting
from server.studio.models import Plate, Render

State = Render.State
MOST_HELPERS = 8
log = logging.getLogger(__name__)


def perform_next() -> None:
    """Render the first job of the next person in turn."""
    any(perform_for(person) for person in people_in_turn([Render]))


def perform_for(person: int) -> bool:
    """Render the first waiting job of a person that no other worker makes; return whether there was one.

    There is none while the disk is full, or while as many of theirs as may be are made.
    """
    if not has_room():
        waiting(Render, None).update(phase=Render.NO_ROOM)
        return False
    if not may_render_more(person):
        return False
    rows = Render.objects.select_related("framing__footage__project__owner")
    for number in list(waiting(Render, person).values_list("pk", flat=True)):
        job = rows.filter(pk=number).first()
        if job is None:
            continue
        with held(job) as mine:
            if mine and _ready(job) and _claim(job):
                _perform(job)
                return True
    return False


def _ready(job: Render) -> bool:
    """Update a render to the findings of its clip, which may have been ordered before the clip was analysed.

    Returns:
        Whether all analyses and plates exist. If not, the worker that makes the last of them calls for the render.
    """
    if job.attempts == 0:
        if not settled(job.framing.footage):
            return False
        try:
            follow_what_was_found(job)
            if not _plates_there(job):
                return False
        except CadrageError as error:  # the render fails with the same error
            log.info("Findings of a clip could not be applied: %s", error)
    return True


def _plates_there(job: Render) -> bool:
    """Return whether all plates of a render exist; start making the missing ones, which then call for the render.

    Raises:
        CadrageError: one cannot be made.
    """
    if not extends(job.plan):
        return True
    footage = job.framing.footage
    awaited = missing(job.plan, footage, library_of(footage, job.plan.interpretation))
    for row in awaited:
        if row.ended and row.state != Plate.State.DONE:
            problem = row.problem or f"Its scene extension was {row.state}"
            jobs.end(job, State.FAILED, problem=f"{footage.name}: {problem}", remedy=row.remedy or "Make it first.")
            return False
    if awaited:
        return False
    asked = request_of(job.plan, job.settings, footage)
    if job.identity != asked.key:
        save(job, identity=asked.key)
    return True


def _claim(job: Render) -> bool:
    """Claim a job whose lock is held; return whether it has to be rendered."""
    if Render.objects.filter(identity=job.identity, state=State.RUNNING).exclude(pk=job.pk).exists():
        return False  # another job makes the same file, which this one then reuses
    return not reuse_result(job) and jobs.claim(job)


def _perform(job: Render) -> None:
    footage = job.framing.footage
    try:
        request = _request(job)
        save(job, identity=request.key)  # of this version of the engine
        workspace = RenderWorkspace.create_or_resume(
            job.workspace.folder, request, job.workspace.root, settings.PART_SECONDS
        )
        _count_attempt(job, workspace)
        _call_helpers(workspace)
        finish(
            workspace,
            job.path,
            report=lambda progress: _report(job, workspace, progress),
            cancelled=lambda: Render.objects.filter(pk=job.pk, cancel_asked=True).exists(),
            paused=lambda: Render.objects.filter(pk=job.pk, pause_asked=True).exists(),
            replace=True,
        )
        save(job, phase="inspecting")
        inspection = inspect_file(job.path, request)
        digest = digest_of(job.path)
    except Cancelled:
        job.workspace.clear()
        jobs.end(job, State.CANCELLED)
    except Paused:
        _lay_aside(job)
    except CannotWrite as error:
        if has_room():
            _fail(job, error)
        else:  # it resumes once there is room again
            jobs.queue(job)
    except CadrageError as error:
        _fail(job, error)
    except Exception:
        jobs.end(job, State.FAILED, problem=f"{footage.name}: The render stopped unexpectedly.", remedy="Try again.")
        raise
    else:
        workspace.clear()
        jobs.end(job, State.DONE, report_json=inspection.model_dump(mode="json"), digest=digest)
    finally:
        call("render")  # for jobs that waited for this file or were ordered during the render


def _fail(job: Render, error: CadrageError) -> None:
    footage = job.framing.footage
    error.clip = None if error.clip == footage.path.name else error.clip
    jobs.end(job, State.FAILED, problem=f"{footage.name}: {error.problem}", remedy=error.remedy)


def _request(job: Render) -> rendering.RenderRequest:
    """Return the request of a job whose files are unchanged since it was ordered.

    Raises:
        SourceChanged: a file has changed. MissingSource, BadRequest: a file is missing.
    """
    asked = request_of(job.plan, job.settings, job.framing.footage)
    for name, now in asked.identities.items():
        then = ClipIdentity.model_validate(job.clips_json.get(name, now))
        if then.fingerprint != now.fingerprint:
            raise SourceChanged("The file was changed after the render was ordered.", remedy="Order it again.")
    return asked


def _count_attempt(job: Render, workspace: RenderWorkspace) -> None:
    """Store the progress at the start of this attempt, and whether the last attempt made any."""
    there = _parts_done(workspace)
    stalled = job.stalled_attempts + 1 if there == job.parts_done and job.attempts > 1 else 0
    parts = workspace.stored.count * len(workspace.stages)
    save(job, parts=parts, parts_done=there, stalled_attempts=stalled, phase="rendering")


def _parts_done(workspace: RenderWorkspace) -> int:
    return sum(workspace.stored.count - len(workspace.undone(stage)) for stage in workspace.stages)


def _call_helpers(workspace: RenderWorkspace) -> None:
    """Ask other workers to draw parts with this one."""
    for _ in range(min(MOST_HELPERS, sum(len(workspace.undone(stage)) for stage in workspace.stages) - 1)):
        call_now("part", workspace.folder.name)


def draw_part(name: str) -> None:
    """Draw one part of a render that another worker finishes.

    Uses the media folder and no database, so that workers on other machines can help.

    Args:
        name: of the workspace's folder.
    """
    workspace = RenderWorkspace(settings.RENDERS_DIR / os.path.basename(name), settings.MEDIA_DIR)  # noqa: PTH119 - never a path
    try:
        if (
            workspace.has_request
            and workspace.ours
            and not workspace.paused
            and help_out(workspace, stopped=lambda: not workspace.has_request)
        ):
            call_now("part", name)
    except CadrageError as error:
        if workspace.has_request:  # the worker that finishes the render reports the same error
            log.warning("A part was not drawn: %s", error)


def _report(job: Render, workspace: RenderWorkspace, progress: rendering.Progress) -> None:
    save(
        job,
        done=progress.done // len(workspace.stages),
        total=progress.total // len(workspace.stages),
        frames_per_second=progress.frames_per_second / len(workspace.stages),
        seconds_left=progress.seconds_left,
        parts_done=_parts_done(workspace),
        phase=_phase(workspace),
    )


def _phase(workspace: RenderWorkspace) -> str:
    return {"measure": "measuring", "draw": "rendering", None: "joining"}[workspace.stage]


def _lay_aside(job: Render) -> None:
    job.workspace.pause()  # resuming the render clears this flag
    with transaction.atomic():
        row = Render.objects.select_for_update().get(pk=job.pk)
        if row.pause_asked:
            jobs.end(job, State.PAUSED)
        else:  # it was resumed in between
            jobs.queue(job)


def pick_up() -> None:
    """Recover renders of dead workers, and call for queued renders without a call.

    A call may be lost when it arrives while the render is still locked. Workers run this periodically.
    """
    rows = Render.objects.filter(state=State.RUNNING).select_related("framing__footage")
    jobs.pick_up(rows, _swept)
    made = Render.objects.filter(state=State.RUNNING).values("identity")
    if not called("render") and waiting(Render, None).exclude(identity__in=made).exists():
        call("render")


def _swept(row: Render) -> None:
    """Remove unfinished output; finished parts stay."""
    sweep(row.path.parent)
    if row.cancel_asked:
        row.workspace.clear()
