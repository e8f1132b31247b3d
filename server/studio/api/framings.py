"""Framings: changing, undoing, measuring and seeing them."""

from base64 import b64encode
from collections.abc import Callable
from fractions import Fraction

from django.http import HttpRequest, HttpResponse
from ninja import Router

from cadrage.compose import measure
from cadrage.compose.cutting import in_shot, shot_of
from cadrage.compose.following import shifted, with_pin
from cadrage.compose.framed import straightened, with_window
from cadrage.compose.keying import with_key, with_move_as_keys, with_nearest, with_shift
from cadrage.compose.legible import Legible, legibility
from cadrage.compose.legible import readable as made_readable
from cadrage.compose.over_time import OverTime, over_time
from cadrage.compose.path import PathPoint, path_of
from cadrage.compose.preview import At
from cadrage.compose.quiet import Quietness, Sample, quietened, quietness
from cadrage.compose.scopes import scope as drawn_scope
from cadrage.plan import Design, Plan
from cadrage.render import stated
from cadrage.render.offers import fitting_of
from server.studio.actions import framing_plans, sizes
from server.studio.actions import framings as actions
from server.studio.actions import rules as rule_actions
from server.studio.actions.following import seen_or_refused
from server.studio.actions.materials import Measured, by_sample, key_of, library_of
from server.studio.actions.previews import Made, found, in_turn, kept, previewer
from server.studio.api import owned
from server.studio.api.schemas import (
    EstimateOut,
    FramingOut,
    HistoryOut,
    KeyIn,
    LineIn,
    MeasureIn,
    PreviewIn,
    PreviewOut,
    SavedOut,
    ScopeIn,
    ScopeOut,
    StepsIn,
    VersionIn,
    WindowIn,
)
from server.studio.models import Framing

router = Router(tags=["framings"])
WIDEST_THUMBNAIL = 640


@router.get("/framings/{framing_id}", response=FramingOut)
def framing(request: HttpRequest, framing_id: int) -> FramingOut:
    """A framing as it is."""
    return FramingOut.of(owned.framing(request, framing_id))


@router.put("/framings/{framing_id}/design", response=SavedOut)
def change(request: HttpRequest, framing_id: int, given: StepsIn) -> SavedOut:
    """Store designs, each as a step of the history. Designs based on another version are refused with 409.

    Steps that were stored already, and are sent again because the answer was lost, are skipped.
    """
    row = owned.framing(request, framing_id)
    changed = actions.change_in_turn(row, given.each, given.version)
    return SavedOut(framing=FramingOut.of(changed), history=HistoryOut.of(row.footage.project, request.user))


@router.post("/framings/{framing_id}/obey", response=FramingOut)
def obey(request: HttpRequest, framing_id: int, given: VersionIn) -> FramingOut:
    """Go back to the rule; one step of history."""
    row = owned.framing(request, framing_id)
    with actions.unchanged_since([row], {row.pk: given.version}):
        actions.obey([row])
    return FramingOut.of(owned.framing(request, framing_id))


@router.post("/framings/{framing_id}/rule", response=FramingOut)
def make_rule(request: HttpRequest, framing_id: int, given: VersionIn) -> FramingOut:
    """Make the way this framing is the rule for its source format and frame."""
    row = owned.framing(request, framing_id)
    with actions.unchanged_since([row], {row.pk: given.version}):
        (row,) = actions.make_rules([row])
    return FramingOut.of(row)


@router.delete("/framings/{framing_id}/rule", response=FramingOut)
def drop_rule(request: HttpRequest, framing_id: int) -> FramingOut:
    """Let the rule for this framing's source format and frame be the sensible one again."""
    row = owned.framing(request, framing_id)
    rule_actions.drop_rule(row.footage, row.frame)
    return FramingOut.of(row)


@router.post("/framings/{framing_id}/window", response=Design)
def from_window(request: HttpRequest, framing_id: int, given: WindowIn) -> Design:
    """The design whose frame shows a window of the source."""
    row = owned.framing(request, framing_id)
    return _changed(row, given, lambda plan: with_window(plan, row.footage.info, given.window))


@router.post("/framings/{framing_id}/straighten", response=Design)
def straighten(request: HttpRequest, framing_id: int, given: LineIn) -> Design:
    """The design in which a line drawn on the frame lies level, or upright where that is nearer."""
    row = owned.framing(request, framing_id)
    return _changed(row, given, lambda plan: straightened(plan, given.across, given.down))


@router.post("/framings/{framing_id}/quiet", response=Quietness)
def quiet(request: HttpRequest, framing_id: int, given: MeasureIn) -> Quietness:
    """How quiet the surround of a design is."""
    return _by_sample(request, framing_id, given, quietness)


@router.post("/framings/{framing_id}/quieten", response=Design)
def quieten(request: HttpRequest, framing_id: int, given: MeasureIn) -> Design:
    """The design with the least change that makes its surround calm."""
    row = owned.framing(request, framing_id)
    return _changed(row, given, lambda plan: by_sample(quietened, plan, row.footage))


@router.post("/framings/{framing_id}/legible", response=list[Legible])
def legible(request: HttpRequest, framing_id: int, given: MeasureIn) -> list[Legible]:
    """How well the words of a design can be read."""
    return list(_by_sample(request, framing_id, given, legibility))


@router.post("/framings/{framing_id}/readable", response=Design)
def readable(request: HttpRequest, framing_id: int, given: MeasureIn) -> Design:
    """The design with the least change that gives its words enough contrast."""
    row = owned.framing(request, framing_id)
    return _changed(row, given, lambda plan: by_sample(made_readable, plan, row.footage))


def _in_force(row: Framing, given: MeasureIn) -> Plan:
    """Return the plan of the requested shot."""
    plan = framing_plans.tried(row, given.design)
    return plan if given.shot is None else plan.of_shot(shot_of(plan, given.shot))


def _changed(row: Framing, given: MeasureIn, change: Callable[[Plan], Plan]) -> Design:
    """A design changed in the shot that it was asked for."""
    return in_shot(framing_plans.tried(row, given.design), row.footage.info, given.shot, change).design


def _by_sample(
    request: HttpRequest, framing_id: int, given: MeasureIn, work: Callable[[Plan, Sample], Measured]
) -> Measured:
    row = owned.framing(request, framing_id)
    return by_sample(work, framing_plans.tried(row, given.design), row.footage)


@router.get("/framings/{framing_id}/estimate", response=EstimateOut)
def estimated(request: HttpRequest, framing_id: int) -> EstimateOut:
    """About how large its file will be, as it is framed and written now, and how much room there is.

    Where frames must be encoded for it a worker does that; ask again while it is not there.
    """
    row = owned.framing(request, framing_id)
    order = sizes.wanted(row)
    known = stated(order)
    return EstimateOut.of(known, None if known else sizes.ask(row, order.key), fitting_of(order))


@router.post("/framings/{framing_id}/over-time", response=OverTime | None)
def measured_over_time(request: HttpRequest, framing_id: int, given: MeasureIn) -> OverTime | None:
    """Return the costs of a moving design over time; null for a static one."""
    row = owned.framing(request, framing_id)
    return over_time(framing_plans.tried(row, given.design), row.footage.info)


@router.post("/framings/{framing_id}/path", response=list[PathPoint])
def path(request: HttpRequest, framing_id: int, given: MeasureIn) -> list[PathPoint]:
    """The way of the window over the picture."""
    row = owned.framing(request, framing_id)
    return list(path_of(framing_plans.tried(row, given.design), row.footage.info))


@router.post("/framings/{framing_id}/key", response=Design)
def key(request: HttpRequest, framing_id: int, given: KeyIn) -> Design:
    """The design with a key at a time; a move becomes keys."""
    row = owned.framing(request, framing_id)
    info, placement = row.footage.info, given.placement
    follow = _in_force(row, given).motion.follow
    if follow is not None and placement is not None:
        if given.way == "shift":
            return _changed(row, given, lambda plan: shifted(plan, info, given.time, placement))
        seen = seen_or_refused(row.footage)
        plan = framing_plans.tried(row, given.design)
        return with_pin(plan, info, seen, given.time, placement, given.shot).design
    if placement is None or given.way == "key":
        return _changed(row, given, lambda plan: with_key(plan, info, given.time, placement))
    put = {"shift": with_shift, "nearest": with_nearest}[given.way]
    return _changed(row, given, lambda plan: put(plan, info, given.time, placement))


@router.post("/framings/{framing_id}/keys", response=Design)
def move_as_keys(request: HttpRequest, framing_id: int, given: MeasureIn) -> Design:
    """The design whose move is done by keys."""
    row = owned.framing(request, framing_id)
    return _changed(row, given, lambda plan: with_move_as_keys(plan, row.footage.info))


@router.post("/framings/{framing_id}/preview", response=PreviewOut)
def preview(request: HttpRequest, framing_id: int, given: PreviewIn) -> PreviewOut:
    """A composed frame of a design, its numbers, or both, at one time."""
    row = owned.framing(request, framing_id)
    plan, width = framing_plans.tried(row, given.design), given.width
    measured = measure(plan, row.footage.info, given.time) if given.measured else None
    if width is None:
        return PreviewOut(picture=None, measure=measured)
    picture = _compose(row, plan, given.time, lambda *look, **files: previewer.image(*look, width, **files))
    return PreviewOut(picture=_data_url("image/jpeg", picture), measure=measured)


@router.post("/framings/{framing_id}/scope", response=ScopeOut)
def scope(request: HttpRequest, framing_id: int, given: ScopeIn) -> ScopeOut:
    """A scope of a composed frame."""
    row = owned.framing(request, framing_id)
    plan = framing_plans.tried(row, given.design)
    measured, picture = _compose(
        row, plan, given.time, lambda *look, **files: drawn_scope(given.kind, *look, previewer, **files)
    )
    return ScopeOut(picture=_data_url("image/png", picture), scope=measured)


def _compose(row: Framing, plan: Plan, time: Fraction, draw: Callable[..., Made]) -> Made:
    """Draw a plan at a time, as soon as a place is free.

    `draw` gets the plan, the path, the media info and the time, and `library` and `identity` by name.
    """
    info, own = row.footage.info, row.footage.identity_now
    library = library_of(row.footage, plan.interpretation, previewer.store, drafts=True)
    return in_turn(
        lambda: draw(plan, row.footage.path, info, time, library=library, identity=own),
        heavy=previewer.is_heavy(info, own, plan, library),
    )


def _data_url(content_type: str, data: bytes) -> str:
    return f"data:{content_type};base64,{b64encode(data).decode('ascii')}"


@router.get("/framings/{framing_id}/thumbnail")
def thumbnail(
    request: HttpRequest, framing_id: int, width: int = 240, stamp: str = "", at: At = "middle"
) -> HttpResponse:
    """The framing in the middle of its clip, or the first or the last frame that is delivered, small, as a JPEG.

    `stamp` is the board's; with it, one that is kept is sent without working out anything.
    """
    row = owned.framing(request, framing_id)
    width = min(max(width, 16), WIDEST_THUMBNAIL)
    own_of = f"thumbnail of {row.footage.project_id}"  # a stamp alone must not open pictures of other projects
    if stamp and (held := found(f"{own_of} {stamp} {width} {at}")) is not None:
        return _jpeg(held)
    plan, info, path = framing_plans.plan_of(row), row.footage.info, row.footage.path
    name = f"{own_of} {key_of(plan, row.footage)} {width} {at}"
    library = library_of(row.footage, plan.interpretation, previewer.store, drafts=True)
    own = row.footage.identity_now
    heavy = previewer.is_heavy(info, own, plan, library)
    return _jpeg(kept(name, lambda: previewer.at(at, plan, path, info, width, library, own), heavy=heavy))


def _jpeg(data: bytes) -> HttpResponse:
    return HttpResponse(data, content_type="image/jpeg", headers={"Cache-Control": "private, max-age=3600"})
