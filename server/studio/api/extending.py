"""Scenes that go on beyond the picture: whether they can, in which ways, and with what from elsewhere."""

from fractions import Fraction
from typing import Literal

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router
from ninja.files import UploadedFile

from cadrage.compose.cutting import in_shot, split_at
from cadrage.compose.extending import plates_asked
from cadrage.compose.extension_shares import origins_at, shares_at, tinted
from cadrage.errors import BadRequest
from cadrage.plan import Design, Plan
from server.studio.actions import extending as actions
from server.studio.actions import generations, jobs, plates
from server.studio.actions.framing_plans import tried
from server.studio.actions.previews import in_turn, previewer
from server.studio.api import owned
from server.studio.api.schemas import (
    AnalysisOut,
    ExtensionOut,
    GenerateIn,
    GenerationOut,
    MomentIn,
    OriginsIn,
    PlateOut,
    StandingIn,
    TakenOut,
    ToFitIn,
    UseIn,
    VariantOut,
    VariantPictureIn,
    VariantsIn,
)
from server.studio.files import attachment
from server.studio.models import Framing, Plate

router = Router(tags=["extending"])
SHORT_SECONDS = 60
"""A clip that is longer is looked at only once its scene is to go on, not for a tile that shows how it would."""
MOST_STILL = 400 * 2**20
JPEG = {"content_type": "image/jpeg", "headers": {"Cache-Control": "no-store"}}
PNG = {"content_type": "image/png", "headers": {"Cache-Control": "no-store"}}


@router.post("/framings/{framing_id}/extension", response=ExtensionOut)
def standing(request: HttpRequest, framing_id: int, given: StandingIn) -> ExtensionOut:
    """How a design that extends its scene stands; what it needs is asked for with that, or only drafts of it."""
    row = owned.framing(request, framing_id)
    plan = tried(row, given.design)
    if not given.drafts or row.footage.info.duration <= SHORT_SECONDS:
        actions.look(row.footage)
    row = owned.framing(request, framing_id)
    return _standing(row, plan, given.time, drafts=given.drafts)


@router.post("/projects/{project_id}/sides", response={204: None})
def look_at_sides(request: HttpRequest, project_id: int) -> tuple[int, None]:
    """Have the sides of every clip of a project looked at, where nobody has yet."""
    actions.look_at_all(owned.project(request, project_id))
    return 204, None


def _standing(row: Framing, plan: Plan, time: Fraction, *, drafts: bool) -> ExtensionOut:
    footage = row.footage
    looking = footage.analysis(actions.KIND)
    asked = actions.make_for(footage, plan, time, drafts=drafts)
    made = plates_asked(plan, footage.info)
    library = actions.library_for(footage, plan)
    states = [PlateOut.of(one) for one in asked]
    orders = [GenerationOut.of(one) for one in row.generations.all()[:6]]
    return ExtensionOut(
        looking=None if looking is None else AnalysisOut.of(looking),
        verdict=actions.verdict_at(footage, time),
        plates=states,
        stamp=" ".join(actions.stamps(plan, footage, library)),
        shares=shares_at(plan, footage.info, library, time),
        short=sorted({side for one in made for side in one.short}),
        generator=generations.configured(),
        generations=orders,
    )


@router.post("/framings/{framing_id}/extension/begin", response=Design)
def begin(request: HttpRequest, framing_id: int, given: MomentIn) -> Design:
    """The design that extends its scene as the verdict on its sides advises; the clip is looked at where nobody has."""
    row = owned.framing(request, framing_id)
    actions.look(row.footage)
    row = owned.framing(request, framing_id)
    info, plan = row.footage.info, tried(row, given.design)
    return in_shot(plan, info, given.shot, lambda one: actions.begin_extension(one, row.footage, given.time)).design


@router.post("/framings/{framing_id}/extension/variants", response=list[VariantOut])
def variants(request: HttpRequest, framing_id: int, given: VariantsIn) -> list[VariantOut]:
    """Ways in which a side can go on; drafts of them are made where they are not there."""
    row = owned.framing(request, framing_id)
    plan, numbers = tried(row, given.design), range(given.first, given.first + given.count)
    rows = actions.variants(row.footage, plan, given.time, given.side, numbers)
    return [VariantOut(variant=number, plate=PlateOut.of(one)) for number, one in zip(numbers, rows, strict=False)]


@router.post("/framings/{framing_id}/extension/variant")
def variant(request: HttpRequest, framing_id: int, given: VariantPictureIn) -> HttpResponse:
    """The frame as one way of a side makes it, as a JPEG."""
    row = owned.framing(request, framing_id)
    plan = actions.with_variant(tried(row, given.design), given.time, given.side, given.variant)
    footage = row.footage
    library = actions.library_for(footage, plan)
    own, info = footage.identity_now, footage.info
    data = in_turn(
        lambda: previewer.image(plan, footage.path, info, given.time, given.width, library=library, identity=own),
        heavy=previewer.is_heavy(info, own, plan, library),
    )
    return HttpResponse(data, **JPEG)


@router.post("/framings/{framing_id}/extension/origins")
def origins(request: HttpRequest, framing_id: int, given: OriginsIn) -> HttpResponse:
    """Where the pixels of a frame come from, as a PNG to lay over it; 204 where nothing is extended."""
    row = owned.framing(request, framing_id)
    plan = tried(row, given.design)
    found = origins_at(plan, row.footage.info, actions.library_for(row.footage, plan), given.time, given.width)
    return HttpResponse(status=204) if found is None else HttpResponse(tinted(found), **PNG)


@router.post("/framings/{framing_id}/extension/to-fit", response=Design)
def to_fit(request: HttpRequest, framing_id: int, given: ToFitIn) -> Design:
    """The design cut into shots at both ends of a stretch that fits."""
    row = owned.framing(request, framing_id)
    return split_at(tried(row, given.design), row.footage.info, (given.start, given.end)).design


@router.post("/framings/{framing_id}/extension/still")
def still(request: HttpRequest, framing_id: int, given: MomentIn) -> HttpResponse:
    """The frame as a PNG to be finished elsewhere: clear beyond the picture, half clear in a margin at its edges."""
    row = owned.framing(request, framing_id)
    plan = tried(row, given.design)
    data = actions.save_still(row.footage, plan, given.time)
    size = f"{plan.frame.width}x{plan.frame.height}"
    name = attachment(f"{row.footage.name.rpartition('.')[0] or row.footage.name} {size}.png")
    return HttpResponse(data, content_type="image/png", headers={"Content-Disposition": name})


@router.post("/framings/{framing_id}/extension/outside", response=TakenOut)
def outside(request: HttpRequest, framing_id: int, file: File[UploadedFile], given: Form[str]) -> TakenOut:
    """The design with a picture that was finished elsewhere from its still; `given` is a moment as JSON."""
    row = owned.framing(request, framing_id)
    moment = MomentIn.model_validate_json(given)
    if (file.size or 0) > MOST_STILL:
        raise BadRequest("This file is too large.", remedy=f"Save it with at most {MOST_STILL // 2**20} MiB.")
    plan = tried(row, moment.design)
    made, about, _ = actions.take_in(row.footage, plan, moment.time, file.name or "picture.png", file.read())
    return TakenOut(design=made.design, about=about.summary)


@router.post("/framings/{framing_id}/extension/use", response=Design)
def use(request: HttpRequest, framing_id: int, given: UseIn) -> Design:
    """The design with a picture of a generator in the place of what would be invented."""
    row = owned.framing(request, framing_id)
    return actions.with_outside(row, tried(row, given.design), given.time, given.material).design


@router.post("/framings/{framing_id}/extension/generate", response=GenerationOut)
def generate(request: HttpRequest, framing_id: int, given: GenerateIn) -> GenerationOut:
    """Ask the outside generator that is set up for pictures of what lies beyond."""
    row = owned.framing(request, framing_id)
    plan = tried(row, given.design)
    return GenerationOut.of(generations.request(row, plan, given.time, given.prompt, given.count))


@router.post("/generations/{generation_id}/cancel", response=GenerationOut)
def cancel_generation(request: HttpRequest, generation_id: int) -> GenerationOut:
    """Stop waiting for pictures, and tell the generator."""
    return GenerationOut.of(jobs.cancel(owned.generation(request, generation_id)))


@router.post("/plates/{plate_id}/{verb}", response=PlateOut)
def plate(request: HttpRequest, plate_id: int, verb: Literal["cancel", "retry"]) -> PlateOut:
    """Stop making a plate, or try again."""
    row: Plate = owned.plate(request, plate_id)
    return PlateOut.of(jobs.cancel(row) if verb == "cancel" else plates.retry(row))
