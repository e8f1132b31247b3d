"""Projects and the frames they must go into."""

from functools import cached_property

from django.conf import settings
from django.db import models

from cadrage.formats import Delivery, Frame
from cadrage.output import Settings
from server.studio.models.removable import Present


class Project(models.Model):
    """A set of clips and the frames they must go into. It is visible only to its owner and its members.

    Results are kept for `keep_days` days and up to `keep_gigabytes` in all; null is no limit. An
    archived one is listed apart from the others.
    """

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="projects")
    name = models.CharField(max_length=120)
    keep_days = models.PositiveIntegerField(null=True)
    keep_gigabytes = models.FloatField(null=True)
    put_away = models.BooleanField(default=False)
    created = models.DateTimeField(auto_now_add=True)
    removed = models.DateTimeField(null=True, default=None)

    everything = models.Manager()
    objects: Present["Project"] = Present()

    class Meta:
        ordering = ["-created"]
        base_manager_name = "everything"
        default_manager_name = "objects"

    def __str__(self) -> str:
        return self.name


IN_ORDER = (models.F("rank").asc(nulls_last=True), "id")
"""In the order of people; frames without a place come last, as they were added."""


class ProjectFrame(models.Model):
    """A frame of a project. `rank` is its place where frames were put in order by hand."""

    project = models.ForeignKey(Project, models.CASCADE, related_name="frames")
    frame_json = models.JSONField()
    delivery_json = models.JSONField(default=dict)
    settings_json = models.JSONField(default=dict)
    rank = models.PositiveIntegerField(null=True, default=None)
    removed = models.DateTimeField(null=True, default=None)

    everything = models.Manager()
    objects: Present["ProjectFrame"] = Present()

    class Meta:
        ordering = IN_ORDER
        base_manager_name = "everything"
        default_manager_name = "objects"

    def __str__(self) -> str:
        return f"{self.value.name} {self.value.width}×{self.value.height}"

    @cached_property
    def value(self) -> Frame:
        """The frame as the core has it; read once for a row."""
        return Frame.model_validate(self.frame_json)

    @cached_property
    def delivery(self) -> Delivery:
        """The delivery settings of it besides its picture."""
        return Delivery.model_validate(self.delivery_json)

    @cached_property
    def settings(self) -> Settings:
        """How files of it are written."""
        return Settings.model_validate(self.settings_json)

    @classmethod
    def from_value(cls, project: Project, frame: Frame) -> "ProjectFrame":
        """A new row for a frame."""
        return cls(project=project, frame_json=named(frame).model_dump(mode="json"))


class OwnFrame(models.Model):
    """A frame that its owner has saved for all projects."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="own_frames")
    frame_json = models.JSONField()

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.value.name

    @property
    def value(self) -> Frame:
        """The frame as the core has it."""
        return Frame.model_validate(self.frame_json)


class OwnSettings(models.Model):
    """Settings that their owner has saved for all projects."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="own_settings")
    settings_json = models.JSONField()

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.value.name

    @property
    def value(self) -> Settings:
        """The settings as the core has them."""
        return Settings.model_validate(self.settings_json)


def named(frame: Frame) -> Frame:
    """A frame with a name; its size where it has none."""
    return frame if frame.name else frame.model_copy(update={"name": f"{frame.width}×{frame.height}"})
