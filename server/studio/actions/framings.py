"""Framings: beginning one, changing its plan, and going back and forth in its history."""

from django.db import transaction

from cadrage.errors import BadRequest
from cadrage.plan import Plan
from server.studio.models import Footage, Framing, OrderedFrame, Step

LONGEST_HISTORY = 500


def begin(footage: Footage, frame: OrderedFrame) -> Framing:
    """The framing of a clip in a frame; made, whole over a blurred copy, where there is none yet."""
    with transaction.atomic():
        framing, new = Framing.objects.get_or_create(footage=footage, frame=frame)
        if new:
            plan = _owned(framing, Plan(frame=frame.value))
            Step.objects.create(framing=framing, number=0, label="Begun", plan_json=plan.model_dump(mode="json"))
    return framing


def plan_of(framing: Framing) -> Plan:
    """The plan that is in force, with the clip's interpretation and the frame as they are now."""
    return _owned(framing, framing.steps.get(number=framing.current).plan)


def change(framing: Framing, plan: Plan, label: str) -> Framing:
    """Put a new plan in force. What had been undone is forgotten; the same plan again changes nothing."""
    owned = _owned(framing, plan)
    with transaction.atomic():
        framing = Framing.objects.select_for_update().get(pk=framing.pk)
        if plan_of(framing) == owned:
            return framing
        framing.steps.filter(number__gt=framing.current).delete()
        framing.current += 1
        Step.objects.create(
            framing=framing, number=framing.current, label=label[:80], plan_json=owned.model_dump(mode="json")
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
        framing = Framing.objects.select_for_update().get(pk=framing.pk)
        if not framing.steps.filter(number=framing.current + by).exists():
            raise BadRequest(otherwise, remedy="Change something first.", clip=framing.footage.name)
        framing.current += by
        framing.save(update_fields=["current"])
    return framing


def _owned(framing: Framing, plan: Plan) -> Plan:
    """A plan that speaks of this clip and this frame, whatever it said of them."""
    own = {
        "source": f"footage:{framing.footage_id}",
        "frame": framing.frame.value,
        "interpretation": framing.footage.interpretation,
    }
    return plan.model_copy(update=own)
