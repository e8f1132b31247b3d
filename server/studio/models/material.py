"""Files that plans use besides clips: background pictures, logos, captions."""

from pathlib import Path

from django.conf import settings
from django.db import models

from cadrage.footage import MediaInfo
from server.studio.models.project import Project
from server.studio.models.removable import Present


class Material(models.Model):
    """A picture or a file of captions of a project. `info_json` is null for captions.

    `origin` says where it comes from, where it was not simply added.
    """

    class Kind(models.TextChoices):
        """Its kind."""

        PICTURE = "picture"
        CAPTIONS = "captions"

    project = models.ForeignKey(Project, models.CASCADE, related_name="materials")
    name = models.CharField(max_length=255)
    kind = models.CharField(max_length=10, choices=Kind.choices)
    file = models.CharField(max_length=300)
    info_json = models.JSONField(null=True, default=None)
    origin = models.CharField(max_length=300, blank=True, default="")
    added = models.DateTimeField(auto_now_add=True)
    removed = models.DateTimeField(null=True, default=None)

    everything = models.Manager()
    objects: Present["Material"] = Present()

    class Meta:
        ordering = ["id"]
        base_manager_name = "everything"
        default_manager_name = "objects"

    def __str__(self) -> str:
        return self.name

    @property
    def ref(self) -> str:
        """The name that plans know it by."""
        return f"material:{self.pk}"

    @property
    def path(self) -> Path:
        """Where the file lies."""
        return Path(settings.FOOTAGE_DIR) / self.file

    @property
    def info(self) -> MediaInfo | None:
        """The properties of a picture."""
        return None if self.info_json is None else MediaInfo.model_validate(self.info_json)
