"""What uses a clip or a material: framings, rules and treatments, in all projects of its owner."""

from collections.abc import Iterator

from django.db.models import F, Q, QuerySet, TextField
from django.db.models.functions import Cast

from cadrage.errors import CadrageError
from server.studio.models import Footage, FramingRule, Material, Project, Step, Treatment

MAX_NAMED = 50


class InUse(CadrageError):
    """Something that is to be removed is used elsewhere.

    Attributes:
        uses: what uses it, by name.
    """

    def __init__(self, problem: str, *, remedy: str, uses: tuple[str, ...], clip: str) -> None:
        super().__init__(problem, remedy=remedy, clip=clip)
        self.uses = uses


def check_unused(row: Footage | Material) -> None:
    """Refuse to remove what something else uses.

    Raises:
        InUse: something does. At most `MAX_NAMED` uses are named.
    """
    uses = tuple(uses_of(row))
    if not uses:
        return
    more = len(uses) - MAX_NAMED
    named = (*uses[:MAX_NAMED], f"and {more} more") if more > 0 else uses
    raise InUse(
        "It is used elsewhere.",
        remedy="Remove it anyway, or choose something else there first.",
        uses=named,
        clip=row.name,
    )


def uses_of(row: Footage | Material) -> Iterator[str]:
    """Name everything that uses a clip or a material of its owner's projects, except a clip's own framings."""
    owner = row.project.owner_id
    projects = Project.objects.filter(owner=owner)
    steps = Step.objects.filter(
        framing__footage__project__in=projects,
        framing__footage__removed=None,
        framing__frame__removed=None,
        number=F("framing__current"),
    )
    related = steps.select_related("framing__footage__project", "framing__frame").order_by("framing")
    for step in _naming(related, "plan_json", row.ref):
        own = isinstance(row, Footage) and step.framing.footage_id == row.pk
        if not own and step.plan is not None and row.ref in step.plan.asset_refs:
            yield f"{step.framing}{_elsewhere(step.framing.footage.project, row)}"
    rules = FramingRule.objects.filter(project__in=projects, frame__removed=None).select_related("project", "frame")
    for rule in _naming(rules, "rule_json", row.ref):
        yield f"the preset for {rule.frame}{_elsewhere(rule.project, row)}"
    treatments = Treatment.objects.filter(Q(project__in=projects) | Q(project=None, owner=owner))
    for treatment in _naming(treatments, "treatment_json", row.ref):
        yield f"the treatment {treatment.value.name}"


def _naming(rows: QuerySet, field: str, ref: str) -> QuerySet:  # type: ignore[type-arg] - of any kind
    """Rows whose JSON holds a reference."""
    return rows.annotate(stored=Cast(field, TextField())).filter(stored__contains=f'"{ref}"')


def _elsewhere(project: Project, row: Footage | Material) -> str:
    return "" if project.pk == row.project_id else f", project {project.name}"
