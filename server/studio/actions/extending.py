"""Framings that extend their scene: the verdict, variants, pictures finished elsewhere."""

import logging
from collections.abc import Callable
from fractions import Fraction

from cadrage.analysis.sides.verdict import ShotSides
from cadrage.compose.advice import advised, shot_of
from cadrage.compose.extending import extends, plate_states
from cadrage.compose.outside_still import TakenBack, place_of_frame, still_out, take_back
from cadrage.errors import BadRequest, CadrageError
from cadrage.extend.request import OutsidePicture, PlateSide, Side
from cadrage.footage import Library
from cadrage.plan import Plan
from cadrage.surrounds import Extended
from server.studio.actions import analyses, plates
from server.studio.actions.framing_plans import all_with_plans
from server.studio.actions.materials import import_data, library_of
from server.studio.actions.previews import previewer
from server.studio.models import Analysis, Footage, Framing, Material, Plate, Project

KIND = "sides"
log = logging.getLogger(__name__)


def verdict_at(footage: Footage, time: Fraction) -> ShotSides | None:
    """That of the shot of a time."""
    found = footage.sides
    return None if found is None else shot_of(found, time)


def look(footage: Footage) -> Analysis:
    """Have the sides of a clip looked at, where nobody has yet."""
    analyses.request(footage, "bars")
    analyses.request(footage, KIND)
    return footage.analyses.get(kind=KIND)


def look_at_all(project: Project) -> None:
    """Have the sides of all clips of a project looked at, where nobody has yet."""
    for footage in project.footage.prefetch_related("analyses"):
        look(footage)


def library_for(footage: Footage, plan: Plan) -> Library:
    """What a plan that extends may use, with drafts."""
    return library_of(footage, plan.interpretation, previewer.store, drafts=True)


def begin_extension(plan: Plan, footage: Footage, time: Fraction) -> Plan:
    """A plan without shots that is to extend: as the verdict advises, where there is one."""
    surround = plan.surround if isinstance(plan.surround, Extended) else Extended()
    found = footage.sides
    return plan.model_copy(update={"surround": surround if found is None else advised(surround, found, time)})


def make_for(footage: Footage, plan: Plan, time: Fraction, *, drafts: bool = False) -> list[Plate]:
    """Have the plates made that a plan needs in the shot of a time: drafts first, then the plates themselves.

    Args:
        footage: the clip.
        plan: what needs them.
        time: in seconds of the clip.
        drafts: whether drafts will do.
    """
    asked = plates.asked_by(plan, footage, library_for(footage, plan), time)
    rows = plates.request(footage, plan, [plates.draft_of(one) for one in asked], first=True)
    return rows if drafts else plates.request(footage, plan, asked)


def with_variant(plan: Plan, time: Fraction, side: Side, variant: int) -> Plan:
    """A plan in whose shot of a time a side goes on in another way."""

    def changed(one: Plan) -> Plan:
        surround = one.surround if isinstance(one.surround, Extended) else Extended()
        how = getattr(surround, side) or PlateSide()
        given = how.model_copy(update={"variant": variant})
        return one.model_copy(update={"surround": surround.model_copy(update={side: given})})

    return _in_shot(plan, time, changed)


def _in_shot(plan: Plan, time: Fraction, change: Callable[[Plan], Plan]) -> Plan:
    number = max((at for at, shot in enumerate(plan.shots) if shot.start <= time), default=None)
    if number is None or plan.shots[number].surround is None:
        return change(plan)
    alone = change(plan.of_shot(plan.shots[number]))
    shots = list(plan.shots)
    shots[number] = shots[number].model_copy(update={"surround": alone.surround})
    return plan.model_copy(update={"shots": tuple(shots)})


def variants(footage: Footage, plan: Plan, time: Fraction, side: Side, numbers: range) -> list[Plate]:
    """Have drafts made of ways in which a side can go on."""
    rows = []
    for number in numbers:
        way = with_variant(plan, time, side, number)
        asked = plates.asked_by(way, footage, library_for(footage, way), time)
        rows += plates.request(footage, way, [plates.draft_of(one) for one in asked], first=True)
    return rows


def see_to(project_id: int) -> None:
    """Have the plates made of all framings of a project that extend. Called by a worker."""
    for row, plan in all_with_plans(project_id):
        if not extends(plan):
            continue
        try:
            plates.request(row.footage, plan, plates.asked_by(plan, row.footage, library_for(row.footage, plan)))
        except CadrageError as error:
            log.info("No plate was asked for %s: %s", row, error)


def stamps(plan: Plan, footage: Footage, library: Library) -> list[str]:
    """What changes with the plates that a plan is drawn with."""
    return list(plate_states(plan, footage.info, library).values())


def with_outside(framing: Framing, plan: Plan, time: Fraction, ref: str) -> Plan:
    """A plan with a picture of a generator in the place of what would be invented.

    Raises:
        BadRequest: none of those that came has that name.
    """
    orders = framing.generations.all()
    order = next((one for one in orders if any(made["material"] == ref for made in one.variants_json)), None)
    if order is None:
        raise BadRequest("This picture is not here any more.", remedy="Ask the generator again.")
    return _outside_in(plan, time, place_of_frame(order.plan, framing.footage.info, order.moment), ref)


def _outside_in(plan: Plan, time: Fraction, place: OutsidePicture, ref: str) -> Plan:
    outside = place.model_copy(update={"of": ref})

    def changed(one: Plan) -> Plan:
        surround = one.surround if isinstance(one.surround, Extended) else Extended()
        return one.model_copy(update={"surround": surround.model_copy(update={"outside": outside})})

    return _in_shot(plan, time, changed)


def save_still(footage: Footage, plan: Plan, time: Fraction) -> bytes:
    """A frame as a PNG to be finished elsewhere.

    Raises:
        BadRequest: the picture is turned.
    """
    return still_out(plan, footage.path, footage.info, time, library_for(footage, plan))


def take_in(footage: Footage, plan: Plan, time: Fraction, name: str, data: bytes) -> tuple[Plan, TakenBack, Material]:
    """A plan with a picture that was finished elsewhere in the place of what would be invented.

    Raises:
        BadRequest: it is no such picture.
    """
    try:
        taken = take_back(plan, footage.path, footage.info, time, data, library_for(footage, plan))
    except BadRequest as error:
        error.clip = name
        raise
    origin = f"finished elsewhere, for {footage.name}"
    material = import_data(footage.project, f"{name.rpartition('.')[0] or name}.png", taken.png, origin)
    return _outside_in(plan, time, taken.place, material.ref), taken.about, material
