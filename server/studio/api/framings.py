"""Framings: changing, undoing, measuring and seeing them."""

from django.http import HttpRequest, HttpResponse
from ninja import Router

from cadrage.compose import Measure, measure
from cadrage.compose.framed import straightened, with_window
from cadrage.compose.legible import Legible, legibility
from cadrage.compose.legible import readable as made_readable
from cadrage.compose.quiet import Quietness, quietened, quietness
from cadrage.plan import Plan
from cadrage.render import Order, estimate
from cadrage.render.words import fitting_of
from server.studio.actions import framings as actions
from server.studio.actions import rules as rule_actions
from server.studio.actions.looking import found, kept, latest, looker
from server.studio.actions.materials import library_of, sampled
from server.studio.actions.renders import free_bytes
from server.studio.api import owned
from server.studio.api.schemas import EstimateOut, FramingOut, LineIn, MeasureIn, PlanIn, PreviewIn, WindowIn
from server.studio.api.schemas.board import stamp_of

router = Router(tags=["framings"])
WIDEST_THUMBNAIL = 640


@router.get("/framings/{framing_id}", response=FramingOut)
def framing(request: HttpRequest, framing_id: int) -> FramingOut:
    """A framing as it is."""
    return FramingOut.of(owned.framing(request, framing_id))


@router.put("/framings/{framing_id}/plan", response=FramingOut)
def change(request: HttpRequest, framing_id: int, given: PlanIn) -> FramingOut:
    """Put a new plan in force; one step of history."""
    return FramingOut.of(actions.change(owned.framing(request, framing_id), given.plan, given.label))


@router.post("/framings/{framing_id}/undo", response=FramingOut)
def undo(request: HttpRequest, framing_id: int) -> FramingOut:
    """Go back one step."""
    return FramingOut.of(actions.undo(owned.framing(request, framing_id)))


@router.post("/framings/{framing_id}/redo", response=FramingOut)
def redo(request: HttpRequest, framing_id: int) -> FramingOut:
    """Go forward one step."""
    return FramingOut.of(actions.redo(owned.framing(request, framing_id)))


@router.post("/framings/{framing_id}/obey", response=FramingOut)
def obey(request: HttpRequest, framing_id: int) -> FramingOut:
    """Go back to the rule; one step of history."""
    row = owned.framing(request, framing_id)
    actions.obey([row])
    return FramingOut.of(owned.framing(request, framing_id))


@router.post("/framings/{framing_id}/rule", response=FramingOut)
def make_rule(request: HttpRequest, framing_id: int) -> FramingOut:
    """Make the way this framing is the rule for its source format and frame."""
    return FramingOut.of(actions.make_rule(owned.framing(request, framing_id)))


@router.delete("/framings/{framing_id}/rule", response=FramingOut)
def drop_rule(request: HttpRequest, framing_id: int) -> FramingOut:
    """Let the rule for this framing's source format and frame be the sensible one again."""
    row = owned.framing(request, framing_id)
    rule_actions.drop_rule(row.footage, row.frame)
    return FramingOut.of(row)


@router.post("/framings/{framing_id}/window", response=Plan)
def from_window(request: HttpRequest, framing_id: int, given: WindowIn) -> Plan:
    """The plan whose frame shows a window of the source."""
    row = owned.framing(request, framing_id)
    return with_window(given.plan, row.footage.facts, given.window)


@router.post("/framings/{framing_id}/straighten", response=Plan)
def straighten(request: HttpRequest, framing_id: int, given: LineIn) -> Plan:
    """The plan in which a line drawn on the frame lies level, or upright where that is nearer."""
    owned.framing(request, framing_id)
    return straightened(given.plan, given.across, given.down)


@router.post("/framings/{framing_id}/quiet", response=Quietness)
def quiet(request: HttpRequest, framing_id: int, given: MeasureIn) -> Quietness:
    """How quiet the surround of a plan is."""
    row = owned.framing(request, framing_id)
    return quietness(given.plan, sampled(given.plan, row.footage))


@router.post("/framings/{framing_id}/quieten", response=Plan)
def quieten(request: HttpRequest, framing_id: int, given: MeasureIn) -> Plan:
    """The plan with the least change that makes its surround calm."""
    row = owned.framing(request, framing_id)
    return quietened(given.plan, sampled(given.plan, row.footage))


@router.post("/framings/{framing_id}/legible", response=list[Legible])
def legible(request: HttpRequest, framing_id: int, given: MeasureIn) -> list[Legible]:
    """How well the words of a plan can be read."""
    row = owned.framing(request, framing_id)
    return list(legibility(given.plan, sampled(given.plan, row.footage)))


@router.post("/framings/{framing_id}/readable", response=Plan)
def readable(request: HttpRequest, framing_id: int, given: MeasureIn) -> Plan:
    """The plan with the least change that gives its words enough contrast."""
    row = owned.framing(request, framing_id)
    return made_readable(given.plan, sampled(given.plan, row.footage))


@router.get("/framings/{framing_id}/estimate", response=EstimateOut)
def estimated(request: HttpRequest, framing_id: int) -> EstimateOut:
    """About how large its file will be, as it is framed and written now, and how much room there is."""
    row = owned.framing(request, framing_id)
    plan = actions.plan_of(row)
    library = library_of(row.footage, plan.interpretation)
    order = Order(plan, row.footage.path, row.footage.facts, library, row.frame.settings, row.footage.name)
    return EstimateOut(bytes=estimate(order).bytes, free=free_bytes(), fitting=fitting_of(order))


@router.post("/framings/{framing_id}/measure", response=Measure)
def measured(request: HttpRequest, framing_id: int, given: MeasureIn) -> Measure:
    """The numbers of a plan that is not in force yet."""
    row = owned.framing(request, framing_id)
    return measure(given.plan, row.footage.facts)


@router.post("/framings/{framing_id}/preview")
def preview(request: HttpRequest, framing_id: int, given: PreviewIn) -> HttpResponse:
    """A composed frame as a JPEG; 204 where a newer request for the same place has come."""
    row = owned.framing(request, framing_id)
    plan, path, facts = given.plan, row.footage.path, row.footage.facts
    library = library_of(row.footage, plan.interpretation, looker.store)
    asker = f"{request.session.session_key} {given.slot}"
    data = latest.run(
        asker, given.ticket, lambda: looker.image(plan, path, facts, given.time, given.width, library=library)
    )
    if data is None:
        return HttpResponse(status=204)
    return HttpResponse(data, content_type="image/jpeg", headers={"Cache-Control": "no-store"})


@router.get("/framings/{framing_id}/thumbnail")
def thumbnail(request: HttpRequest, framing_id: int, width: int = 240, stamp: str = "") -> HttpResponse:
    """The framing in the middle of its clip, small, as a JPEG.

    `stamp` is the board's; with it, one that is kept is sent without working out anything.
    """
    row = owned.framing(request, framing_id)
    width = min(max(width, 16), WIDEST_THUMBNAIL)
    if stamp and (held := found(f"thumbnail {stamp} {width}")) is not None:
        return _jpeg(held)
    plan, facts, path = actions.plan_of(row), row.footage.facts, row.footage.path
    name = f"thumbnail {stamp_of(plan, row.footage)} {width}"
    library = library_of(row.footage, plan.interpretation, looker.store)
    return _jpeg(kept(name, lambda: looker.middle(plan, path, facts, width, library)))


def _jpeg(data: bytes) -> HttpResponse:
    return HttpResponse(data, content_type="image/jpeg", headers={"Cache-Control": "private, max-age=3600"})
