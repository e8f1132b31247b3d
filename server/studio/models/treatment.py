"""Treatments that people have saved."""

from django.conf import settings
from django.db import models

from cadrage.treatments import Treatment as CoreTreatment
from server.studio.models.project import Project


class Treatment(models.Model):
    """A treatment of one project, or of all projects of its owner where `project` is null."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="treatments")
    project = models.ForeignKey(Project, models.CASCADE, null=True, related_name="treatments")
    treatment_json = models.JSONField()

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.value.name

    @property
    def value(self) -> CoreTreatment:
        """The treatment as the core has it."""
        return CoreTreatment.model_validate(self.treatment_json)
