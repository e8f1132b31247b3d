"""What workers find out about clips: bars, fields, how quiet a copy must be, and how many pictures there really are."""

from datetime import timedelta
from pathlib import Path

from django.conf import settings
from django.db import transaction
from django.db.models import Q
from django.utils import timezone

from cadrage.compose.quiet import Sample, quiet_copy
from cadrage.footage import probe
from cadrage.footage.baked import find_baked
from cadrage.footage.fields import find_fields
from cadrage.footage.index import index_of, needs_index
from cadrage.render.desk import locked
from cadrage.rules import format_key
from server.studio.actions.rules import RuleBook
from server.studio.models import Footage

ASKED_AGAIN = timedelta(seconds=30)
"""How long a clip waits that nobody looks at before it is asked for again."""
MOST_ATTEMPTS = 3
"""A clip whose workers died so often while it was looked at is not looked at any more."""


def ask_to_look(footage: Footage) -> None:
    """Let a worker look at a clip soon."""
    from server.studio.tasks import look_task  # noqa: PLC0415 - the task calls `look` below

    Footage.everything.filter(pk=footage.pk).update(look_asked=timezone.now())
    transaction.on_commit(lambda: look_task.enqueue(footage.pk))


def _lock(footage_id: int) -> Path:
    return Path(settings.CACHE_DIR) / f".look-{footage_id}"


def look(footage_id: int) -> None:
    """Look at a clip's pictures, and count them where that was not done yet. Called by a worker."""
    with locked(_lock(footage_id)) as mine:
        if not mine:
            return
        footage = Footage.objects.filter(pk=footage_id).select_related("project").first()
        if footage is None:
            return
        if not footage.looked:
            _look(footage)
        if footage.facts.counted != "decoded" and footage.look_attempts <= MOST_ATTEMPTS:
            _count(footage)


def _look(footage: Footage) -> None:
    """Find bars, fields, and how quiet a copy must be."""
    footage.look_attempts += 1  # before anything is decoded: a worker that dies of it must have counted
    footage.looked = footage.look_attempts > MOST_ATTEMPTS
    footage.save(update_fields=["look_attempts", "looked"])
    if footage.looked:
        return
    try:
        said = RuleBook.of(footage.project).said(footage)
        footage.bars_json = find_baked(footage.path, footage.facts, said).model_dump(mode="json")
        footage.fields_json = find_fields(footage.path, footage.facts).model_dump(mode="json")
        taken = RuleBook.of(footage.project).interpretation(footage)
        footage.copy_json = quiet_copy(Sample.of(taken, footage.facts, footage.path), taken).model_dump(mode="json")
    finally:
        footage.looked = True
        footage.save(update_fields=["bars_json", "fields_json", "copy_json", "looked"])


def _count(footage: Footage) -> None:
    """Decode every picture of a clip that was too long for that when it was added."""
    footage.look_attempts += 1
    footage.save(update_fields=["look_attempts"])
    facts = probe(footage.path, thorough=True)
    footage.facts_json, footage.format_key = facts.model_dump(mode="json"), format_key(facts)
    footage.look_attempts = 0
    footage.save(update_fields=["facts_json", "format_key", "look_attempts"])
    footage.__dict__.pop("facts", None)  # it is read from JSON once for a row
    if needs_index(facts):
        index_of(footage.path, facts)  # kept on disk, so that the first picture from the middle does not wait for it


def look_again() -> None:
    """Ask again for clips that nobody looks at: their worker died, or their task was lost."""
    due = Q(look_asked=None) | Q(look_asked__lt=timezone.now() - ASKED_AGAIN)
    undone = Q(looked=False) | Q(facts_json__counted__in=["packets", "estimated"], look_attempts__lte=MOST_ATTEMPTS)
    for footage in Footage.objects.filter(due & undone):
        with locked(_lock(footage.pk)) as nobody:
            if nobody and footage.path.exists():
                ask_to_look(footage)
