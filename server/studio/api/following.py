"""Windows that follow: finding their way, correcting it, and who could be followed."""

from django.http import HttpRequest
from ninja import Router

from cadrage.compose.casting import CastMember, cast_of_shot
from cadrage.compose.following import follows, solved_anew, with_follow
from cadrage.motion import Motion
from cadrage.plan import Design, Plan
from server.studio.actions import following as actions
from server.studio.actions.framing_plans import tried
from server.studio.api import owned
from server.studio.api.schemas import FollowIn, FootageOut, MeasureIn, MomentIn

router = Router(tags=["following"])


@router.post("/footage/{footage_id}/following", response=FootageOut)
def look(request: HttpRequest, footage_id: int) -> FootageOut:
    """Have what moves in a clip looked at, where nobody has yet."""
    actions.request(owned.footage(request, footage_id))
    return FootageOut.of(owned.footage(request, footage_id))


@router.post("/framings/{framing_id}/follow", response=Design)
def follow(request: HttpRequest, framing_id: int, given: FollowIn) -> Design:
    """The design whose window follows. While nobody has looked at its clip it stands, and its way is found after."""
    row = owned.framing(request, framing_id)
    plan, seen = tried(row, given.design), actions.seen_of(row.footage)
    if seen is None:
        actions.request(row.footage)
        return _to_follow(plan, given).design
    return with_follow(plan, row.footage.info, seen, given.follow.asked, given.shot).design


def _to_follow(plan: Plan, given: FollowIn) -> Plan:
    motion = Motion(follow=given.follow.asked, inside=plan.motion.inside)
    if given.shot is None:
        return plan.model_copy(update={"motion": motion})
    shots = list(plan.shots)
    shots[given.shot] = shots[given.shot].model_copy(update={"motion": motion})
    return plan.model_copy(update={"shots": tuple(shots)})


@router.post("/framings/{framing_id}/follow/anew", response=Design)
def anew(request: HttpRequest, framing_id: int, given: MomentIn) -> Design:
    """The design with every way found anew, as after a change of its size."""
    row = owned.framing(request, framing_id)
    plan, seen = tried(row, given.design), actions.seen_of(row.footage)
    return given.design if seen is None or not follows(plan) else solved_anew(plan, row.footage.info, seen).design


@router.post("/framings/{framing_id}/follow/others", response=list[int])
def others(request: HttpRequest, framing_id: int, given: MeasureIn) -> list[int]:
    """Let the clip follow in its other frames as in this design: whom, the pins, the pace; one step of each."""
    row = owned.framing(request, framing_id)
    return [one.pk for one in actions.give_to_others(row, tried(row, given.design))]


@router.post("/framings/{framing_id}/candidates", response=list[CastMember])
def candidates(request: HttpRequest, framing_id: int, given: MomentIn) -> list[CastMember]:
    """Who could be followed in the shot of a time; nobody while its clip was not looked at."""
    row = owned.framing(request, framing_id)
    seen = actions.seen_of(row.footage)
    return [] if seen is None else list(cast_of_shot(tried(row, given.design), row.footage.info, seen, given.time))
