"""Footage: source files and what they are."""

from functools import cached_property
from pathlib import Path

from django.conf import settings
from django.db import models

from cadrage.footage import Facts, Interpretation
from cadrage.footage.baked import BakedBars
from cadrage.footage.fields import FieldsFound
from cadrage.plan import Range
from cadrage.surrounds import Blurred
from server.studio.models.project import Project


class Present(models.Manager["Footage"]):
    """Clips that have not been removed."""

    def get_queryset(self) -> models.QuerySet["Footage"]:
        """Those."""
        return super().get_queryset().filter(removed__isnull=True)


class Footage(models.Model):
    """A clip of a project: its file, what probing it found, and what looking at its pictures found.

    `file` is a name in the footage folder; `linked`, where it is set, an absolute path in a folder that the
    configuration allows, whose file is not ours. `interpretation_json` is null while the clip obeys its format's rule.
    What is read from JSON is read once for a row; a row that was changed is loaded anew.
    """

    project = models.ForeignKey(Project, models.CASCADE, related_name="footage")
    name = models.CharField(max_length=255)
    file = models.CharField(max_length=300, blank=True)
    linked = models.CharField(max_length=1000, blank=True, default="")
    size = models.PositiveBigIntegerField()
    digest = models.CharField(max_length=64, blank=True, default="")
    facts_json = models.JSONField()
    format_key = models.CharField(max_length=80, blank=True, default="")
    interpretation_json = models.JSONField(null=True, default=None)
    range_json = models.JSONField(default=dict)
    bars_json = models.JSONField(null=True, default=None)
    fields_json = models.JSONField(null=True, default=None)
    copy_json = models.JSONField(null=True, default=None)
    looked = models.BooleanField(default=False)
    look_asked = models.DateTimeField(null=True, default=None)
    look_attempts = models.PositiveSmallIntegerField(default=0)
    added = models.DateTimeField(auto_now_add=True)
    removed = models.DateTimeField(null=True, default=None)

    everything = models.Manager()
    objects = Present()

    class Meta:
        ordering = ["id"]
        base_manager_name = "everything"
        default_manager_name = "objects"

    def __str__(self) -> str:
        return self.name

    @property
    def path(self) -> Path:
        """Where the file lies; of a sequence, the folder with its stills."""
        return Path(self.linked) if self.linked else Path(settings.FOOTAGE_DIR) / self.file

    @cached_property
    def facts(self) -> Facts:
        """What the file is."""
        return Facts.model_validate(self.facts_json)

    @property
    def own_interpretation(self) -> Interpretation | None:
        """What its samples are taken to mean by word of its own; None while it obeys its format's rule."""
        return None if self.interpretation_json is None else Interpretation.model_validate(self.interpretation_json)

    @cached_property
    def range(self) -> Range:
        """The part of it that is delivered, into whatever frame."""
        return Range.model_validate(self.range_json)

    @cached_property
    def bars(self) -> BakedBars | None:
        """Bars found in its pictures; None where nobody has looked."""
        return None if self.bars_json is None else BakedBars.model_validate(self.bars_json)

    @cached_property
    def quiet_copy(self) -> Blurred:
        """The blurred copy its framings begin with: calm beside its pictures, once somebody has looked."""
        return Blurred() if self.copy_json is None else Blurred.model_validate(self.copy_json)

    @cached_property
    def fields(self) -> FieldsFound | None:
        """What its pictures were found to consist of; None where nobody has looked."""
        return None if self.fields_json is None else FieldsFound.model_validate(self.fields_json)
