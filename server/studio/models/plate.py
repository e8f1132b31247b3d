"""Plates: picture made beyond a clip's own."""

from pathlib import Path

from django.conf import settings
from django.db import models

from cadrage.analysis import Found
from cadrage.analysis.plates import PlateAnalysis
from cadrage.extend.plate import PlateFound
from cadrage.extend.request import PlateRequest
from cadrage.footage import Interpretation
from server.studio.models.analysis import store
from server.studio.models.footage import Footage
from server.studio.models.job import Job


class Plate(Job):
    """The job of making one plate of a clip, and the key under which it lies.

    `asked_json` says what was asked; `taken_json`, what the clip was taken to be; `used`, when somebody last looked at
    it or asked for it.
    """

    call_name = "plate"
    owner_path = "footage__project__owner"

    footage = models.ForeignKey(Footage, models.CASCADE, related_name="plates")
    key = models.CharField(max_length=64, db_index=True)
    asked_json = models.JSONField()
    taken_json = models.JSONField(default=dict)
    used = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["state", "rank"], name="plates_to_take")]
        constraints = [models.UniqueConstraint(fields=["footage", "key"], name="one_plate_a_key")]

    def __str__(self) -> str:
        return f"a plate of {self.footage}"

    @property
    def lock(self) -> Path:
        """The file that the worker of it holds locked."""
        return Path(settings.ANALYSES_DIR) / f".plate-lock-{self.pk}"

    @property
    def owner_name(self) -> str:
        """The name of the person whose project it works for."""
        return self.footage.project.owner.get_username()

    @property
    def clip_name(self) -> str:
        """What the clip is called."""
        return self.footage.name

    @property
    def asked(self) -> PlateRequest:
        """The request."""
        return PlateRequest.model_validate(self.asked_json)

    @property
    def taken(self) -> Interpretation:
        """The interpretation of the clip at the time of the request."""
        return Interpretation.model_validate(self.taken_json)

    @property
    def found(self) -> PlateFound | None:
        """The plate in numbers; None while it is not there."""
        outcome = store.get(PlateAnalysis(self.asked, store), self.key)
        return outcome.result if isinstance(outcome, Found) else None
