"""How large files will be."""

from pathlib import Path

from django.conf import settings
from django.db import models

from server.studio.models.framing import Framing
from server.studio.models.job import Job


class Size(Job):
    """The job of finding out how large the file of a framing will be; the last that was asked for.

    `key` is of what is to be written; `bytes` is of that, once it is done.
    """

    call_name = "size"
    owner_path = "framing__footage__project__owner"

    framing = models.OneToOneField(Framing, models.CASCADE, related_name="size")
    key = models.CharField(max_length=64)
    bytes = models.PositiveBigIntegerField(null=True, default=None)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["state", "rank"], name="sizes_to_take")]

    def __str__(self) -> str:
        return f"size of {self.framing}"

    @property
    def lock(self) -> Path:
        """The file that the worker of it holds locked."""
        return Path(settings.ANALYSES_DIR) / f".size-lock-{self.pk}"

    @property
    def owner_name(self) -> str:
        """The name of the person whose project it works for."""
        return self.framing.footage.project.owner.get_username()

    @property
    def clip_name(self) -> str:
        """What the clip is called."""
        return self.framing.footage.name
