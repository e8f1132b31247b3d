"""Reading what was typed."""

from pathlib import Path
from typing import Any

from pydantic import ValidationError

from cadrage.errors import BadRequest, CadrageError
from cadrage.footage import Interpretation
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.plan import Plan, read_plan
from cadrage.surrounds import KINDS, Surround
from cadrage.values import parse_exact

SIZES: dict[str, dict[str, Any]] = {
    "whole": {"tightness": 0},
    "fill": {"tightness": 1},
    "fit-width": {"sizing": "width"},
    "fit-height": {"sizing": "height"},
    "native": {"sizing": "native"},
    "stretch": {"sizing": "stretch"},
}


def build_plan(
    source: Path,
    plan: Path | None,
    frame: str,
    active: str | None,
    pixel_aspect: str | None,
    placement: str,
    offset: str,
    surround: str,
) -> Plan:
    """A plan from the options of a command; a plan file takes the place of them all.

    Raises:
        BadRequest: one of them cannot be read; it says which.
    """
    if plan is not None:
        return read_plan(plan).model_copy(update={"source": str(source)})
    try:
        aspect = None if pixel_aspect is None else parse_exact(pixel_aspect)
        return Plan(
            source=str(source),
            interpretation=Interpretation(pixel_aspect=aspect),
            frame=_frame(frame, active),
            placement=_placement(placement, offset),
            surround=_surround(surround),
        )
    except ValidationError as error:
        raise BadRequest(first_problem(error), remedy="See --help for what each option takes.") from error
    except ValueError as error:
        raise BadRequest(f"{error}.", remedy="Write a pixel aspect like 12:11 or 1.0667.") from error


def first_problem(error: ValidationError) -> str:
    """The first thing wrong with a value, in one sentence."""
    first = error.errors()[0]
    where = " ".join(str(part).replace("_", " ") for part in first["loc"])
    return f"{where}: {first['msg']}, not {str(first['input'])[:60]!r}." if where else f"{first['msg']}."


def _frame(text: str, active: str | None) -> Frame:
    width, cross, height = text.lower().replace("×", "x").partition("x")
    if not (cross and width.isdecimal() and height.isdecimal()):
        raise BadRequest(f"{text!r} is no frame size.", remedy="Write it like 1920x1080.")
    return Frame(width=int(width), height=int(height), active=None if active is None else parse_exact(active))


def _placement(text: str, offset: str) -> Placement:
    try:
        x, y = (parse_exact(part) for part in offset.split(","))
        size = SIZES[text] if text in SIZES else _number_size(text)
    except ValueError as error:
        raise BadRequest(
            f"Placement {text!r} with offset {offset!r} cannot be read: {error}.",
            remedy=f"Placement is {', '.join(SIZES)}, a tightness from 0 to 2, or a scale such as 56%; "
            "an offset is X,Y in frame pixels.",
        ) from error
    return Placement.model_validate({**size, "offset_x": x, "offset_y": y})


def _number_size(text: str) -> dict[str, Any]:
    """A scale where a percent sign says so, else a tightness."""
    if text.endswith("%"):
        return {"sizing": "scale", "scale": parse_exact(text[:-1]) / 100}
    return {"tightness": parse_exact(text)}


def _surround(text: str) -> Surround:
    kind, _, rest = text.partition(":")
    if kind not in KINDS:
        raise BadRequest(f"{kind!r} is no kind of surround.", remedy=f"Choose from {', '.join(KINDS)}.")
    given: dict[str, Any] = {}
    for part in filter(None, rest.split(",")):
        key, equals, value = part.partition("=")
        if not equals:
            raise BadRequest(f"{part!r} says nothing.", remedy=f"Write it like {kind}:key=value,key=value.")
        given[key] = value
    return KINDS[kind](**given)


def described(error: CadrageError) -> dict[str, str | None]:
    """An error as JSON has it."""
    return {"problem": error.problem, "clip": error.clip, "remedy": error.remedy}
