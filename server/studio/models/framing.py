"""Framings, and every plan each of them has had."""

from functools import cached_property
from hashlib import blake2b

from django.db import models

from cadrage.compose.following import unsolved
from cadrage.plan import Design, Plan
from server.studio.models.footage import Footage
from server.studio.models.project import ProjectFrame
from server.studio.models.treatment import Treatment


class PresentFramings(models.Manager["Framing"]):
    """Framings whose clip and whose frame have not been removed."""

    def get_queryset(self) -> models.QuerySet["Framing"]:
        """Those."""
        return super().get_queryset().filter(footage__removed=None, frame__removed=None)


class Framing(models.Model):
    """One clip in one frame. Its plan is that of its current step; its treatment, the saved one it was given last.

    `ways_json` holds the ways that were found for a window that follows, and for which plan they were.
    """

    footage = models.ForeignKey(Footage, models.CASCADE, related_name="framings")
    frame = models.ForeignKey(ProjectFrame, models.CASCADE, related_name="framings")
    treatment = models.ForeignKey(Treatment, models.SET_NULL, null=True, related_name="framings")
    current = models.PositiveIntegerField(default=0)
    ways_json = models.JSONField(null=True, default=None)

    objects = models.Manager()
    present = PresentFramings()

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["footage", "frame"], name="one_framing_a_cell")]

    def __str__(self) -> str:
        return f"{self.footage} in {self.frame}"

    @cached_property
    def own(self) -> Plan | None:
        """Its own plan; None while it obeys its rule. Read once for a row; of many, `loaded` reads all at once."""
        return self.steps.get(number=self.current).plan

    @cached_property
    def version(self) -> int:
        """The id of its current step: another after every change. Read once for a row, like `own`."""
        return int(self.steps.values_list("pk", flat=True).get(number=self.current))

    def asked_key(self, plan: Plan) -> str:
        """The input of a path: the framing, and the analysis of the clip."""
        seen = self.footage.analysis("following")
        text = f"{'' if seen is None else seen.key} {plan.model_dump_json(exclude={'range', 'surround', 'finish'})}"
        return blake2b(text.encode(), digest_size=16).hexdigest()

    def with_ways(self, plan: Plan) -> Plan:
        """A plan with the ways that were found for it, if any were."""
        ways = self.ways_json
        if ways is None or not unsolved(plan) or ways["asked"] != self.asked_key(plan):
            return plan
        found = Design.model_validate(ways["design"])
        return plan.model_copy(update={"placement": found.placement, "motion": found.motion, "shots": found.shots})


class Step(models.Model):
    """One state in a framing's history: a plan, or null while it uses its preset. Step 0 is the first."""

    framing = models.ForeignKey(Framing, models.CASCADE, related_name="steps")
    number = models.PositiveIntegerField()
    label = models.CharField(max_length=80)
    plan_json = models.JSONField(null=True)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["framing", "number"], name="one_step_a_number")]

    def __str__(self) -> str:
        return f"{self.framing} step {self.number}"

    @property
    def plan(self) -> Plan | None:
        """The plan of this step; None where it obeys the rule."""
        return None if self.plan_json is None else Plan.model_validate(self.plan_json)
