"""Renders: jobs that write files."""

from collections.abc import Container
from functools import cached_property
from pathlib import Path, PurePath

from django.conf import settings
from django.db import models

from cadrage.plan import Plan
from cadrage.render import KINDS, Settings
from cadrage.render.names import file_name
from server.studio.models.framing import Framing


class Render(models.Model):
    """One job: a plan as it was when it was ordered, how far it is, and what came of it."""

    class State(models.TextChoices):
        """Where a job stands."""

        QUEUED = "queued"
        RUNNING = "running"
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"

    ENDED = (State.DONE, State.FAILED, State.CANCELLED)

    framing = models.ForeignKey(Framing, models.CASCADE, related_name="renders")
    plan_json = models.JSONField()
    settings_json = models.JSONField(default=dict)
    state = models.CharField(max_length=10, choices=State.choices, default=State.QUEUED)
    doing = models.CharField(max_length=40, default="waiting")
    done = models.PositiveIntegerField(default=0)
    total = models.PositiveIntegerField(default=0)
    frames_per_second = models.FloatField(default=0)
    seconds_left = models.FloatField(null=True)
    attempts = models.PositiveIntegerField(default=0)
    cancel_asked = models.BooleanField(default=False)
    heartbeat = models.DateTimeField(null=True)
    problem = models.TextField(default="")
    remedy = models.TextField(default="")
    digest = models.CharField(max_length=64, blank=True, default="")
    report_json = models.JSONField(null=True)
    ordered = models.DateTimeField(auto_now_add=True)
    finished = models.DateTimeField(null=True)

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
        return file_name(self.settings.names, parts, self.path.suffix, taken)

    @property
    def path(self) -> Path:
        """Where the finished file lies."""
        return Path(settings.RENDERS_DIR) / f"{self.pk}{KINDS[self.settings.kind].suffix}"
