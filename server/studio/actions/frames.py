"""Frames of a project: adding and changing them; clips and frames in the order of their people."""

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import TypeVar

from django.db import transaction

from cadrage.compose import measure
from cadrage.compose.resizing import other_size, resized
from cadrage.errors import BadRequest
from cadrage.formats import Delivery, Frame
from cadrage.output import Settings, encoder_config, following
from cadrage.plan import Plan
from cadrage.render import frame_written
from cadrage.rules import Rule
from server.studio.actions.change_labels import frame_label
from server.studio.actions.framing_plans import fresh
from server.studio.actions.framings import refit
from server.studio.actions.history import as_one, note_added, only, recorded
from server.studio.actions.rules import RuleBook, set_rules
from server.studio.models import Footage, Framing, Project, ProjectFrame
from server.studio.models.project import named

MOST_FRAMES = 12
LESS = Fraction(1, 20)
"""Percent of a picture: what less than that is lost is not told."""
Ranked = TypeVar("Ranked", Footage, ProjectFrame)


def add(project: Project, frame: Frame) -> ProjectFrame:
    """Add a frame to a project.

    Raises:
        BadRequest: it has as many as it may have.
    """
    if project.frames.count() >= MOST_FRAMES:
        raise BadRequest(f"A project has at most {MOST_FRAMES} frames.", remedy="Remove one first.")
    row = ProjectFrame.from_value(project, frame)
    with transaction.atomic():
        row.save()
        note_added(project, f"Add frame {row.value.name}", row)
    return row


@dataclass(frozen=True, slots=True)
class Loss:
    """A framing that keeps less of its picture than it did in the frame as that was, in percent."""

    framing: Framing
    before: Fraction
    after: Fraction


def change(row: ProjectFrame, frame: Frame, delivery: Delivery, settings: Settings) -> tuple[ProjectFrame, list[Loss]]:
    """Change a frame for every clip that goes into it, and what is asked of it.

    Settings take along what follows from their change; see `following`. Where its size changes, rules and framings
    follow as far as they can; see `resized`. Those that then keep less of their picture are told.

    Raises:
        BadRequest: the new settings cannot hold it. A frame that old ones cannot hold is told where a file is ordered.
    """
    settings = following(row.settings, settings)
    if settings != row.settings:
        encoder_config(settings, frame_written(frame, settings))
    follows = other_size(row.value, frame)
    before = _kept(row) if follows else {}
    label = frame_label(row, frame, delivery, settings)
    with as_one(label), recorded(row.project, label, only(row)):
        if follows:
            _follow(row, named(frame))
        row.frame_json = named(frame).model_dump(mode="json")
        row.delivery_json = delivery.model_dump(mode="json")
        row.settings_json = settings.model_dump(mode="json")
        row.save(update_fields=["frame_json", "delivery_json", "settings_json"])
    row = ProjectFrame.objects.select_related("project").get(pk=row.pk)
    after = _kept(row) if follows else {}
    lost = [Loss(framing, before[framing], now) for framing, now in after.items() if framing in before]
    return row, [loss for loss in lost if loss.before - loss.after > LESS]


def _kept(row: ProjectFrame) -> dict[Framing, Fraction]:
    """How much of its picture each framing in a frame keeps, in percent."""
    book = RuleBook.of(row.project)
    return {
        framing: measure(book.plan(framing, framing.own), framing.footage.info).cost.kept_percent
        for framing in fresh(list(row.framings.all()))
    }


def _follow(row: ProjectFrame, frame: Frame) -> None:
    """Let rules and framings follow a frame that is about to be another. Geometry only; nothing is decoded."""
    clips = {clip.format_key: clip for clip in row.project.footage.all()}
    book = RuleBook.of(row.project)
    rules = []
    for (key, frame_id), rule in book.framings.items():
        clip = clips.get(key)
        if frame_id == row.pk and clip is not None:
            plan = rule.on(Plan(frame=row.value, interpretation=book.interpretation(clip)))
            rules.append((clip, row, Rule(**Rule.parts_of(resized(plan, clip.info, frame)))))
    set_rules(row.project, rules)
    refit(row.framings.all(), frame)


def put_in_order(project: Project, kind: type[Ranked], wanted: Sequence[int]) -> None:
    """Put clips or frames of a project in an order; those that are not named come after, as they were.

    Raises:
        BadRequest: one of those named is not there.
    """
    rows = {row.pk: row for row in kind.objects.filter(project=project)}
    if not rows.keys() >= set(wanted):
        raise BadRequest("One of these is not in the project any more.", remedy="Load the page again.")
    order = list(dict.fromkeys([*wanted, *rows]))
    for rank, pk in enumerate(order):
        rows[pk].rank = rank
    with recorded(project, "Order", kind.objects.filter(project=project)):
        kind.objects.bulk_update(rows.values(), ["rank"], batch_size=500)
