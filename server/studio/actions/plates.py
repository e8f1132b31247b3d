"""Plates of framings that extend a scene: asking for them, finding them, letting go of them."""

import time
from collections.abc import Iterable
from datetime import timedelta
from fractions import Fraction
from pathlib import Path

from django.conf import settings
from django.db import transaction
from django.db.models import Count
from django.utils import timezone

from cadrage.analysis import Subject
from cadrage.analysis.plates import PlateAnalysis
from cadrage.compose.extending import plates_asked, with_files
from cadrage.extend.request import PlateRequest
from cadrage.footage import Interpretation, Library
from cadrage.footage.library import PlateFinder
from cadrage.plan import Plan
from cadrage.plates import finder
from cadrage.surrounds import Extended
from server.studio.actions import jobs
from server.studio.actions.analyses import sweep_locks
from server.studio.actions.calls import call
from server.studio.actions.rules import RuleBook
from server.studio.models import Footage, Plate, Project
from server.studio.models.analysis import store

State = Plate.State
DRAFT_LINES = 200
"""Rows of the picture in a draft, about."""
MOST_OF_A_CLIP = 60
"""Plates that are kept of a clip, those requested last."""
DAYS_KEPT = 30


def subject_of(footage: Footage, taken: Interpretation) -> Subject:
    """A clip as its plates need it."""
    return Subject(footage.path, footage.identity_now.key, footage.info, taken)


def plates_of(footage: Footage, taken: Interpretation, *, drafts: bool = False) -> PlateFinder:
    """Finds plates of a clip as it is taken.

    Args:
        footage: the clip.
        taken: what its samples mean.
        drafts: whether a draft does, where the plate is not there.
    """
    find = finder(store, subject_of(footage, taken))

    def or_draft(asked: str) -> Path | None:
        found = find(asked)
        if found is not None or not drafts:
            return found
        return find(draft_of(PlateRequest.model_validate_json(asked)).model_dump_json())

    return or_draft


def draft_of(asked: PlateRequest) -> PlateRequest:
    """The draft of a plate."""
    shrink = 1
    while asked.scene.height // (shrink * 2) >= DRAFT_LINES:
        shrink *= 2
    return asked.draft(shrink)


def asked_by(plan: Plan, footage: Footage, library: Library, time: Fraction | None = None) -> list[PlateRequest]:
    """The plates that a plan asks for; only that of the shot of a time, where one is given."""
    found = plates_asked(plan, footage.info)
    if time is not None and plan.shots:
        number = max((at for at, shot in enumerate(plan.shots) if shot.start <= time), default=0)
        found = tuple(one for one in found if one.shot == number)
    return [with_files(one.asked, library) for one in found]


def request(footage: Footage, plan: Plan, asked: Iterable[PlateRequest], *, first: bool = False) -> list[Plate]:
    """Request plates; those that exist or are in progress stay.

    Args:
        footage: of which clip.
        plan: for which plan, of which what the clip is taken to be counts.
        asked: which.
        first: whether they come before others, because a person waits at the bench.
    """
    subject = subject_of(footage, plan.interpretation)
    rows = []
    for one in asked:
        key = PlateAnalysis(one, store).request(subject).key
        row, new = Plate.objects.get_or_create(
            footage=footage,
            key=key,
            defaults={
                "asked_json": one.model_dump(mode="json"),
                "taken_json": plan.interpretation.model_dump(mode="json"),
                "rank": time.time() - (1e6 if first else 0),
                "total": 100,
            },
        )
        if not new:
            _again(row)
        rows.append(row)
    if any(row.state == State.QUEUED for row in rows):
        call("plate")
    return rows


def _again(row: Plate) -> None:
    """Request a plate again: one that was deleted meanwhile is made again."""
    if row.used < timezone.now() - timedelta(hours=1):
        Plate.objects.filter(pk=row.pk).update(used=timezone.now())
    if row.state == State.DONE and not row.problem and row.found is None:
        jobs.begin_anew(row)


def retry(row: Plate) -> Plate:
    """Let a plate that could not be made be tried again.

    Raises:
        NotAllowed: it has not ended.
    """
    jobs.begin_anew(row)
    call("plate")
    return row


def missing(plan: Plan, footage: Footage, library: Library) -> list[Plate]:
    """Plates that a plan needs and that are not there, being made from now on.

    Raises:
        BadRequest: the plan names a file that is missing.
    """
    asked = asked_by(plan, footage, library)
    return [row for row in request(footage, plan, asked) if row.state != State.DONE or row.found is None]


def collect() -> None:
    """Delete plates that were not requested for a while, and more than a number of one clip. Called by a worker."""
    old = Plate.objects.filter(state__in=Plate.ENDED, used__lt=timezone.now() - timedelta(days=DAYS_KEPT))
    old.delete()
    many = Footage.everything.annotate(count=Count("plates")).filter(count__gt=MOST_OF_A_CLIP)
    for footage in many.values_list("pk", flat=True):
        kept = Plate.objects.filter(footage=footage).order_by("-used").values_list("pk", flat=True)[:MOST_OF_A_CLIP]
        with transaction.atomic():
            Plate.objects.filter(footage=footage, state__in=Plate.ENDED).exclude(pk__in=list(kept)).delete()
    there = set(Plate.objects.values_list("pk", flat=True))
    sweep_locks(Path(settings.ANALYSES_DIR).glob(".plate-lock-*"), there)


def call_if_any_extends(project: Project) -> None:
    """Call a worker to see to the plates of a project, where a rule of it extends the scene."""
    if any(isinstance(rule.surround, Extended) for rule in RuleBook.of(project).framings.values()):
        call("extending", project.pk)
