"""Undoing and redoing changes of a person in a project: the values of `history` are restored."""

import json
from dataclasses import dataclass
from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.core.serializers.json import DjangoJSONEncoder
from django.db import IntegrityError, models, transaction
from django.utils import timezone

from cadrage.errors import Stale
from server.studio.actions import analyses, following, plates
from server.studio.actions.history import FRAMING, KINDS
from server.studio.actions.uses import uses_of
from server.studio.models import Change, Footage, Framing, Project, Step

Fields = dict[str, Any] | None


@dataclass(frozen=True, slots=True)
class Walked:
    """A change that was undone or redone.

    Attributes:
        change: which.
        framings: ids of those whose designs it put back.
        others: whether it put back anything else.
        left: how many of its parts stay as they are, because they were changed by others since.
    """

    change: Change
    framings: tuple[int, ...]
    others: bool
    left: int


def next_of(project: Project, person: AbstractBaseUser, *, redo: bool) -> Change | None:
    """The change of a person in a project that undo, or redo, would be about; None if there is none."""
    mine = Change.objects.filter(project=project, person=person, undone=redo)
    return mine.first() if redo else mine.last()


def walk(project: Project, person: AbstractBaseUser, *, redo: bool, change: int | None = None) -> Walked | None:
    """Undo the last change of a person in a project, or redo the last one they undid.

    Args:
        project: in which.
        person: whose.
        redo: whether it is done again.
        change: the id of a change; nothing is done if another one is next.

    Returns:
        The result; None if there is nothing to do.

    Raises:
        Stale: all that it changed was changed since, or is gone. It leaves the history.
    """
    with transaction.atomic():  # a second press at once finds the change after this one
        found = next_of(project, person, redo=redo)
        if found is None or change not in (None, found.pk):
            return None
        walked = _put_back(found, redo=redo)
        found.undone = not redo
        found.save(update_fields=["undone"])
    if walked.framings or walked.others:
        following.call_if_any_follows(project)
        plates.call_if_any_extends(project)
        _analyse(project, found.before_json | found.after_json)
        return walked
    found.delete()
    raise Stale(
        f"“{found.label}” was changed elsewhere since, or is gone.",
        remedy=f"Press {'Redo' if redo else 'Undo'} again for the change before it.",
        changed=(found.label,),
    )


def _put_back(change: Change, *, redo: bool) -> Walked:
    now, then = change.before_json, change.after_json
    if not redo:
        now, then = then, now
    framings = [key for key in now if key.startswith(f"{FRAMING}:")]
    moved = _steps({_id(key): (now[key]["step"], then[key]["step"]) for key in framings})
    others = [key for key in now if key not in framings]
    # A row is made after, and goes before, the rows that name it.
    order = sorted(others, key=lambda key: then[key] is not None)
    put = [_row(key, now[key], then[key], unused=not redo) for key in order]
    return Walked(change, tuple(moved), any(put), len(now) - len(moved) - sum(put))


def _id(key: str) -> int:
    return int(key.split(":")[1])


def _steps(wanted: dict[int, tuple[int, int]]) -> list[int]:
    """Take framings from the step of one id to that of another, where they are at the first; the ids of those."""
    ids = [step for pair in wanted.values() for step in pair]
    steps = {step.pk: step for step in Step.objects.filter(pk__in=ids).defer("plan_json")}
    rows = Framing.present.select_for_update().filter(pk__in=wanted)
    moved = []
    for row in rows:
        here, there = (steps.get(pk) for pk in wanted[row.pk])
        if here is not None and there is not None and row.current == here.number:
            row.current = there.number
            moved.append(row)
    Framing.objects.bulk_update(moved, ["current"])
    return [row.pk for row in moved]


def _row(key: str, now: Fields, then: Fields, *, unused: bool) -> bool:
    """Give a row other values if it has the expected ones; return whether it did.

    With `unused`, a clip that something else uses is not removed, as by undoing its addition.
    """
    model = KINDS[key.split(":", maxsplit=1)[0]]
    rows = model._base_manager.filter(pk=_id(key))  # noqa: SLF001 - the manager that has removed rows too
    row = rows.select_for_update().first()
    if not _has(row, now):
        return False
    if unused and then and then.get("removed") and isinstance(row, Footage) and any(uses_of(row)):
        return False
    if then is None:
        rows.delete()
    elif row is not None:
        rows.update(**then | ({"removed": timezone.now()} if then.get("removed") else {}))
    else:
        try:
            with transaction.atomic():
                rows.create(pk=_id(key), **then)
        except IntegrityError:  # another row took its place, or its parent is gone
            return False
    return True


def _has(row: models.Model | None, fields: Fields) -> bool:
    """Whether a row has some values; for None, whether there is no row. When something was removed does not count."""
    if row is None or fields is None:
        return row is None and fields is None
    stored = json.loads(json.dumps({name: getattr(row, name) for name in fields}, cls=DjangoJSONEncoder))
    return all(stored[name] == fields[name] or (name == "removed" and stored[name] and fields[name]) for name in fields)


def _analyse(project: Project, changed: dict[str, Fields]) -> None:
    """Have clips analysed that may be read in another way than before."""
    of_formats = any(key.startswith("sourcerule:") for key in changed)
    clips = {_id(key): fields or {} for key, fields in changed.items() if key.startswith("footage:")}
    read = [pk for pk, fields in clips.items() if "interpretation_json" in fields]
    analyses.ask_for_all(project.footage.all() if of_formats else project.footage.filter(pk__in=read))
