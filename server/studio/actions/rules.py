"""Rules, which people call presets: how clips of a source format are read, and how they go into a frame."""

from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Any

from cadrage.analysis.fields import as_found
from cadrage.footage import Interpretation, resolve
from cadrage.plan import Plan
from cadrage.rules import Rule, sensible_rule
from server.studio.actions.history import only, recorded
from server.studio.models import Footage, Framing, FramingRule, Project, ProjectFrame, SourceRule


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
        return cls(framings, cls.of_sources(project).sources)

    @classmethod
    def of_sources(cls, project: Project) -> "RuleBook":
        """Read only what says what samples are taken to mean."""
        return cls({}, {row.format_key: row.interpretation for row in project.source_rules.all()})

    def stated(self, footage: Footage) -> Interpretation:
        """The interpretation that was set for a clip, or else for its format."""
        return footage.own_interpretation or self.sources.get(footage.format_key) or Interpretation()

    def interpretation(self, footage: Footage) -> Interpretation:
        """The interpretation of a clip: as it was set, with detected fields unless fields were set."""
        return as_found(self.stated(footage), footage.fields)

    def rule(self, footage: Footage, frame: ProjectFrame) -> Rule:
        """The rule for a clip in a frame: the one that was set, or else the default."""
        found = self.framings.get((footage.format_key, frame.pk))
        if found is not None:
            return found
        reading = resolve(footage.info, self.interpretation(footage))
        return sensible_rule(reading.picture, frame.value, footage.quiet_copy)

    def plan(self, framing: Framing, own: Plan | None) -> Plan:
        """The plan in force: the framing's own, or by rule; with clip and frame as they are now."""
        fixed = self._fixed(framing)
        if own is not None:
            return framing.with_ways(own.model_copy(update=fixed))
        return framing.with_ways(self.rule(framing.footage, framing.frame).on(Plan(**fixed)))

    def bare(self, framing: Framing) -> Plan:
        """A plan of which nothing was decided yet, with clip and frame as they are now."""
        return Plan(**self._fixed(framing))

    def _fixed(self, framing: Framing) -> dict[str, Any]:
        footage = framing.footage
        return {
            "source": footage.ref,
            "frame": framing.frame.value,
            "interpretation": self.interpretation(footage),
            "range": footage.range,
        }


def set_rules(project: Project, rules: Iterable[tuple[Footage, ProjectFrame, Rule]]) -> None:
    """Set how every clip of some clips' formats goes into a frame; of two for the same, the last counts."""
    rows = {
        (footage.format_key, frame.pk): FramingRule(
            project=project,
            format_key=footage.format_key,
            frame=frame,
            rule_json=rule.model_dump(mode="json"),
        )
        for footage, frame, rule in rules
    }
    with recorded(project, "Save as preset", project.framing_rules.all()):
        FramingRule.objects.bulk_create(
            rows.values(), update_conflicts=True, unique_fields=["format_key", "frame"], update_fields=["rule_json"]
        )


def drop_rule(footage: Footage, frame: ProjectFrame) -> None:
    """Go back to the sensible rule."""
    rules = frame.rules.filter(format_key=footage.format_key)
    with recorded(frame.project, "Remove preset", rules):
        rules.delete()


def set_source_rule(footage: Footage, interpretation: Interpretation) -> Footage:
    """Set how clips of this one's format are read. This clip uses it from now on; custom settings of others stay."""
    project = footage.project
    with recorded(project, "Source for its format", project.source_rules.all(), only(footage)):
        SourceRule.objects.update_or_create(
            project=project,
            format_key=footage.format_key,
            defaults={"interpretation_json": interpretation.model_dump(mode="json")},
        )
        footage.interpretation_json = None
        footage.save(update_fields=["interpretation_json"])
    return footage
