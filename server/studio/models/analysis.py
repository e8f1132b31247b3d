"""Analyses of clips."""

from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import models

from cadrage.analyses import ANALYSES
from cadrage.analysis import AnalysisStore, Found, Outcome
from cadrage.values import Value
from server.studio.models.footage import Footage
from server.studio.models.job import Job

store = AnalysisStore(Path(settings.ANALYSES_DIR))


class Analysis(Job):
    """One kind of analysis of a clip: the job of finding it, and the key under which its outcome lies.

    `key` is of the request that was made last; the outcome is that of the clip only while it is done. `pieces` is how
    many files of it lay there when it was begun last, of a kind that keeps some.
    """

    call_name = "analysis"
    owner_path = "footage__project__owner"

    footage = models.ForeignKey(Footage, models.CASCADE, related_name="analyses")
    kind = models.CharField(max_length=40)
    pieces = models.PositiveIntegerField(default=0)
    key = models.CharField(max_length=64, blank=True, default="", db_index=True)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["state", "rank"], name="analyses_to_take")]
        constraints = [models.UniqueConstraint(fields=["footage", "kind"], name="one_analysis_a_kind")]

    def __str__(self) -> str:
        return f"{self.kind} of {self.footage}"

    @property
    def lock(self) -> Path:
        """The file that the worker of it holds locked."""
        return Path(settings.ANALYSES_DIR) / f".lock-{self.pk}"

    @property
    def owner_name(self) -> str:
        """The name of the person whose project it works for."""
        return self.footage.project.owner.get_username()

    @property
    def clip_name(self) -> str:
        """What the clip is called."""
        return self.footage.name

    @property
    def outcome(self) -> Outcome[Any] | None:
        """Its result; None until there is one, or if it was deleted."""
        return store.get(ANALYSES[self.kind], self.key) if self.state == self.State.DONE and self.key else None

    @property
    def result(self) -> Value | None:
        """Its findings; None if there are none."""
        outcome = self.outcome
        return outcome.result if isinstance(outcome, Found) else None
