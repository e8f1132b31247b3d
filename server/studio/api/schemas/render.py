"""Renders."""

from datetime import datetime

from ninja import Schema
from pydantic import Field

from cadrage.render import Inspection
from cadrage.render.words import PLAYABLE, file_words
from server.studio.actions.framings import plan_of
from server.studio.actions.rules import RuleBook
from server.studio.models import Render


class RendersIn(Schema):
    """Framings to render."""

    framings: list[int] = Field(max_length=5000)


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
    doing: str
    done: int
    total: int
    frames_per_second: float
    seconds_left: float | None
    attempts: int
    problem: str
    remedy: str
    report: Inspection | None
    size: int
    current: bool
    ordered: datetime
    finished: datetime | None

    @classmethod
    def of(cls, row: Render, book: RuleBook | None = None) -> "RenderOut":
        """From its row; the project's rules need be read only once for many."""
        framing = row.framing
        finished = row.state == Render.State.DONE and row.path.exists()
        return cls(
            id=row.pk,
            framing=framing.pk,
            footage=framing.footage_id,
            frame=framing.frame_id,
            clip=framing.footage.name,
            into=str(framing.frame),
            file=file_words(row.plan.frame, row.settings),
            playable=row.settings.kind in PLAYABLE,
            state=row.state,
            doing="stopping" if row.cancel_asked and row.state == Render.State.RUNNING else row.doing,
            done=row.done,
            total=row.total,
            frames_per_second=row.frames_per_second,
            seconds_left=row.seconds_left,
            attempts=row.attempts,
            problem=row.problem,
            remedy=row.remedy,
            report=row.report_json,
            size=row.path.stat().st_size if finished else 0,
            current=row.plan == plan_of(framing, book) and row.settings == framing.frame.settings,
            ordered=row.ordered,
            finished=row.finished,
        )
