"""Renders: order, retry, cancel, move and remove them."""

import os
import shutil
from collections.abc import Callable, Iterable
from fractions import Fraction
from pathlib import Path
from typing import Literal

from django.conf import settings
from django.db import transaction
from django.db.models import QuerySet

from cadrage import output
from cadrage import render as rendering
from cadrage.compose.following import unsolved
from cadrage.errors import BadRequest, CannotWrite
from cadrage.files import remove as remove_files
from cadrage.footage import ClipIdentity, Interpretation, probe
from cadrage.plan import Plan
from server.studio.actions import jobs
from server.studio.actions.calls import call
from server.studio.actions.footage import check_there
from server.studio.actions.framing_plans import loaded, plan_of
from server.studio.actions.jobs import save
from server.studio.actions.materials import library_of
from server.studio.actions.people import check_allowed
from server.studio.actions.previews import in_turn, previewer
from server.studio.models import Footage, Framing, Project, Render

State = Render.State
Place = Literal["first", "earlier", "later", "last"]
AS_IT_IS = Interpretation(fields="progressive")
LEAST_ROOM = 200 * 2**20
"""Free bytes below which no render starts."""


def order(framing: Framing) -> Render:
    """Order a render of a framing as it is now, as `order_all` does for many."""
    return order_all([framing])[0]


def order_all(framings: Iterable[Framing]) -> list[Render]:
    """Order renders of framings as they are now, or none of them if one is refused.

    A queued or running render of the same file is returned instead of a new one; a finished one gives its file at once.

    Raises:
        BadRequest: a frame cannot be encoded, or uses something that was removed. MissingSource: a file is missing.
        CannotWrite: the disk is full. NoRoom: the owner's quota is used up.
    """
    jobs = [_prepared(framing) for framing in framings]
    new = [job for job in jobs if job.pk is None]
    if new:
        _check_room()
    for project in {job.framing.footage.project for job in new}:
        check_allowed(project)
    with transaction.atomic():  # all that takes time is done before and after
        for job in new:
            job.save()
    for job in new:
        if not reuse_result(job):
            call("render")
    return jobs


def _prepared(framing: Framing) -> Render:
    """Return the job that renders a framing as it is now; a new one is not stored yet."""
    plan, how = plan_of(framing), framing.frame.settings
    output.check_decided(how, plan.frame, framing.footage.name)
    check_renderable(framing, plan)
    asked = request_of(plan, how, framing.footage)
    identity = asked.key
    waiting = framing.renders.filter(identity=identity).exclude(state__in=Render.ENDED).first()
    if waiting is not None:
        return waiting
    return Render(
        framing=framing,
        plan_json=plan.model_dump(mode="json"),
        settings_json=how.model_dump(mode="json"),
        clips_json=_clips(asked),
        total=asked.wanted.frames,
        identity=identity,
    )


def check_renderable(framing: Framing, plan: Plan) -> None:
    """Check that a framing's file can be made, apart from the decision about bars.

    Raises:
        BadRequest: its clip is still being analysed, or its frame cannot be encoded.
        UnreadableFile: its clip is damaged where that stops a render. MissingSource: the clip's file is missing.
    """
    how, name = framing.frame.settings, framing.footage.name
    _check_ways(framing, plan)
    output.check_undamaged(how, framing.footage.info, name)
    output.encoder_config(how, rendering.frame_written(plan.frame, how), name)
    check_there(framing.footage)


def _check_ways(framing: Framing, plan: Plan) -> None:
    """Check that the analysis which a following window needs has ended.

    Raises:
        BadRequest: its clip is still being analysed.
    """
    looking = framing.footage.analysis("following")
    if unsolved(plan) and looking is not None and not looking.ended:
        raise BadRequest(
            "Its window follows a subject, and the clip is still being analysed.",
            remedy="Wait for the analysis, or choose another movement.",
            clip=framing.footage.name,
        )


def request_of(plan: Plan, how: output.Settings, footage: Footage) -> rendering.RenderRequest:
    """The render request of a plan of a clip."""
    library = library_of(footage, plan.interpretation)
    return rendering.RenderRequest(plan, footage.path, footage.info, library, how, footage.name, footage.identity_now)


def _clips(asked: rendering.RenderRequest) -> dict[str, object]:
    return {name: one.model_dump() for name, one in asked.identities.items()}


def follow_what_was_found(job: Render) -> None:
    """Update a job that was ordered before its clip was analysed to the findings of the analysis."""
    rows = Framing.objects.select_related("footage__project", "frame")
    seen, unseen = rows.get(pk=job.framing_id), rows.get(pk=job.framing_id)
    unseen.footage.found = {}
    now, before, plan = plan_of(seen), plan_of(unseen), job.plan
    if plan == before:
        plan = now
    elif plan.interpretation == before.interpretation:  # the framing has changed: use only the interpretation
        plan = plan.model_copy(update={"interpretation": now.interpretation})
    if plan != job.plan:
        asked = request_of(plan, job.settings, seen.footage)
        keys = dict(seen.footage.analyses.filter(state=State.DONE).values_list("kind", "key"))
        save(
            job,
            plan_json=plan.model_dump(mode="json"),
            analyses_json=keys,
            clips_json=_clips(asked),
            total=asked.wanted.frames,
            identity=asked.key,
        )


def reuse_result(job: Render) -> bool:
    """Give a job the file of a finished render of the same; return whether there was one. The file is a hard link."""
    for twin in Render.objects.filter(identity=job.identity, state=State.DONE, cleared=None).exclude(pk=job.pk):
        if not twin.file_exists:
            continue
        try:
            _link(twin.path, job.path)
        except OSError:
            continue
        save(job, total=twin.total, done=twin.total, report_json=twin.report_json, digest=twin.digest)
        jobs.end(job, State.DONE)
        return True
    return False


def _link(path: Path, target: Path) -> None:
    """Hard-link a file, or every file of a folder, to another name."""
    if path.is_dir():
        shutil.copytree(path, target, copy_function=lambda one, other: Path(other).hardlink_to(one))
    else:
        target.hardlink_to(path)


def free_bytes() -> int:
    """Free bytes on the disk of the rendered files."""
    return shutil.disk_usage(settings.RENDERS_DIR).free


def has_room() -> bool:
    """Whether the disk has room for another render, and its folder can be written."""
    return free_bytes() >= LEAST_ROOM and os.access(settings.RENDERS_DIR, os.W_OK)


def _check_room() -> None:
    free = free_bytes()
    if free < LEAST_ROOM:
        raise CannotWrite(
            f"The disk for results has {free // 2**20} MiB left.",
            remedy="Remove old renders or make room, then order again.",
        )


def retry(job: Render) -> Render:
    """Queue a render again that failed, was cancelled or whose file was deleted, exactly as it was ordered.

    Raises:
        BadRequest: the render has not failed.
    """
    if job.state not in (State.FAILED, State.CANCELLED) and job.cleared is None:
        raise BadRequest("This render has not failed.", remedy="Order another where it is framed.")
    check_there(job.framing.footage)
    _check_room()
    asked = request_of(job.plan, job.settings, job.framing.footage)
    jobs.begin_anew(
        job, clips_json=_clips(asked), identity=asked.key, cleared=None, report_json=None, seconds_left=None
    )
    call("render")
    return job


def cancel(job: Render) -> Render:
    """Ask a render to stop; one that is queued or paused stops at once.

    Raises:
        BadRequest: it has ended.
    """
    job = jobs.cancel(job)
    if job.ended:
        transaction.on_commit(job.workspace.clear)
    return job


def each(rows: QuerySet[Render], verb: Callable[[Render], Render]) -> None:
    """Call an action on each render; skip those that refuse it."""
    for row in rows:
        try:
            verb(row)
        except BadRequest:
            continue  # its state has changed in between


def move(job: Render, place: Place) -> None:
    """Move a queued render within the queue of its project.

    Raises:
        BadRequest: the render is not queued.
    """
    with transaction.atomic():
        rows = list(waiting(job.framing.footage.project).select_for_update())
        ids = [row.pk for row in rows]
        if job.pk not in ids:
            raise BadRequest("This render is no longer queued.", remedy="Reload the page.")
        ranks, at = [row.rank for row in rows], ids.index(job.pk)
        target = {"first": 0, "earlier": max(0, at - 1), "later": at + 1, "last": len(rows)}[place]
        rows.insert(target, rows.pop(at))
        for row, rank in zip(rows, ranks, strict=True):
            save(row, rank=rank)


def waiting(project: Project) -> QuerySet[Render]:
    """The queued renders of a project, in their order."""
    return Render.objects.filter(framing__footage__project=project, state=State.QUEUED).order_by("rank", "pk")


def newest(project: Project, most: int) -> list[Render]:
    """The renders of a project, newest first, with the present plans of their framings loaded."""
    rows = Render.objects.filter(framing__footage__project=project, framing__footage__removed__isnull=True)
    related = rows.select_related("framing__footage__project", "framing__frame")
    found = list(related.prefetch_related("framing__footage__analyses")[:most])
    loaded([row.framing for row in found])
    return found


def remove(job: Render) -> None:
    """Remove an ended render and its file.

    Raises:
        BadRequest: the render is still running.
    """
    if not job.ended:
        raise BadRequest("This render is still at work.", remedy="Cancel it first.", clip=job.framing.footage.name)
    path, workspace, lock = job.path, job.workspace, job.lock
    job.delete()
    for one in (path, workspace.folder, lock):
        transaction.on_commit(lambda one=one: remove_files(one))


def picture(job: Render, time: Fraction, width: int, *, asked: bool) -> bytes:
    """A frame of a finished file as a JPEG: measured from the file, or as the plan composes it."""
    footage, plan = job.framing.footage, job.plan
    if not asked:
        info, written = probe(job.path), ClipIdentity.of(job.path)
        moment = min(time, info.duration)
        return in_turn(
            lambda: previewer.picture(job.path, info, AS_IT_IS, moment, width, written),
            heavy=previewer.is_heavy(info, written),
        )
    request = rendering.RenderRequest(plan, footage.path, footage.info, settings=job.settings)
    moment = request.timing.start + time * request.timing.speed
    library = library_of(footage, plan.interpretation, previewer.store)
    own, info = footage.identity_now, footage.info
    return in_turn(
        lambda: previewer.image(request.written, footage.path, info, moment, width, library=library, identity=own),
        heavy=previewer.is_heavy(info, own, request.written, library),
    )
