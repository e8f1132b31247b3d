"""Reading what was typed."""

from pathlib import Path
from typing import Any

from pydantic import ValidationError

from cadrage.cli.options import Options
from cadrage.errors import BadRequest, CadrageError
from cadrage.footage import Interpretation
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.geometry.placement import MAX_TIGHTNESS
from cadrage.plan import Plan, Range, read_plan
from cadrage.render import Settings
from cadrage.surrounds import KINDS, Surround
from cadrage.treatments import find_treatment
from cadrage.values import parse_exact, parse_size

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
        BadRequest: one of them cannot be read; it says which.
    """
    if options["plan"] is not None:
        return read_plan(options["plan"]).model_copy(update={"source": str(source)})
    try:
        plan = Plan(
            source=str(source),
            interpretation=_interpretation(options["pixel_aspect"], options["taken_as"]),
            frame=read_frame(options["frame"], options["active"], options["rate"], options["outside"]),
            placement=_placement(options),
            surround=_surround(options["surround"]),
            range=_range(options["part"]),
        )
        return plan if options["treatment"] is None else find_treatment(options["treatment"]).on(plan)
    except ValidationError as error:
        raise BadRequest(first_problem(error), remedy=SEE_HELP) from error


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


def read_frame(size: str, active: str | None, rate: str | None = None, outside: str = "bars") -> Frame:
    """A frame as it was typed.

    Raises:
        BadRequest: a part of it cannot be read, or is out of range.
    """
    width, height = read_size(size)
    given = {"width": width, "height": height, "active": active or None, "rate": rate or None, "outside": outside}
    try:
        return Frame.model_validate(given)
    except ValidationError as error:
        raise BadRequest(first_problem(error), remedy=SEE_HELP) from error


def _interpretation(pixel_aspect: str | None, taken_as: str) -> Interpretation:
    given: dict[str, Any] = _pairs("--as", taken_as)
    if pixel_aspect is not None:
        given["pixel_aspect"] = pixel_aspect
    for name in ("fields", "deinterlace"):
        if name in given:
            given[name] = given[name].replace("-", " ")
    if "rotation" in given and given["rotation"].isdecimal():
        given["rotation"] = int(given["rotation"])
    if "baked" in given:
        sides = given["baked"].split("/")
        if len(sides) != 4:
            raise BadRequest(f"{given['baked']!r} is no set of bars.", remedy="Write left/right/top/bottom in pixels.")
        given["baked"] = dict(zip(("left", "right", "top", "bottom"), sides, strict=True))
    return Interpretation.model_validate(given)


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


def _range(text: str) -> Range:
    start, _, end = text.partition(",")
    return Range.model_validate({"start": start or 0, "end": end or None})


def read_written(settings: Settings, text: str, *, stop_at_damage: bool = False) -> Settings:
    """Settings with what was typed in the place of some of their fields; a hyphen stands for a space.

    Args:
        settings: to begin with.
        text: what was typed, like "kind=mov-prores,quality=draft".
        stop_at_damage: whether a damaged clip is refused.

    Raises:
        BadRequest: they cannot be read.
    """
    given = settings.model_dump(mode="json") | _pairs("--write", text.replace("-", " "))
    if stop_at_damage:
        given["damage"] = "stop"
    if "kind" in given:
        given["kind"] = given["kind"].replace(" ", "-")
    try:
        return Settings.model_validate(given | {"sound": given["sound"].replace(" ", "-")})
    except ValidationError as error:
        raise BadRequest(first_problem(error), remedy=SEE_HELP) from error


def _number_size(text: str) -> dict[str, Any]:
    """A scale where a percent sign says so, else a tightness."""
    if text.endswith("%"):
        return {"sizing": "scale", "scale": parse_exact(text[:-1]) / 100}
    return {"tightness": parse_exact(text)}


def _surround(text: str) -> Surround:
    kind, _, rest = text.partition(":")
    if kind not in KINDS:
        raise BadRequest(f"{kind!r} is no kind of surround.", remedy=f"Choose from {', '.join(KINDS)}.")
    made: Surround = KINDS[kind](**_pairs(kind, rest))
    return made


def _pairs(what: str, text: str) -> dict[str, Any]:
    given: dict[str, Any] = {}
    for part in filter(None, text.split(",")):
        key, equals, value = part.partition("=")
        if not equals:
            raise BadRequest(f"{part!r} says nothing.", remedy=f"Write it like {what}:key=value,key=value.")
        given[key.strip()] = value.strip()
    return given


def described(error: CadrageError) -> dict[str, str | None]:
    """An error as JSON has it."""
    return {"problem": error.problem, "clip": error.clip, "remedy": error.remedy}
