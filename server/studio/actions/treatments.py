"""Treatments: saving, changing and applying them, and seeing who follows them."""

from collections.abc import Iterable

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import Q, QuerySet

from cadrage.treatments import Treatment as CoreTreatment
from server.studio.actions.framing_plans import loaded, plan_of
from server.studio.actions.framings import give
from server.studio.actions.rules import RuleBook
from server.studio.models import Framing, Project, Treatment


def usable(project: Project, person: AbstractBaseUser) -> QuerySet[Treatment]:
    """Treatments that somebody can use in a project: its own, and theirs for all projects."""
    return Treatment.objects.filter(Q(project=project) | Q(project=None, owner=person))


def save(owner: AbstractBaseUser, project: Project | None, treatment: CoreTreatment) -> Treatment:
    """Save a new treatment, for a project or for all of its owner's."""
    return Treatment.objects.create(owner=owner, project=project, treatment_json=treatment.model_dump(mode="json"))


def given_in(project: Project) -> dict[int, list[Framing]]:
    """The framings of a project that were given a treatment, by that treatment's id, with their plans."""
    found: dict[int, list[Framing]] = {}
    rows = Framing.present.filter(footage__project=project).exclude(treatment=None)
    for row in _with_plans(rows):
        found.setdefault(row.treatment_id, []).append(row)
    return found


def _with_plans(rows: QuerySet[Framing]) -> list[Framing]:
    related = rows.select_related("footage__project", "frame").prefetch_related("footage__analyses")
    return loaded(list(related))


def rewrite(row: Treatment, treatment: CoreTreatment) -> list[Framing]:
    """Change a treatment, and with it every framing that followed it; the framings that differed stay as they are."""
    books: dict[int, RuleBook] = {}
    followers = []
    for framing in _with_plans(row.framings.all()):
        project = framing.footage.project
        book = books.setdefault(project.pk, books.get(project.pk) or RuleBook.of(project))
        if not row.value.differences(plan_of(framing, book)):
            followers.append(framing)
    with transaction.atomic():
        row.treatment_json = treatment.model_dump(mode="json")
        row.save(update_fields=["treatment_json"])
        return apply(treatment, followers, row)


def apply(treatment: CoreTreatment, framings: Iterable[Framing], saved: Treatment | None = None) -> list[Framing]:
    """Give framings a treatment; one step each. Those that have it already stay as they are."""
    rows = list(framings)
    with transaction.atomic():
        changed = give(rows, treatment, treatment.name)
        Framing.objects.filter(pk__in=[row.pk for row in rows]).update(treatment=saved)
    return changed


def remove(row: Treatment) -> None:
    """Take a treatment away; framings keep what it gave them."""
    row.delete()
