"""Framings: changing their plans, obeying rules, and going back and forth in their history."""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass

from django.db import transaction
from django.db.models import F

from cadrage.compose.extending import extends
from cadrage.compose.following import unsolved, without_ways
from cadrage.compose.resizing import other_size, resized
from cadrage.errors import Stale
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.motion import Motion
from cadrage.plan import PARTS, Design, Part, Plan, ReusableStyle, Style
from cadrage.rules import Rule
from server.studio.actions import history
from server.studio.actions.calls import call
from server.studio.actions.design_size import check_size
from server.studio.actions.framing_plans import loaded, plan_of
from server.studio.actions.rules import RuleBook, set_rules
from server.studio.models import Framing, Step

LONGEST_HISTORY = 500


def change(framing: Framing, design: Design, label: str, version: int | None = None) -> Framing:
    """Give a framing a custom design. Undone steps are forgotten; the same design again changes nothing.

    Args:
        framing: to change.
        design: the new one.
        label: of the change, for its history.
        version: of the framing that the design was made of; None where it need not be that.

    Raises:
        Stale: it is of another version.
    """
    with transaction.atomic():
        rows = _locked([framing])
        _check_version(rows[0], version)
        return next(iter(_change_each(rows, lambda _: design, label, locked=True)), framing)


@dataclass(frozen=True)
class Did:
    """A design that was given to a framing, and the label of the change."""

    design: Design
    label: str


def change_in_turn(framing: Framing, steps: Sequence[Did], version: int) -> Framing:
    """Give a framing several designs in their order, without those that it already got.

    Args:
        framing: to change.
        steps: the changes, in their order.
        version: of the framing that the first of them was done to.

    Raises:
        Stale: it was changed since. BadRequest: a design is larger than `MAX_DESIGN_BYTES`.
    """
    for done in steps:
        check_size(done.design, framing)
    with transaction.atomic():
        rows = _locked([framing])
        for done in _to_come(rows[0], steps, version):
            rows = _change_each(rows, lambda _, done=done: done.design, done.label, locked=True) or rows
    return rows[0]


def _to_come(framing: Framing, steps: Sequence[Did], version: int) -> Sequence[Did]:
    """The rest of some steps, if all changes since a version are the first of them.

    Raises:
        Stale: something else happened.
    """
    seen = framing.steps.filter(pk=version, number__lt=framing.current).first()
    if seen is None:
        _check_version(framing, version)
        return steps
    come = 0
    for stored in framing.steps.filter(number__gt=seen.number, number__lte=framing.current):
        arrived = Did(stored.plan.design, stored.label) if stored.plan else None
        if arrived not in steps[come:]:
            _check_version(framing, version)
        come = steps.index(arrived, come) + 1
    return steps[come:]


def _check_version(framing: Framing, version: int | None) -> None:
    """See that a framing is of a version; its row ought to be locked.

    Raises:
        Stale: it is not.
    """
    if version is None or framing.version == version:
        return
    seen = framing.steps.filter(pk=version).values_list("number", flat=True).first()
    after = framing.steps.filter(number__lte=framing.current)
    if seen is None:
        changed = list(after.order_by("-number").values_list("label", flat=True)[:1])
    elif seen > framing.current:
        changed = [f"Undone: {label}" for label in framing.steps.filter(number=seen).values_list("label", flat=True)]
    else:
        changed = list(after.filter(number__gt=seen).values_list("label", flat=True))
    raise Stale(
        "This framing was changed elsewhere meanwhile.",
        remedy="Choose which of the two it shall be.",
        changed=tuple(changed),
        clip=framing.footage.name,
    )


@contextmanager
def unchanged_since(framings: Iterable[Framing], versions: Mapping[int, int]) -> Iterator[None]:
    """Lock framings for the block, after a check that they have the versions that the visitor saw.

    Args:
        framings: which.
        versions: by the framings' ids; framings without an entry may have any version.

    Raises:
        Stale: a framing was changed since.
    """
    with transaction.atomic():
        if versions:
            for row in _locked(framings):
                _check_version(row, versions.get(row.pk))
        yield


def obey(framings: Iterable[Framing]) -> list[Framing]:
    """Let framings use their presets again, in one step each; those that already do stay unchanged."""
    return _put(framings, lambda row, _: row.own and _OBEY, "Use preset")


def make_rules(framings: list[Framing]) -> list[Framing]:
    """Make the way framings are now the rules for their formats and frames; they obey from then on.

    Those with keyframes or custom shots keep their plans: no preset can hold these.
    """
    with transaction.atomic(), history.as_one():
        rows = _locked(framings)
        book = _books(rows)
        plans = [(row, book(row).plan(row, row.own)) for row in rows]
        for project in {row.footage.project for row, _ in plans}:
            mine = [(row, plan) for row, plan in plans if row.footage.project_id == project.pk]
            set_rules(project, ((row.footage, row.frame, Rule(**Rule.parts_of(plan))) for row, plan in mine))
        for project in {row.footage.project_id for row, plan in plans if plan.motion.follow is not None}:
            call("following", project)
        for project in {row.footage.project_id for row, plan in plans if extends(plan)}:
            call("extending", project)
        obey([row for row, plan in plans if not plan.motion.keys and not plan.shots])
    return _locked(framings)


def paste(source: Framing, framings: Iterable[Framing], parts: Iterable[Part]) -> list[Framing]:
    """Copy parts of a framing's plan to others; one step each.

    In a frame of another size the copy means the same: its point of the picture stays in the middle, and lengths in
    frame pixels are scaled. Keyframes and shots are copied only to framings of the same clip.
    """
    plan, wanted = without_ways(plan_of(source)), tuple(parts)  # other frames need paths of their own
    everything = (*wanted, "shots") if set(wanted) == set(PARTS) else wanted
    copies: dict[int, Plan] = {}

    def copy_for(row: Framing, frame: Frame) -> Plan:
        if row.frame_id not in copies:
            same_size = not other_size(plan.frame, frame)
            copies[row.frame_id] = plan if same_size else resized(plan, source.footage.info, frame)
        return copies[row.frame_id]

    def pasted(row: Framing, now: Plan) -> Plan | None:
        copy = copy_for(row, now.frame)
        if row.footage_id == source.footage_id:
            given = {part: getattr(copy, part) for part in everything}
        else:
            reusable = ReusableStyle.parts_of(copy)
            given = {part: reusable[part] for part in wanted}
        design = now.design.model_copy(update=given)
        return None if design == now.design else design.on(now)

    return _put(framings, pasted, "Pasted")


def move_over_time(framings: Iterable[Framing], motion: Motion) -> list[Framing]:
    """Give framings one movement, in all of their shots; one step each. Where it follows, the way is found later."""
    label = "Move" if motion.follow is None else "Follow"

    def moved(design: Design) -> Design:
        shots = tuple(shot.model_copy(update={"motion": None}) for shot in design.shots)
        return design.model_copy(update={"motion": motion, "shots": shots})

    return _change_each(framings, moved, label)


def place_all(framings: Iterable[Framing], placement: Placement) -> list[Framing]:
    """Give framings one placement; one step each."""
    return _change_each(framings, lambda design: design.model_copy(update={"placement": placement}), "Placed together")


def move(framings: Iterable[Framing], offset: dict[str, object]) -> list[Framing]:
    """Set the offset of framings; one step each."""

    def moved(design: Design) -> Design:
        return design.model_copy(update={"placement": design.placement.model_copy(update=offset)})

    return _change_each(framings, moved, "Moved together")


def give(framings: Iterable[Framing], style: Style, label: str) -> list[Framing]:
    """Give framings one style, or one design; a step each. Framings that already have it stay unchanged."""
    return _change_each(framings, style.over, label)


def _change_each(
    framings: Iterable[Framing], how: Callable[[Design], Design], label: str, *, locked: bool = False
) -> list[Framing]:
    def changed(_: Framing, now: Plan) -> Plan | None:
        design = how(now.design)
        return None if design == now.design else design.on(now)

    return _put(framings, changed, label, locked=locked)


def refit(framings: Iterable[Framing], frame: Frame) -> list[Framing]:
    """Adapt framings with custom plans to a frame that is about to change; one step each."""

    def fitted(row: Framing, now: Plan) -> Plan | None:
        design = resized(now, row.footage.info, frame).design
        return None if row.own is None or design == now.design else design.on(now)

    return _put(framings, fitted, "Frame resized")


_OBEY = object()


def _put(
    framings: Iterable[Framing], plan_for: Callable[[Framing, Plan], object], label: str, *, locked: bool = False
) -> list[Framing]:
    """Put plans in force, as a new step of each framing; in as many queries for many as for one.

    Args:
        framings: whose.
        plan_for: the new plan of one, of which the present is given; `_OBEY` for its rule's, None to leave it.
        label: of the change.
        locked: whether they are locked already, and as they are stored.
    """
    with transaction.atomic():
        rows = list(framings) if locked else _locked(framings)
        book = _books(rows)
        wanted = [(row, plan_for(row, book(row).plan(row, row.own))) for row in rows]
        new = [(row, None if plan is _OBEY else plan) for row, plan in wanted if plan is not None]
        changed = [row for row, _ in new]
        Step.objects.filter(framing__in=changed, number__gt=F("framing__current")).delete()
        before = {row.pk: row.version for row in changed}
        for row, plan in new:
            row.current += 1
            row.own = plan if isinstance(plan, Plan) else None
        for row, step in zip(changed, Step.objects.bulk_create(_step(row, label) for row in changed), strict=True):
            row.version = step.pk
        Framing.objects.bulk_update(changed, ["current"])
        Step.objects.filter(framing__in=changed, number__lt=F("framing__current") - LONGEST_HISTORY).delete()
        for project in {row.footage.project for row in changed}:
            mine = [row for row in changed if row.footage.project_id == project.pk]
            history.note(
                project,
                label,
                {history.framing_key(row.pk): {"step": before[row.pk]} for row in mine},
                {history.framing_key(row.pk): {"step": row.version} for row in mine},
            )
        for project in {row.footage.project_id for row in changed if unsolved(book(row).plan(row, row.own))}:
            call("following", project)
        for project in {row.footage.project_id for row in changed if extends(book(row).plan(row, row.own))}:
            call("extending", project)
    return changed


def _step(row: Framing, label: str) -> Step:
    plan = None if row.own is None else row.own.model_dump(mode="json")
    return Step(framing=row, number=row.current, label=label[:80], plan_json=plan)


def _locked(framings: Iterable[Framing]) -> list[Framing]:
    """Framings as stored now, with their plans, locked against other changes."""
    rows = Framing.objects.select_for_update().filter(pk__in=[framing.pk for framing in framings])
    related = rows.select_related("footage__project", "frame").prefetch_related("footage__analyses")
    return loaded(list(related.order_by("pk")))


def _books(rows: Iterable[Framing]) -> Callable[[Framing], RuleBook]:
    """The rules of each framing's project, read once for a project."""
    books = {project.pk: RuleBook.of(project) for project in {row.footage.project for row in rows}}
    return lambda row: books[row.footage.project_id]
