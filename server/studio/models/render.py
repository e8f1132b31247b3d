"""Renders: jobs that write files."""

import time
from collections.abc import Container
from functools import cached_property
from pathlib import Path, PurePath

from django.conf import settings
from django.db import models

from cadrage.errors import BadRequest
from cadrage.files import files_of
from cadrage.plan import Plan
from cadrage.render import KINDS, Settings, delivered
from cadrage.render.desk import Desk
from cadrage.render.names import file_name
from server.studio.models.framing import Framing


class Render(models.Model):
    """One job: a plan as it was when it was ordered, how far it is, and what came of it.

    Jobs are taken by `rank`. `identity` is the same for jobs that make the same file. `in_vain` counts attempts since
    a part was last finished. A file that was `cleared` is not there any more, but what was measured of it is.
    """

    class State(models.TextChoices):
        """Where a job stands."""

        QUEUED = "queued"
        RUNNING = "running"
        PAUSED = "paused"
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"

    ENDED = (State.DONE, State.FAILED, State.CANCELLED)

    framing = models.ForeignKey(Framing, models.CASCADE, related_name="renders")
    plan_json = models.JSONField()
    settings_json = models.JSONField(default=dict)
    state = models.CharField(max_length=10, choices=State.choices, default=State.QUEUED)
    rank = models.FloatField(default=time.time)
    identity = models.CharField(max_length=64, blank=True, default="", db_index=True)
    doing = models.CharField(max_length=40, default="waiting")
    done = models.PositiveIntegerField(default=0)
    total = models.PositiveIntegerField(default=0)
    frames_per_second = models.FloatField(default=0)
    seconds_left = models.FloatField(null=True)
    attempts = models.PositiveIntegerField(default=0)
    parts_done = models.PositiveIntegerField(default=0)
    parts = models.PositiveIntegerField(default=0)
    in_vain = models.PositiveIntegerField(default=0)
    cancel_asked = models.BooleanField(default=False)
    pause_asked = models.BooleanField(default=False)
    problem = models.TextField(default="")
    remedy = models.TextField(default="")
    digest = models.CharField(max_length=64, blank=True, default="")
    report_json = models.JSONField(null=True)
    ordered = models.DateTimeField(auto_now_add=True)
    finished = models.DateTimeField(null=True)
    cleared = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return f"render {self.pk} of {self.framing}"

    @property
    def plan(self) -> Plan:
        """What was ordered."""
        return Plan.model_validate(self.plan_json)

    @cached_property
    def settings(self) -> Settings:
        """How the file is written."""
        return Settings.model_validate(self.settings_json)

    def name_among(self, taken: Container[str] = ()) -> str:
        """What the file is called where it is handed over, unlike what others are called."""
        framing = self.framing
        frame = self.plan.frame
        parts = {
            "project": framing.footage.project.name,
            "clip": PurePath(framing.footage.name).stem,
            "frame": frame.name,
            "width": str(frame.width),
            "height": str(frame.height),
            "settings": self.settings.name,
        }
        return file_name(self.settings.names, parts, KINDS[self.settings.kind].suffix, taken)

    @property
    def path(self) -> Path:
        """Where the finished file lies, or the folder for a kind that is one."""
        return Path(settings.RENDERS_DIR) / f"{self.pk}{KINDS[self.settings.kind].suffix}"

    @property
    def desk(self) -> Desk:
        """Where its parts are drawn."""
        return Desk(Path(settings.RENDERS_DIR) / f".desk-{self.pk}", Path(settings.MEDIA_DIR))

    @property
    def lock(self) -> Path:
        """The file that whoever is at work on it holds locked."""
        return Path(settings.RENDERS_DIR) / f".lock-{self.pk}"

    @property
    def seconds(self) -> float:
        """How long the file lasts; 0 where the clip was replaced by one that cannot be delivered so."""
        try:
            return float(delivered(self.plan, self.framing.footage.facts, self.settings).duration)
        except BadRequest:
            return 0.0

    @property
    def there(self) -> bool:
        """Whether it is done and its file can be had."""
        return self.state == self.State.DONE and self.cleared is None and self.path.exists()

    @property
    def size(self) -> int:
        """Bytes of the file; 0 where there is none."""
        return sum(file.stat().st_size for file in files_of(self.path)) if self.there else 0
