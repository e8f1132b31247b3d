"""Renders: jobs that write files."""

from collections.abc import Container
from functools import cached_property
from pathlib import Path, PurePath

from django.conf import settings
from django.db import models

from cadrage.errors import BadRequest
from cadrage.files import files_of
from cadrage.formats import Frame
from cadrage.output import OUTPUT_FORMATS, Settings
from cadrage.output.names import file_name
from cadrage.plan import Plan
from cadrage.render import delivered
from cadrage.render.workspace import RenderWorkspace
from server.studio.models.framing import Framing
from server.studio.models.job import Job


class Render(Job):
    """One job: a plan as ordered, its progress, and its result.

    `identity` is the key of the result, the same for jobs that make the same file; `clips_json` says which files it
    was ordered of, and `analyses_json` on which analyses of its clip its plan rests, by kind. A file that was
    `cleared` is not there any more, but what was measured of it is.
    """

    call_name = "render"
    owner_path = "framing__footage__project__owner"
    NO_ROOM = "no room"

    framing = models.ForeignKey(Framing, models.CASCADE, related_name="renders")
    plan_json = models.JSONField()
    settings_json = models.JSONField(default=dict)
    clips_json = models.JSONField(default=dict)
    analyses_json = models.JSONField(default=dict)
    identity = models.CharField(max_length=64, blank=True, default="", db_index=True)
    frames_per_second = models.FloatField(default=0)
    seconds_left = models.FloatField(null=True)
    parts_done = models.PositiveIntegerField(default=0)
    parts = models.PositiveIntegerField(default=0)
    digest = models.CharField(max_length=64, blank=True, default="")
    report_json = models.JSONField(null=True)
    ordered = models.DateTimeField(auto_now_add=True)
    cleared = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-id"]
        indexes = [models.Index(fields=["state", "rank"], name="renders_to_take")]

    def __str__(self) -> str:
        return f"render {self.pk} of {self.framing}"

    @property
    def plan(self) -> Plan:
        """The plan as ordered."""
        return Plan.model_validate(self.plan_json)

    @cached_property
    def settings(self) -> Settings:
        """How the file is written."""
        return Settings.model_validate(self.settings_json)

    def name_among(self, taken: Container[str] = ()) -> str:
        """What the file is called where it is handed over, unlike what others are called."""
        return delivered_name(self.framing, self.plan.frame, self.settings, taken)

    @property
    def path(self) -> Path:
        """Where the finished file lies, or the folder for a kind that is one."""
        return Path(settings.RENDERS_DIR) / f"{self.pk}{OUTPUT_FORMATS[self.settings.kind].suffix}"

    @property
    def workspace(self) -> RenderWorkspace:
        """Where its parts are drawn."""
        return RenderWorkspace(Path(settings.RENDERS_DIR) / f".workspace-{self.pk}", Path(settings.MEDIA_DIR))

    @property
    def lock(self) -> Path:
        """The file that the worker of it holds locked."""
        return Path(settings.RENDERS_DIR) / f".lock-{self.pk}"

    @property
    def owner_name(self) -> str:
        """The name of the person whose project it works for."""
        return self.framing.footage.project.owner.get_username()

    @property
    def clip_name(self) -> str:
        """What the clip is called."""
        return self.framing.footage.name

    @property
    def seconds(self) -> float:
        """How long the file lasts; 0 where the clip was replaced by one that cannot be delivered so."""
        try:
            return float(delivered(self.plan, self.framing.footage.info, self.settings).duration)
        except BadRequest:
            return 0.0

    @property
    def file_exists(self) -> bool:
        """Whether it is done and its file can be had."""
        return self.state == self.State.DONE and self.cleared is None and self.path.exists()

    @property
    def size(self) -> int:
        """Bytes of the file; 0 where there is none."""
        return sum(file.stat().st_size for file in files_of(self.path)) if self.file_exists else 0


def delivered_name(framing: Framing, frame: Frame, settings: Settings, taken: Container[str] = ()) -> str:
    """The name of a framing's file where it is handed over, unlike the names that are taken."""
    parts = {
        "project": framing.footage.project.name,
        "clip": PurePath(framing.footage.name).stem,
        "frame": frame.name,
        "width": str(frame.width),
        "height": str(frame.height),
        "settings": settings.name,
    }
    return file_name(settings.filename_template, parts, OUTPUT_FORMATS[settings.kind].suffix, taken)
