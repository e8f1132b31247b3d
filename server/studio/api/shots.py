"""The shots of a framing's clip."""

from collections.abc import Callable

from django.http import HttpRequest
from ninja import Router

from cadrage.compose import cutting
from cadrage.errors import BadRequest
from cadrage.footage import picture_times
from cadrage.plan import Design, Plan
from server.studio.actions import framing_plans
from server.studio.api import owned
from server.studio.api.schemas import CutIn
from server.studio.models import Footage

router = Router(tags=["shots"])


@router.post("/framings/{framing_id}/shots", response=Design)
def cut(request: HttpRequest, framing_id: int, given: CutIn) -> Design:
    """The design whose shots are otherwise."""
    row = owned.framing(request, framing_id)
    plan = framing_plans.tried(row, given.design)
    return DO[given.do](plan, row.footage, given).design


def _found(plan: Plan, clip: Footage, given: CutIn) -> Plan:
    del given
    if clip.shots is None:
        raise BadRequest("Nobody has looked for shots yet.", remedy="Have them found first.", clip=clip.name)
    return cutting.with_shots(plan, clip.shots.starts)


def _times(clip: Footage) -> cutting.Times | None:
    return picture_times(clip.path, clip.info) if clip.info.rate_varies else None


def _split(plan: Plan, clip: Footage, given: CutIn) -> Plan:
    return cutting.split(plan, clip.info, given.time, _times(clip))


def _move(plan: Plan, clip: Footage, given: CutIn) -> Plan:
    return cutting.moved_cut(plan, clip.info, given.number, given.time, _times(clip))


DO: dict[str, Callable[[Plan, Footage, CutIn], Plan]] = {
    "found": _found,
    "split": _split,
    "join": lambda plan, _, given: cutting.joined(plan, given.number),
    "move": _move,
    "as_whole": lambda plan, _, given: cutting.as_whole(plan, given.number, given.part),
    "copy_next": lambda plan, _, given: cutting.copied(plan, given.number, "next"),
    "copy_all": lambda plan, _, given: cutting.copied(plan, given.number, "all"),
}
