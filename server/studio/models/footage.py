"""Footage: source files, and how they are read."""

from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from django.conf import settings
from django.db import models

from cadrage.analysis.burned_in_bars import BurnedInBars
from cadrage.analysis.fields import FieldsFound
from cadrage.analysis.following.analysis import FollowingFound
from cadrage.analysis.shots import ShotsFound, shots_summary
from cadrage.analysis.sides.analysis import SidesFound
from cadrage.footage import ClipIdentity, Interpretation, MediaInfo
from cadrage.plan import Range
from cadrage.surrounds import Blurred
from cadrage.values import Value
from server.studio.models.project import IN_ORDER, Project
from server.studio.models.removable import Present

if TYPE_CHECKING:
    from server.studio.models.analysis import Analysis


class Footage(models.Model):
    """A clip of a project: its file, and what probing it found. What looking at it found are its analyses.

    `file` is a name in the footage folder; `linked`, where it is set, an absolute path in a folder that the
    configuration allows, whose file is not ours. `interpretation_json` is null while the clip obeys its format's rule.
    `digest` and `fingerprint` say which file it was when it was taken in; `rank` is its place where clips
    were put in order by hand. What is read from JSON is read once for a row, and so is what its file is now; a row that
    was changed must be loaded again.
    """

    project = models.ForeignKey(Project, models.CASCADE, related_name="footage")
    name = models.CharField(max_length=255)
    file = models.CharField(max_length=300, blank=True)
    linked = models.CharField(max_length=1000, blank=True, default="")
    size = models.PositiveBigIntegerField()
    digest = models.CharField(max_length=64, blank=True, default="")
    fingerprint = models.CharField(max_length=80, blank=True, default="")
    info_json = models.JSONField()
    format_key = models.CharField(max_length=80, blank=True, default="")
    interpretation_json = models.JSONField(null=True, default=None)
    range_json = models.JSONField(default=dict)
    rank = models.PositiveIntegerField(null=True, default=None)
    added = models.DateTimeField(auto_now_add=True)
    removed = models.DateTimeField(null=True, default=None)

    everything = models.Manager()
    objects: Present["Footage"] = Present()

    class Meta:
        ordering = IN_ORDER
        base_manager_name = "everything"
        default_manager_name = "objects"

    def __str__(self) -> str:
        return self.name

    @property
    def ref(self) -> str:
        """The name that plans know it by."""
        return f"footage:{self.pk}"

    @property
    def path(self) -> Path:
        """Where the file lies; of a sequence, the folder with its stills."""
        return Path(self.linked) if self.linked else Path(settings.FOOTAGE_DIR) / self.file

    @property
    def identity(self) -> ClipIdentity:
        """Which file it was when it was taken in."""
        return ClipIdentity(digest=self.digest, fingerprint=self.fingerprint)

    @cached_property
    def identity_now(self) -> ClipIdentity:
        """Which file it is now; which it was, where that is missing."""
        return ClipIdentity.of(self.path, self.identity)

    @property
    def changed(self) -> bool:
        """Whether its file exists but is not the one that was added."""
        return self.identity_now.fingerprint != self.fingerprint

    @cached_property
    def info(self) -> MediaInfo:
        """What the file is."""
        return MediaInfo.model_validate(self.info_json)

    @property
    def own_interpretation(self) -> Interpretation | None:
        """Its custom interpretation; None while it uses the preset of its format."""
        return None if self.interpretation_json is None else Interpretation.model_validate(self.interpretation_json)

    @cached_property
    def range(self) -> Range:
        """The part of it that is delivered, into whatever frame."""
        return Range.model_validate(self.range_json)

    @cached_property
    def found(self) -> dict[str, Value]:
        """Results of all analyses of it that found something, by kind."""
        results = {row.kind: row.result for row in self.analyses.all()}
        return {kind: result for kind, result in results.items() if result is not None}

    @property
    def bars(self) -> BurnedInBars | None:
        """Black bars in its pictures; None until they are analysed."""
        found = self.found.get("bars")
        return found if isinstance(found, BurnedInBars) else None

    @property
    def shots(self) -> ShotsFound | None:
        """The starts of its shots; None until they, or its movement, are analysed."""
        found, seen = self.found.get("shots"), self.following
        if isinstance(found, ShotsFound):
            return found
        return None if seen is None else ShotsFound(starts=seen.starts, summary=shots_summary(len(seen.starts)))

    @property
    def sides(self) -> SidesFound | None:
        """Whether its shots can be extended beyond their sides; None until they are analysed."""
        found = self.found.get("sides")
        return found if isinstance(found, SidesFound) else None

    @property
    def following(self) -> FollowingFound | None:
        """A summary of the movement in it; None until it is analysed."""
        found = self.found.get("following")
        return found if isinstance(found, FollowingFound) else None

    def analysis(self, kind: str) -> "Analysis | None":
        """The job of one kind of analysis of it; None if it was never requested."""
        return next((row for row in self.analyses.all() if row.kind == kind), None)

    @property
    def quiet_copy(self) -> Blurred:
        """The blurred copy its framings begin with: calm beside its pictures, once they are analysed."""
        found = self.found.get("quiet_copy")
        return found if isinstance(found, Blurred) else Blurred()

    @property
    def fields(self) -> FieldsFound | None:
        """The fields and film frames in its pictures; None until they are analysed."""
        found = self.found.get("fields")
        return found if isinstance(found, FieldsFound) else None
