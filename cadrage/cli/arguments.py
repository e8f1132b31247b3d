"""Reading the options of the command line."""

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any, Literal, TypeVar, get_args, get_origin

from pydantic import ValidationError

from cadrage.cli.extension_words import read_extended
from cadrage.cli.options import Options
from cadrage.compose.title_places import new_title
from cadrage.errors import BadRequest, CadrageError
from cadrage.footage import Interpretation
from cadrage.formats import Frame
from cadrage.formats.active_measures import read_active
from cadrage.geometry import Placement
from cadrage.geometry.placement import MAX_TIGHTNESS
from cadrage.output import Settings
from cadrage.plan import Plan, Range, read_plan
from cadrage.surrounds import SURROUND_KINDS, Surround
from cadrage.treatments import find_treatment
from cadrage.upgrade import KEYS
from cadrage.values import Value, parse_exact, parse_size
from cadrage.wording import wording

Made = TypeVar("Made")
SEE_HELP = "See --help for what each option takes."
SIZES: dict[str, dict[str, Any]] = {
    "whole": {"tightness": 0},
    "fill": {"tightness": 1},
    "fit-width": {"sizing": "width"},
    "fit-height": {"sizing": "height"},
    "native": {"sizing": "native"},
    "cover": {"sizing": "cover"},
    "stretch": {"sizing": "stretch"},
}


def build_plan(source: Path, options: Options) -> Plan:
    """A plan from the options of a command; a plan file takes the place of them all.

    Raises:
        BadRequest: an option cannot be read; the error names it.
    """
    if options["plan"] is not None:
        return read_plan(options["plan"]).model_copy(update={"source": str(source)})
    return checked(lambda: _plan_of(source, options))


def _plan_of(source: Path, options: Options) -> Plan:
    plan = Plan(
        source=str(source),
        interpretation=read_interpretation(options["pixel_aspect"], options["taken_as"]),
        frame=frame_asked(options["frame"], options),
        placement=_placement(options),
        surround=read_surround(options["surround"]),
        range=read_range(options["part"]),
    )
    if options["treatment"] is not None:
        plan = find_treatment(options["treatment"]).on(plan)
    return with_words(plan, options["captions"], options["title"] or ())


def frame_asked(size: str, options: Options) -> Frame:
    """A frame with what several commands let one say of it.

    Raises:
        BadRequest: see `read_frame`.
    """
    more = {"rate": options["rate"], "outside": options["outside"], "colour": options["colour"]}
    more |= {
        "fields": str(_meant(Frame, "fields", options["frame_fields"])),
        "pixel_aspect": options["frame_pixel_aspect"],
    }
    return read_frame(size, options["active"], **more)


def checked(make: Callable[[], Made], remedy: str = SEE_HELP) -> Made:
    """Call a reader, and turn its validation error into a `BadRequest`.

    Raises:
        BadRequest: the value is invalid; the error says why.
    """
    try:
        return make()
    except ValidationError as error:
        raise BadRequest(first_problem(error), remedy=remedy) from error


def pair(part: str, remedy: str) -> tuple[str, str]:
    """Name and value of "name=value".

    Raises:
        BadRequest: it is none.
    """
    name, equals, value = part.partition("=")
    if not equals:
        raise BadRequest(f"{part!r} says nothing.", remedy=remedy)
    return name.strip(), value.strip()


def first_problem(error: ValidationError) -> str:
    """The first thing wrong with a value, in one sentence."""
    first = error.errors()[0]
    where = " ".join(str(part).replace("_", " ") for part in first["loc"])
    return f"{where}: {first['msg']}, not {str(first['input'])[:60]!r}." if where else f"{first['msg']}."


def read_size(text: str) -> tuple[int, int]:
    """Width and height of "1920x1080".

    Raises:
        BadRequest: it is no size.
    """
    try:
        return parse_size(text)
    except ValueError as error:
        raise BadRequest(f"{error}.", remedy="Write it like 1920x1080.") from error


def read_frame(size: str, active: str | None, **more: str | None) -> Frame:
    """A frame as it was typed.

    Args:
        size: width and height.
        active: an active picture, as `read_active` reads it.
        more: other fields of a frame; None and "" leave one as it usually is.

    Raises:
        BadRequest: a part of it cannot be read, or is out of range.
    """
    width, height = read_size(size)
    given = {"width": width, "height": height} | {name: value for name, value in more.items() if value}
    frame = checked(lambda: Frame.model_validate(given))
    return frame.model_copy(update={"active": read_active(frame, active)}) if active else frame


def read_interpretation(pixel_aspect: str | None, taken_as: str) -> Interpretation:
    """Read the interpretation of a clip from the options.

    Raises:
        BadRequest: it cannot be read.
    """
    given: dict[str, Any] = _pairs("--as", taken_as)
    given = {name: _meant(Interpretation, name, value) for name, value in given.items()}
    if pixel_aspect is not None:
        given["pixel_aspect"] = pixel_aspect
    if "burned_in_bars" in given:
        bars = given["burned_in_bars"]
        sides = bars.split("/")
        if len(sides) != 4:
            raise BadRequest(f"{bars!r} is no set of bars.", remedy="Write left/right/top/bottom in pixels.")
        given["burned_in_bars"] = dict(zip(("left", "right", "top", "bottom"), sides, strict=True))
    return checked(lambda: Interpretation.model_validate(given))


def _placement(options: Options) -> Placement:
    text, offset, angle = options["placement"], options["offset"], options["angle"]
    try:
        x, y = (parse_exact(part) for part in offset.split(","))
        size = SIZES[text] if text in SIZES else _number_size(text)
        turn = parse_exact(angle)
    except ValueError as error:
        raise BadRequest(
            f"Placement {text!r} with offset {offset!r} and angle {angle!r} cannot be read: {error}.",
            remedy=f"Placement is {', '.join(SIZES)}, a tightness from 0 to {MAX_TIGHTNESS}, or a scale such as 56%; "
            "an offset is X,Y in frame pixels.",
        ) from error
    return Placement.model_validate({**size, "offset_x": x, "offset_y": y, "angle": turn, "mirror": options["mirror"]})


def read_range(text: str) -> Range:
    """A part of a clip, as it was typed.

    Raises:
        BadRequest: it cannot be read.
    """
    start, _, end = text.partition(",")
    given = {"start": start or 0, "end": end or None}
    return checked(lambda: Range.model_validate(given), remedy="Write seconds like 1.5,4.")


def with_words(plan: Plan, captions: Path | None, titles: Sequence[str]) -> Plan:
    """Return a plan with captions from a file, and with titles stacked above each other.

    Raises:
        BadRequest: there are too many titles.
    """
    change: dict[str, object] = {}
    if captions is not None:
        change["captions"] = plan.finish.captions.model_copy(update={"of": str(captions)})
    if titles:
        made = (new_title(plan.frame, text, number) for number, text in enumerate(reversed(titles)))
        change["titles"] = (*plan.finish.titles, *made)
    return plan.model_copy(update={"finish": plan.finish.model_copy(update=change)}) if change else plan


def read_written(settings: Settings, text: str, *, stop_at_damage: bool = False) -> Settings:
    """Return settings with fields replaced by the value of `--write`.

    Args:
        settings: the settings to change.
        text: such as "kind=mov-prores,depth=10,bars=active-picture-only", with hyphens for spaces.
        stop_at_damage: whether a damaged clip is refused.

    Raises:
        BadRequest: they cannot be read.
    """
    stated = {name: _meant(Settings, name, value) for name, value in _pairs("--write", text).items()}
    given = settings.model_dump(mode="json") | stated
    if stop_at_damage:
        given["damage"] = "stop"
    return checked(lambda: Settings.model_validate(given))


def _meant(form: type[Value], name: str, value: str) -> object:
    """Return the option of a field that a word names, with any separator for spaces; without a match, the word."""
    known = form.model_fields.get(name)
    for one in _choices(known.annotation) if known else ():
        if _bare(value) in (_bare(str(one)), _bare(wording(str(one)))):
            return one
    return value


def _bare(text: str) -> str:
    return text.replace("-", "_").replace(" ", "_").lower()


def _choices(annotation: Any) -> tuple[Any, ...]:  # noqa: ANN401 - a type as it is written
    """Return the options of a field, if its type lists them."""
    if get_origin(annotation) is Literal:
        return get_args(annotation)
    return tuple(one for part in get_args(annotation) for one in _choices(part))


def _number_size(text: str) -> dict[str, Any]:
    """Read a scale, which has a percent sign, or a tightness."""
    if text.endswith("%"):
        return {"sizing": "scale", "scale": parse_exact(text[:-1]) / 100}
    return {"tightness": parse_exact(text)}


def read_surround(text: str) -> Surround:
    """A surround as it was typed: its kind, and what of it differs from the usual.

    Raises:
        BadRequest, ValidationError: it is none.
    """
    kind, _, rest = text.partition(":")
    if kind not in SURROUND_KINDS:
        raise BadRequest(f"{kind!r} is no kind of surround.", remedy=f"Choose from {', '.join(SURROUND_KINDS)}.")
    given = _pairs(kind, rest)
    made: Surround = read_extended(given) if kind == "extended" else SURROUND_KINDS[kind](**given)
    return made


def _pairs(what: str, text: str) -> dict[str, Any]:
    remedy = f"Write it like {what}:key=value,key=value."
    pairs = (pair(part, remedy) for part in filter(None, text.split(",")))
    return {KEYS.get(name, name): value for name, value in pairs}


def described(error: CadrageError) -> dict[str, str | None]:
    """An error as JSON has it."""
    return {"problem": error.problem, "clip": error.clip, "remedy": error.remedy}
