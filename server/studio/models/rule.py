"""Rules of a project, one for a source format and a frame."""

from django.db import models

from cadrage.footage import Interpretation
from cadrage.rules import Rule as CoreRule
from server.studio.models.project import Project, ProjectFrame


class FramingRule(models.Model):
    """How every clip of a source format goes into a frame."""

    project = models.ForeignKey(Project, models.CASCADE, related_name="framing_rules")
    format_key = models.CharField(max_length=80)
    frame = models.ForeignKey(ProjectFrame, models.CASCADE, related_name="rules")
    rule_json = models.JSONField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["format_key", "frame"], name="one_rule_a_format_and_frame")]

    def __str__(self) -> str:
        return f"{self.format_key} into {self.frame}"

    @property
    def rule(self) -> CoreRule:
        """The rule as the core has it."""
        return CoreRule.model_validate(self.rule_json)


class SourceRule(models.Model):
    """What the samples of every clip of a source format are taken to mean."""

    project = models.ForeignKey(Project, models.CASCADE, related_name="source_rules")
    format_key = models.CharField(max_length=80)
    interpretation_json = models.JSONField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["project", "format_key"], name="one_source_rule_a_format")]

    def __str__(self) -> str:
        return self.format_key

    @property
    def interpretation(self) -> Interpretation:
        """The interpretation as the core has it."""
        return Interpretation.model_validate(self.interpretation_json)
