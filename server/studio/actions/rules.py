"""Rules: what every clip of a source format is taken to be, and how it goes into a frame."""

from dataclasses import dataclass, field

from django.db import transaction

from cadrage.footage import Interpretation, read_as
from cadrage.plan import Plan
from cadrage.rules import Rule, sensible_rule
from server.studio.models import Footage, Framing, FramingRule, OrderedFrame, Project, SourceRule


@dataclass(frozen=True, slots=True)
class RuleBook:
    """The rules of one project, read once.

    Attributes:
        framings: how clips of a source format go into a frame, by format and frame.
        sources: what their samples are taken to mean, by format.
    """

    framings: dict[tuple[str, int], Rule] = field(default_factory=dict)
    sources: dict[str, Interpretation] = field(default_factory=dict)

    @classmethod
    def of(cls, project: Project) -> "RuleBook":
        """Read the rules of a project."""
        framings = {(row.format_key, row.frame_id): row.rule for row in project.framing_rules.all()}
        sources = {row.format_key: row.interpretation for row in project.source_rules.all()}
        return cls(framings, sources)

    def said(self, footage: Footage) -> Interpretation:
        """What a clip is said to be: by word of its own, else by the rule of its format."""
        return footage.own_interpretation or self.sources.get(footage.format_key) or Interpretation()

    def interpretation(self, footage: Footage) -> Interpretation:
        """What a clip is taken to be: as said, and where nobody speaks of its fields, as they were found."""
        said = self.said(footage)
        found = footage.fields
        if said.fields is None and found is not None and found.order is not None:
            return said.model_copy(update={"fields": found.order})
        return said

    def rule(self, footage: Footage, frame: OrderedFrame) -> Rule:
        """The rule for a clip in a frame: the one that was set, else a sensible one."""
        found = self.framings.get((footage.format_key, frame.pk))
        if found is not None:
            return found
        reading = read_as(footage.facts, self.interpretation(footage))
        return sensible_rule(reading.picture, frame.value, footage.quiet_copy)

    def plan(self, framing: Framing, own: Plan | None) -> Plan:
        """The plan in force: the framing's own, or by rule; with clip and frame as they are now."""
        footage, frame = framing.footage, framing.frame
        fixed = {
            "source": f"footage:{footage.pk}",
            "frame": frame.value,
            "interpretation": self.interpretation(footage),
            "range": footage.range,
        }
        if own is not None:
            return own.model_copy(update=fixed)
        rule = self.rule(footage, frame)
        return Plan(placement=rule.placement, surround=rule.surround, finish=rule.finish, **fixed)


def set_rule(footage: Footage, frame: OrderedFrame, rule: Rule) -> FramingRule:
    """Set how every clip of this one's format goes into a frame."""
    row, _ = FramingRule.objects.update_or_create(
        format_key=footage.format_key,
        frame=frame,
        defaults={"project": footage.project, "rule_json": rule.model_dump(mode="json")},
    )
    return row


def drop_rule(footage: Footage, frame: OrderedFrame) -> None:
    """Go back to the sensible rule."""
    FramingRule.objects.filter(format_key=footage.format_key, frame=frame).delete()


def set_source_rule(footage: Footage, interpretation: Interpretation) -> Footage:
    """Set what every clip of this one's format is taken to be. This one obeys from now on; others keep their own."""
    with transaction.atomic():
        SourceRule.objects.update_or_create(
            project=footage.project,
            format_key=footage.format_key,
            defaults={"interpretation_json": interpretation.model_dump(mode="json")},
        )
        footage.interpretation_json = None
        footage.save(update_fields=["interpretation_json"])
    return footage
