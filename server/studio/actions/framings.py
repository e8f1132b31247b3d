"""Framings: beginning them, changing their plans, obeying rules, and going back and forth in their history."""

from collections.abc import Callable, Iterable

from django.db import transaction
from django.db.models import F

from cadrage.errors import BadRequest
from cadrage.geometry import Placement
from cadrage.plan import Plan
from cadrage.rules import Rule
from server.studio.actions.rules import RuleBook, set_rule
from server.studio.models import Footage, Framing, OrderedFrame, Project, Step

LONGEST_HISTORY = 500


def begin(footage: Footage, frame: OrderedFrame) -> Framing:
    """The framing of a clip in a frame; made, obeying its rule, where there is none yet."""
    with transaction.atomic():
        framing, new = Framing.objects.get_or_create(footage=footage, frame=frame)
        if new:
            Step.objects.create(framing=framing, number=0, label="Begun")
    return framing


def begin_all(project: Project) -> list[tuple[Framing, Plan | None]]:
    """Every framing of a project with its own plan, or None where it obeys; those that are not there yet begin here."""
    footage, frames = list(project.footage.all()), list(project.frames.all())
    there = set(Framing.objects.filter(footage__in=footage).values_list("footage_id", "frame_id"))
    missing = [
        Framing(footage=clip, frame=frame) for clip in footage for frame in frames if (clip.pk, frame.pk) not in there
    ]
    if missing:
        with transaction.atomic():
            made = Framing.objects.bulk_create(missing, ignore_conflicts=False)
            Step.objects.bulk_create(Step(framing=framing, number=0, label="Begun") for framing in made)
    clips, shapes = {clip.pk: clip for clip in footage}, {frame.pk: frame for frame in frames}
    rows = list(Framing.objects.filter(footage__in=footage))
    for row in rows:  # one object for a clip and one for a frame, so that each is read from JSON once
        row.footage, row.frame = clips[row.footage_id], shapes[row.frame_id]
    current = Step.objects.filter(framing__footage__in=footage, number=F("framing__current"))
    plans = {step.framing_id: step.plan for step in current}
    return [(row, plans.get(row.pk)) for row in rows]


def own_plan(framing: Framing) -> Plan | None:
    """The framing's own plan; None while it obeys its rule."""
    return framing.steps.get(number=framing.current).plan


def plan_of(framing: Framing, book: RuleBook | None = None) -> Plan:
    """The plan that is in force, with the clip's interpretation and the frame as they are now."""
    return (book or RuleBook.of(framing.footage.project)).plan(framing, own_plan(framing))


def change(framing: Framing, plan: Plan, label: str) -> Framing:
    """Give a framing a plan of its own. What had been undone is forgotten; the same plan again changes nothing."""
    book = RuleBook.of(framing.footage.project)
    owned = book.plan(framing, plan)
    if plan_of(framing, book) == owned:
        return framing
    return _step(framing, owned, label)


def obey(framings: Iterable[Framing]) -> list[Framing]:
    """Bring framings back to their rules, in one step each; those that obey already stay as they are."""
    changed = [framing for framing in framings if own_plan(framing) is not None]
    return [_step(framing, None, "Back to the rule") for framing in changed]


def make_rule(framing: Framing) -> Framing:
    """Make the way this framing is now the rule for its format and frame; it obeys from then on."""
    plan = plan_of(framing)
    with transaction.atomic():
        set_rule(
            framing.footage, framing.frame, Rule(placement=plan.placement, surround=plan.surround, finish=plan.finish)
        )
        obey([framing])
    return Framing.objects.select_related("footage__project", "frame").get(pk=framing.pk)


def paste(source: Plan, framings: Iterable[Framing], parts: Iterable[str]) -> list[Framing]:
    """Give framings the placement, the surround, or both of a plan; one step each."""
    update = {part: getattr(source, part) for part in parts}
    return _change_each(framings, lambda plan: plan.model_copy(update=update), "Pasted")


def place_all(framings: Iterable[Framing], placement: Placement) -> list[Framing]:
    """Give framings one placement; one step each."""
    return _change_each(framings, lambda plan: plan.model_copy(update={"placement": placement}), "Placed together")


def undo_all(framings: Iterable[Framing]) -> list[Framing]:
    """Go back one step in each of some framings that has one."""
    return [undo(framing) for framing in framings if framing.current > 0]


def move(framings: Iterable[Framing], offset: dict[str, object]) -> list[Framing]:
    """Set the offset of framings; one step each."""

    def moved(plan: Plan) -> Plan:
        return plan.model_copy(update={"placement": plan.placement.model_copy(update=offset)})

    return _change_each(framings, moved, "Moved together")


def _change_each(framings: Iterable[Framing], how: Callable[[Plan], Plan], label: str) -> list[Framing]:
    changed = []
    with transaction.atomic():
        for framing in framings:
            before = framing.current
            after = change(framing, how(plan_of(framing)), label)
            if after.current != before:
                changed.append(after)
    return changed


def _step(framing: Framing, plan: Plan | None, label: str) -> Framing:
    """Put a state in force as a new step."""
    with transaction.atomic():
        framing = Framing.objects.select_for_update().select_related("footage__project", "frame").get(pk=framing.pk)
        framing.steps.filter(number__gt=framing.current).delete()
        framing.current += 1
        Step.objects.create(
            framing=framing,
            number=framing.current,
            label=label[:80],
            plan_json=None if plan is None else plan.model_dump(mode="json"),
        )
        framing.steps.filter(number__lt=framing.current - LONGEST_HISTORY).delete()
        framing.save(update_fields=["current"])
    return framing


def undo(framing: Framing) -> Framing:
    """Go back one step.

    Raises:
        BadRequest: there is none.
    """
    return _move(framing, -1, "There is nothing to undo.")


def redo(framing: Framing) -> Framing:
    """Go forward one step.

    Raises:
        BadRequest: there is none.
    """
    return _move(framing, 1, "There is nothing to redo.")


def _move(framing: Framing, by: int, otherwise: str) -> Framing:
    with transaction.atomic():
        framing = Framing.objects.select_for_update().select_related("footage__project", "frame").get(pk=framing.pk)
        if not framing.steps.filter(number=framing.current + by).exists():
            raise BadRequest(otherwise, remedy="Change something first.", clip=framing.footage.name)
        framing.current += by
        framing.save(update_fields=["current"])
    return framing
