"""Renders: ordering them, and what people do with those that were ordered."""

import hashlib
import json
import shutil
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path
from typing import Literal

from django.conf import settings
from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from cadrage import render as rendering
from cadrage.errors import BadRequest, CannotWrite
from cadrage.files import remove as remove_files
from cadrage.footage import Interpretation, Library, probe
from cadrage.footage.fingerprint import fingerprint
from cadrage.plan import Plan
from server.studio.actions.footage import check_there
from server.studio.actions.framings import plan_of
from server.studio.actions.looking import looker
from server.studio.actions.materials import library_of
from server.studio.models import Footage, Framing, Project, Render

State = Render.State
Place = Literal["first", "earlier", "later", "last"]
AS_IT_IS = Interpretation(fields="progressive")
LEAST_ROOM = 200 * 2**20
"""Nothing is begun where less is free."""


def order(framing: Framing) -> Render:
    """Order a render of a framing as it is now. One that is waiting or at work and makes the same file is that order;
    one that has made it gives its file at once.

    Raises:
        BadRequest: its frame cannot be encoded, or what it uses is not there. MissingSource: its file is missing.
        CannotWrite: there is next to no room.
    """
    plan = plan_of(framing)
    how = framing.frame.settings
    rendering.check_decided(how, plan.frame, framing.footage.name)
    rendering.check_undamaged(how, framing.footage.facts, framing.footage.name)
    rendering.writing_of(how, rendering.frame_written(plan.frame, how), framing.footage.name)
    check_there(framing.footage)
    library = library_of(framing.footage, plan.interpretation)
    for name in plan.names:
        library.material(name)
    identity = identity_of(plan, how, framing.footage, library)
    waiting = framing.renders.filter(identity=identity).exclude(state__in=Render.ENDED).first()
    if waiting is not None:
        return waiting
    _check_room()
    job = Render(
        framing=framing,
        plan_json=plan.model_dump(mode="json"),
        settings_json=how.model_dump(mode="json"),
        total=rendering.delivered(plan, framing.footage.facts, how).frames,
        identity=identity,
    )
    job.save()
    if not adopt(job):
        wake()
    return job


def identity_of(plan: Plan, how: rendering.Settings, footage: Footage, library: Library) -> str:
    """What tells whether two orders make the same file: plan, settings, and the state of every file that is used."""
    paths = [footage.path, *(library.material(name).path for name in plan.names)]
    said = {
        "plan": plan.model_dump(mode="json", exclude={"source"}),
        "settings": how.model_dump(mode="json", exclude={"name", "names"}),
        "files": [f"{path} {fingerprint(path)}" for path in paths],
    }
    return hashlib.sha256(json.dumps(said, sort_keys=True).encode()).hexdigest()


def follow_what_was_found(job: Render) -> None:
    """Let an order that came before anybody had looked at its clip be of the clip as it was found to be."""
    rows = Framing.objects.select_related("footage__project", "frame")
    seen, unseen = rows.get(pk=job.framing_id), rows.get(pk=job.framing_id)
    unseen.footage.fields_json = unseen.footage.copy_json = None
    now, before, plan = plan_of(seen), plan_of(unseen), job.plan
    if plan == before:
        plan = now
    elif plan.interpretation == before.interpretation:  # it was framed otherwise since; only the clip is another
        plan = plan.model_copy(update={"interpretation": now.interpretation})
    if plan != job.plan:
        library = library_of(seen.footage, plan.interpretation)
        save(
            job,
            plan_json=plan.model_dump(mode="json"),
            total=rendering.delivered(plan, seen.footage.facts, job.settings).frames,
            identity=identity_of(plan, job.settings, seen.footage, library),
        )


def adopt(job: Render) -> bool:
    """Give a job the file of one that made the same; says whether there was one. The two files are one on the disk."""
    for twin in Render.objects.filter(identity=job.identity, state=State.DONE, cleared=None).exclude(pk=job.pk):
        if not twin.there:
            continue
        try:
            _link(twin.path, job.path)
        except OSError:
            continue
        save(job, total=twin.total, done=twin.total, report_json=twin.report_json, digest=twin.digest)
        end(job, State.DONE)
        return True
    return False


def _link(path: Path, target: Path) -> None:
    """The same file, or folder of files, under another name."""
    if path.is_dir():
        shutil.copytree(path, target, copy_function=lambda one, other: Path(other).hardlink_to(one))
    else:
        target.hardlink_to(path)


def wake() -> None:
    """Tell the workers that there is something to do."""
    from server.studio.tasks import render_task  # noqa: PLC0415 - the task calls verbs that stand on these

    transaction.on_commit(render_task.enqueue)


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
    """Let a render that failed, was cancelled, or whose file was cleared, be done just as it was ordered then.

    Raises:
        BadRequest: it has not ended so.
    """
    if job.state not in (State.FAILED, State.CANCELLED) and job.cleared is None:
        raise BadRequest("This render has not failed.", remedy="Order another where it is framed.")
    check_there(job.framing.footage)
    _check_room()
    library = library_of(job.framing.footage, job.plan.interpretation)
    save(
        job,
        identity=identity_of(job.plan, job.settings, job.framing.footage, library),
        cancel_asked=False,
        pause_asked=False,
        cleared=None,
        problem="",
        remedy="",
        report_json=None,
        attempts=0,
        in_vain=0,
    )
    _queue(job)
    return job


def _queue(job: Render) -> None:
    save(job, state=State.QUEUED, doing="waiting", seconds_left=None, finished=None)
    wake()


def cancel(job: Render) -> Render:
    """Ask a render to stop; one that waits or was laid aside stops at once.

    Raises:
        BadRequest: it has ended.
    """
    return _ask(job, "cancel_asked", State.CANCELLED)


def pause(job: Render) -> Render:
    """Ask a render to be laid aside, once the part at hand is done; one that waits is laid aside at once.

    Raises:
        BadRequest: it has ended.
    """
    return _ask(job, "pause_asked", State.PAUSED)


def _ask(job: Render, what: str, at_once: Render.State) -> Render:
    with transaction.atomic():
        job = Render.objects.select_for_update().get(pk=job.pk)
        if job.state in Render.ENDED:
            raise BadRequest("This render has already ended.", remedy="Order a new one.", clip=job.framing.footage.name)
        save(job, **{what: True})
        if job.state != State.RUNNING:
            end(job, at_once)
            if at_once == State.CANCELLED:
                transaction.on_commit(job.desk.clear)
    return job


def resume(job: Render) -> Render:
    """Let a render that was laid aside go on where it was.

    Raises:
        BadRequest: it was not.
    """
    with transaction.atomic():
        job = Render.objects.select_for_update().get(pk=job.pk)
        if job.state != State.PAUSED and not job.pause_asked:
            raise BadRequest("This render was not laid aside.", remedy="Look at where it stands.")
        save(job, pause_asked=False)
        if job.state == State.PAUSED:
            _queue(job)
    return job


def each(rows: QuerySet[Render], verb: Callable[[Render], Render]) -> None:
    """Do something with all of some renders that it can be done with."""
    for row in rows:
        try:
            verb(row)
        except BadRequest:
            continue  # it ended, or went on, meanwhile


def move(job: Render, place: Place) -> None:
    """Let a render that waits be done earlier or later among those of its project that wait.

    Raises:
        BadRequest: it does not wait.
    """
    with transaction.atomic():
        rows = list(waiting(job.framing.footage.project).select_for_update())
        ids = [row.pk for row in rows]
        if job.pk not in ids:
            raise BadRequest("This render does not wait any more.", remedy="Look at where it stands.")
        ranks, at = [row.rank for row in rows], ids.index(job.pk)
        target = {"first": 0, "earlier": max(0, at - 1), "later": at + 1, "last": len(rows)}[place]
        rows.insert(target, rows.pop(at))
        for row, rank in zip(rows, ranks, strict=True):
            save(row, rank=rank)


def waiting(project: Project) -> QuerySet[Render]:
    """The renders of a project that wait, in the order they are taken."""
    return Render.objects.filter(framing__footage__project=project, state=State.QUEUED).order_by("rank", "pk")


def remove(job: Render) -> None:
    """Take an ended render and its file away.

    Raises:
        BadRequest: it has not ended.
    """
    if job.state not in Render.ENDED:
        raise BadRequest("This render is still at work.", remedy="Cancel it first.", clip=job.framing.footage.name)
    path, desk, lock = job.path, job.desk, job.lock
    job.delete()
    for one in (path, desk.folder, lock):
        transaction.on_commit(lambda one=one: remove_files(one))


def picture(job: Render, time: Fraction, width: int, *, asked: bool) -> bytes:
    """One moment of a finished file as a JPEG: as it is, or as the plan asks for it."""
    footage, plan = job.framing.footage, job.plan
    if not asked:
        facts = probe(job.path)
        return looker.picture(job.path, facts, AS_IT_IS, min(time, facts.duration), width)
    order = rendering.Order(plan, footage.path, footage.facts, settings=job.settings)
    moment = order.pace.start + time * order.pace.speed
    library = library_of(footage, plan.interpretation, looker.store)
    return looker.image(order.written, footage.path, footage.facts, moment, width, library=library)


def end(job: Render, state: Render.State, **more: object) -> None:
    """Put a job into a state in which nobody works on it."""
    save(job, state=state, doing="", seconds_left=None, finished=timezone.now(), **more)


def save(job: Render, **fields: object) -> None:
    """Set and store some fields, and no others."""
    for name, value in fields.items():
        setattr(job, name, value)
    job.save(update_fields=list(fields))
