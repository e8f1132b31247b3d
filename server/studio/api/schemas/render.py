"""Renders."""

from datetime import datetime
from typing import Literal

from ninja import Schema
from pydantic import Field

from cadrage.inspection import Inspection
from cadrage.render.offers import PLAYABLE, settings_summary
from server.studio.actions.clearing import kept
from server.studio.actions.framing_plans import plan_of
from server.studio.actions.renders import Place
from server.studio.actions.rules import RuleBook
from server.studio.models import Project, Render


class RendersIn(Schema):
    """Framings to render."""

    framings: list[int] = Field(max_length=5000)


class QueueIn(Schema):
    """What to do with all renders of a project that are waiting or at work."""

    do: Literal["pause", "resume", "cancel"]


class PlaceIn(Schema):
    """Where in the queue."""

    place: Place


class KeepIn(Schema):
    """For how long results are kept; null is for ever, and without end."""

    days: int | None = Field(default=None, ge=1, le=3650)
    gigabytes: float | None = Field(default=None, gt=0, le=1_000_000)


class KeptOut(Schema):
    """What a rule about results means now."""

    days: int | None
    gigabytes: float | None
    files: int
    bytes: int
    due: int
    due_bytes: int
    next_due: datetime | None

    @classmethod
    def of(cls, project: Project, given: KeepIn | None = None) -> "KeptOut":
        """Of a project's own rule, or of one that is not in force yet."""
        days, gigabytes = (given.days, given.gigabytes) if given else (project.keep_days, project.keep_gigabytes)
        found = kept(project, days, gigabytes)
        return cls(
            days=days,
            gigabytes=gigabytes,
            files=found.files,
            bytes=found.bytes,
            due=len(found.due),
            due_bytes=found.due_bytes,
            next_due=found.next_due,
        )


class QueueOut(Schema):
    """All renders of a project that are not over, together."""

    running: int
    waiting: int
    paused: int
    done: int
    total: int
    frames_per_second: float
    seconds_left: float | None
    free: int
    kept: KeptOut

    @classmethod
    def of(cls, project: Project, free: int) -> "QueueOut":
        """As it stands."""
        all_rows = Render.objects.filter(framing__footage__project=project).exclude(state__in=Render.ENDED)
        rows = list(all_rows.only("state", "frames_per_second", "total", "done"))
        states = [row.state for row in rows]
        active = [row for row in rows if row.state != Render.State.PAUSED]
        speed = sum(row.frames_per_second for row in active if row.state == Render.State.RUNNING)
        total, done = sum(row.total for row in active), sum(row.done for row in active)
        return cls(
            running=states.count(Render.State.RUNNING),
            waiting=states.count(Render.State.QUEUED),
            paused=states.count(Render.State.PAUSED),
            done=done,
            total=total,
            frames_per_second=speed,
            seconds_left=(total - done) / speed if speed else None,
            free=free,
            kept=KeptOut.of(project),
        )


class RenderOut(Schema):
    """A render and how far it is."""

    id: int
    framing: int
    footage: int
    frame: int
    clip: str
    into: str
    file: str
    playable: bool
    state: str
    rank: float
    doing: str
    done: int
    total: int
    frames_per_second: float
    seconds_left: float | None
    attempts: int
    parts: int
    parts_done: int
    problem: str
    remedy: str
    report: Inspection | None
    size: int
    seconds: float
    cleared: datetime | None
    current: bool
    ordered: datetime
    finished: datetime | None

    @classmethod
    def of(cls, row: Render, book: RuleBook | None = None) -> "RenderOut":
        """From its row; the project's rules need be read only once for many."""
        framing = row.framing
        return cls(
            id=row.pk,
            framing=framing.pk,
            footage=framing.footage_id,
            frame=framing.frame_id,
            clip=framing.footage.name,
            into=str(framing.frame),
            file=settings_summary(row.plan.frame, row.settings),
            playable=row.settings.kind in PLAYABLE,
            state=row.state,
            rank=row.rank,
            doing=_doing(row),
            done=row.done,
            total=row.total,
            frames_per_second=row.frames_per_second,
            seconds_left=row.seconds_left,
            attempts=row.attempts,
            parts=row.parts,
            parts_done=row.parts_done,
            problem=row.problem,
            remedy=row.remedy,
            report=row.report_json,
            size=row.size,
            seconds=row.seconds,
            cleared=row.cleared,
            current=row.plan == plan_of(framing, book) and row.settings == framing.frame.settings,
            ordered=row.ordered,
            finished=row.finished,
        )


def _doing(row: Render) -> str:
    """What it is at, or is about to do because somebody asked."""
    if row.state == Render.State.RUNNING:
        if row.cancel_asked:
            return "stopping"
        if row.pause_asked:
            return "pausing once this part is done"
    return "waiting until the disk has room and can be written" if row.phase == Render.NO_ROOM else row.phase
