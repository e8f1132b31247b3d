"""Files on their way in, piece by piece."""

from pathlib import Path

from django.conf import settings
from django.db import models

from server.studio.models.links import token
from server.studio.models.project import Project


class Upload(models.Model):
    """A file that a person sends in pieces. `size` is its full size; the bytes that have arrived show its progress."""

    project = models.ForeignKey(Project, models.CASCADE, related_name="uploads")
    sender = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="uploads")
    token = models.CharField(max_length=60, unique=True, default=token)
    name = models.CharField(max_length=255)
    size = models.PositiveBigIntegerField()
    begun = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.name

    @property
    def path(self) -> Path:
        """Where it lies until it is taken in."""
        return Path(settings.INCOMING_DIR) / f"upload-{self.token}"

    @property
    def lock(self) -> Path:
        """The file that its writer holds locked."""
        return self.path.with_suffix(".lock")

    @property
    def received(self) -> int:
        """Bytes that have arrived."""
        return self.path.stat().st_size if self.path.exists() else 0
