"""What every job has: something that a worker does, and that people see, stop and try again."""

import time
from pathlib import Path
from typing import ClassVar

from django.db import models


class Job(models.Model):
    """A job: its state, progress and problem.

    Jobs are taken by `rank`. `phase` says what is being done. `done` of `total` units are. `stalled_attempts` counts
    attempts since anything came of one. While somebody works on a job, its lock is held. `call_name` is the name under
    which workers are called for its kind, and `owner_path` how queries reach the person whose project it works for.
    """

    call_name: ClassVar[str]
    owner_path: ClassVar[str]

    class State(models.TextChoices):
        """Where a job stands."""

        QUEUED = "queued"
        RUNNING = "running"
        PAUSED = "paused"
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"

    ENDED = (State.DONE, State.FAILED, State.CANCELLED)
    NEXT: ClassVar[dict[State, frozenset[State]]] = {
        State.QUEUED: frozenset((State.RUNNING, State.PAUSED, State.DONE, State.FAILED, State.CANCELLED)),
        State.RUNNING: frozenset((State.QUEUED, State.PAUSED, State.DONE, State.FAILED, State.CANCELLED)),
        State.PAUSED: frozenset((State.QUEUED, State.CANCELLED)),
        State.DONE: frozenset((State.QUEUED,)),
        State.FAILED: frozenset((State.QUEUED,)),
        State.CANCELLED: frozenset((State.QUEUED,)),
    }
    """Which states a job may come into from each; there is no other way. One that waits is done where another made the
    same, and fails where what it needs cannot be made; one that is done is queued again where its result was taken
    away, or its clip is another."""

    state = models.CharField(max_length=10, choices=State.choices, default=State.QUEUED)
    rank = models.FloatField(default=time.time)
    phase = models.CharField(max_length=40, default="waiting")
    done = models.PositiveIntegerField(default=0)
    total = models.PositiveIntegerField(default=0)
    attempts = models.PositiveIntegerField(default=0)
    stalled_attempts = models.PositiveIntegerField(default=0)
    cancel_asked = models.BooleanField(default=False)
    pause_asked = models.BooleanField(default=False)
    problem = models.TextField(default="")
    remedy = models.TextField(default="")
    finished = models.DateTimeField(null=True)

    class Meta:
        abstract = True

    @property
    def ended(self) -> bool:
        """Whether it has ended, until a person retries it."""
        return self.state in self.ENDED

    @property
    def lock(self) -> Path:
        """The file that the worker of it holds locked."""
        raise NotImplementedError

    @property
    def owner_name(self) -> str:
        """The name of the person whose project it works for."""
        raise NotImplementedError

    @property
    def clip_name(self) -> str:
        """What the clip is called that it is about."""
        raise NotImplementedError
