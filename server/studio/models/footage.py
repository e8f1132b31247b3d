"""Footage: source files and what they are."""

from pathlib import Path

from django.conf import settings
from django.db import models

from cadrage.footage import Facts, Interpretation
from server.studio.models.project import Project


class Footage(models.Model):
    """A clip of a project: its file, and what probing it found."""

    project = models.ForeignKey(Project, models.CASCADE, related_name="footage")
    name = models.CharField(max_length=255)
    file = models.CharField(max_length=300)
    size = models.PositiveBigIntegerField()
    facts_json = models.JSONField()
    interpretation_json = models.JSONField(default=dict)
    added = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.name

    @property
    def path(self) -> Path:
        """Where the file lies."""
        return Path(settings.FOOTAGE_DIR) / self.file

    @property
    def facts(self) -> Facts:
        """What the file is."""
        return Facts.model_validate(self.facts_json)

    @property
    def interpretation(self) -> Interpretation:
        """What its samples are taken to mean, in every frame."""
        return Interpretation.model_validate(self.interpretation_json)
