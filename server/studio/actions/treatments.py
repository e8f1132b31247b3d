"""Treatments: saving, changing and applying them, and seeing who follows them."""

from collections.abc import Iterable

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import Q, QuerySet

from cadrage.treatments import Treatment as CoreTreatment
from server.studio.actions.framings import change, plan_of
from server.studio.models import Framing, Project, Treatment


def usable(project: Project) -> QuerySet[Treatment]:
    """Treatments that can be used in a project: its own, and its owner's for all projects."""
    return Treatment.objects.filter(Q(project=project) | Q(project=None, owner=project.owner))


def save(owner: AbstractBaseUser, project: Project | None, treatment: CoreTreatment) -> Treatment:
    """Save a new treatment, for a project or for all of its owner's."""
    return Treatment.objects.create(owner=owner, project=project, treatment_json=treatment.model_dump(mode="json"))


def rewrite(row: Treatment, treatment: CoreTreatment) -> list[Framing]:
    """Change a treatment, and with it every framing that followed it; the framings that differed stay as they are."""
    followers = [
        framing
        for framing in row.framings.select_related("footage__project", "frame")
        if not row.value.differences(plan_of(framing))
    ]
    with transaction.atomic():
        row.treatment_json = treatment.model_dump(mode="json")
        row.save(update_fields=["treatment_json"])
        return apply(treatment, followers, row)


def apply(treatment: CoreTreatment, framings: Iterable[Framing], saved: Treatment | None = None) -> list[Framing]:
    """Give framings a treatment; one step each. Those that have it already stay as they are."""
    changed = []
    with transaction.atomic():
        for framing in framings:
            before = framing.current
            after = change(framing, treatment.on(plan_of(framing)), treatment.name)
            if after.treatment_id != (saved.pk if saved else None):
                after.treatment = saved
                after.save(update_fields=["treatment"])
            if after.current != before:
                changed.append(after)
    return changed
