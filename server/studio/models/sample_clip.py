"""Sample clips that are to be drawn."""

from pathlib import Path

from django.conf import settings
from django.db import models

from server.studio.models.job import Job
from server.studio.models.project import Project


class SampleClip(Job):
    """The job of drawing one sample clip into a project; `file` says which."""

    call_name = "samples"
    owner_path = "project__owner"

    project = models.ForeignKey(Project, models.CASCADE, related_name="sample_clips")
    file = models.CharField(max_length=80)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["state", "rank"], name="sample_clips_to_take")]

    def __str__(self) -> str:
        return f"{self.file} in {self.project}"

    @property
    def lock(self) -> Path:
        """The file that a worker on it holds locked."""
        return Path(settings.ANALYSES_DIR) / f".sample-lock-{self.pk}"

    @property
    def owner_name(self) -> str:
        """The name of the person whose project it works for."""
        return self.project.owner.get_username()

    @property
    def clip_name(self) -> str:
        """The name of the clip."""
        return self.file
