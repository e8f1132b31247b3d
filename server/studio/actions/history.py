"""The history of a project: the changes of each person, to undo and redo in their order.

An action names the rows that it may change with `recorded`; what differs afterwards is one change. A framing's designs
are kept as its steps, so that of a framing only the id of its step is recorded, with `note`.
"""

import secrets
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from typing import Any

from django.db import models, transaction
from django.utils import timezone

from server.studio.asking import person
from server.studio.models import (
    Change,
    Footage,
    FramingRule,
    LookLink,
    Material,
    Member,
    Project,
    ProjectFrame,
    SourceRule,
)

KEPT = 500
"""So many changes of a person in a project are remembered."""

FIELDS: dict[type[models.Model], tuple[str, ...]] = {
    Project: ("name",),
    Footage: ("name", "interpretation_json", "range_json", "rank", "removed"),
    ProjectFrame: ("frame_json", "delivery_json", "settings_json", "rank", "removed"),
    Material: ("removed",),
    FramingRule: ("project_id", "format_key", "frame_id", "rule_json"),
    SourceRule: ("project_id", "format_key", "interpretation_json"),
    Member: ("project_id", "person_id", "role"),
    LookLink: ("project_id", "token", "expires", "downloads"),
}
"""The fields of each kind of row that a history takes back."""

KINDS = {model._meta.model_name or "": model for model in FIELDS}  # noqa: SLF001 - documented by Django
FRAMING = "framing"
"""The kind under which steps of framings are noted."""

Rows = models.QuerySet[Any]
State = dict[str, dict[str, Any] | None]

_one: ContextVar[tuple[str, str]] = ContextVar("one", default=("", ""))
"""Batch and label of the current notes; empty if each note is a separate change."""


@contextmanager
def as_one(label: str = "", batch: str = "") -> Iterator[None]:
    """Make all that is noted within the block one change; within another such block, a part of that one's.

    Args:
        label: of the change; that of the first note if empty.
        batch: a name under which other requests carry on with it; a new one if empty.
    """
    token = _one.set(_one.get() if _one.get()[0] else (batch or secrets.token_hex(8), label))
    try:
        yield
    finally:
        _one.reset(token)


@contextmanager
def recorded(project: Project, label: str, *rows: Rows) -> Iterator[None]:
    """Note what the block changes in some rows; the block and the note are one transaction.

    Args:
        project: whose history it is.
        label: of the change, as people read it.
        rows: which may change, or come or go.
    """
    with transaction.atomic():
        before = _state(rows)
        yield
        note(project, label, before, _state(rows))


def only(row: models.Model) -> Rows:
    """The rows to record where that is one."""
    return type(row)._base_manager.filter(pk=row.pk)  # noqa: SLF001 - the manager that has removed rows too


def note(project: Project, label: str, before: Mapping[str, Any], after: Mapping[str, Any]) -> None:
    """Add a change to the history of the person who makes the request. Changes that they undid can no longer be redone.

    Nothing is added without a person, as in a worker, or if nothing changed.

    Args:
        project: whose history it is.
        label: of the change.
        before: fields by `model:id`; None where the row was not there.
        after: the same as they are now.
    """
    who, (old, new) = person(), _differences(before, after)
    if who is None or old == new:
        return
    batch, name = _one.get()
    mine = Change.objects.filter(project=project, person=who)
    mine.filter(undone=True).delete()
    last = mine.last() if batch else None
    if last is not None and last.batch == batch:
        last.before_json, last.after_json = _joined(old, last.before_json), _joined(last.after_json, new)
        last.save(update_fields=["before_json", "after_json"])
        return
    label = (name or label)[:80]
    mine.create(project=project, person=who, label=label, batch=batch, before_json=old, after_json=new)
    for oldest in mine.order_by("-pk").values_list("pk", flat=True)[KEPT : KEPT + 1]:
        mine.filter(pk__lte=oldest).delete()


def framing_key(framing: int) -> str:
    """The name of a framing in a state, by its id."""
    return f"{FRAMING}:{framing}"


def note_added(project: Project, label: str, row: models.Model) -> None:
    """Note that a row that can be removed was added; undone, it is removed."""
    key = f"{row._meta.model_name}:{row.pk}"  # noqa: SLF001
    note(project, label, {key: {"removed": timezone.now()}}, {key: {"removed": None}})


def _state(rows: tuple[Rows, ...]) -> State:
    """The recorded fields of rows as they are stored now."""
    return {
        f"{each.model._meta.model_name}:{row['pk']}": {name: row[name] for name in FIELDS[each.model]}  # noqa: SLF001
        for each in rows
        for row in each.all().values("pk", *FIELDS[each.model])
    }


def _differences(before: Mapping[str, Any], after: Mapping[str, Any]) -> tuple[State, State]:
    """Of two states, the rows and fields in which they differ."""
    old, new = State(), State()
    for key in {**before, **after}:
        was, now = before.get(key), after.get(key)
        if was is None or now is None:
            if was != now:
                old[key], new[key] = was, now
        elif names := [name for name in was if was[name] != now[name]]:
            old[key], new[key] = {name: was[name] for name in names}, {name: now[name] for name in names}
    return old, new


def _joined(old: State, new: State) -> State:
    """A state with another over it, field by field."""
    joined = dict(old)
    for key, fields in new.items():
        under = joined.get(key)
        joined[key] = {**under, **fields} if under is not None and fields is not None else fields
    return joined
