"""Pictures that are asked of an outside generator."""

from fractions import Fraction
from pathlib import Path

from django.conf import settings
from django.db import models

from cadrage.plan import Plan
from server.studio.models.framing import Framing
from server.studio.models.job import Job


class Generation(Job):
    """The job of having what lies beyond a picture made elsewhere.

    `plan_json` is what it is for, at `time` in seconds of the clip; `remote` is its name where it is made;
    `variants_json` lists what came back: the material of each, and what had to be done to it.
    """

    call_name = "generation"
    owner_path = "framing__footage__project__owner"

    framing = models.ForeignKey(Framing, models.CASCADE, related_name="generations")
    plan_json = models.JSONField()
    time = models.CharField(max_length=60)
    prompt = models.TextField(default="")
    count = models.PositiveIntegerField(default=2)
    remote = models.CharField(max_length=200, default="", blank=True)
    variants_json = models.JSONField(default=list)

    class Meta:
        ordering = ["-id"]
        indexes = [models.Index(fields=["state", "rank"], name="generations_to_take")]

    def __str__(self) -> str:
        return f"pictures for {self.framing}"

    @property
    def lock(self) -> Path:
        """The file that the worker of it holds locked."""
        return Path(settings.ANALYSES_DIR) / f".generation-lock-{self.pk}"

    @property
    def owner_name(self) -> str:
        """The name of the person whose project it works for."""
        return self.framing.footage.project.owner.get_username()

    @property
    def clip_name(self) -> str:
        """What the clip is called."""
        return self.framing.footage.name

    @property
    def plan(self) -> Plan:
        """The plan that it is for."""
        return Plan.model_validate(self.plan_json)

    @property
    def moment(self) -> Fraction:
        """When, in seconds of the clip."""
        return Fraction(self.time)
