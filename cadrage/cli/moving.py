"""What was typed about how a placement moves, and the plan of one clip with all that was typed."""

import re
from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path
from typing import Any

from pydantic import TypeAdapter

from cadrage.analysis.shots import ShotsFound
from cadrage.cli.analysing import found_in, looked_at, with_ways
from cadrage.cli.arguments import build_plan, checked, pair
from cadrage.cli.extended import extended_as_advised
from cadrage.cli.options import Options
from cadrage.compose.cutting import with_shots
from cadrage.compose.framed import stage_of
from cadrage.errors import BadRequest
from cadrage.footage import MediaInfo, resolve
from cadrage.geometry import Placement
from cadrage.motion import Key, Motion, Stage, key_of
from cadrage.motion.follow import Follow
from cadrage.motion.moves import Move
from cadrage.plan import Plan
from cadrage.values import parse_exact

MOVE: TypeAdapter[Any] = TypeAdapter(Move)
KEY_HELP = "Write it like 2.5:offset=120,0,ease=smooth; see --help."
PLACED = ("offset", "tightness", "angle")


def planned(source: Path, info: MediaInfo, options: Options) -> Plan:
    """The plan that the options of a command make for a clip; see `build_plan` and `completed`.

    Raises:
        BadRequest: one of them cannot be read; it says which.
    """
    return completed(build_plan(source, options), source, info, options)


def completed(plan: Plan, source: Path, info: MediaInfo, options: Options) -> Plan:
    """A plan that options made, with what only the clip can tell: how it was found to be by looking, and how it moves.

    Raises:
        BadRequest: one of them cannot be read; it says which.
    """
    plan = cut(looked_at(plan, source, info), source, info, options["shots"])
    motion = read_motion(options["motion"])
    if options["key"]:
        if motion != Motion():
            raise BadRequest("A placement is moved by --motion or by --key, not by both.", remedy="Leave one out.")
        stage = stage_of(plan, resolve(info, plan.interpretation))
        motion = checked(lambda: Motion(keys=tuple(read_keys(options["key"], stage))))
    if motion != Motion():
        uncut = {} if options["shots"] else {"shots": ()}  # what a plan says of shots would hide what was typed
        plan = plan.model_copy(update={"motion": motion, **uncut})
    return extended_as_advised(with_ways(plan, source, info), source, info, options["surround"])


def cut(plan: Plan, source: Path, info: MediaInfo, text: str) -> Plan:
    """A plan whose clip is cut into shots as was typed: where they are found, or at given seconds.

    Raises:
        BadRequest: it cannot be read.
    """
    if not text:
        return plan
    if text == "find":
        found = found_in("shots", source, info)
        return with_shots(plan, found.starts if isinstance(found, ShotsFound) else (Fraction(0),))
    try:
        starts = sorted({Fraction(0), *(parse_exact(part) for part in text.split(","))})
    except ValueError as error:
        raise BadRequest(f"{text!r} are no shots.", remedy="Write find, or seconds like 2.4,5.") from error
    return checked(lambda: Plan.model_validate(with_shots(plan, starts).model_dump()))


def read_motion(text: str) -> Motion:
    """A movement as it was typed: "push:4%", "pan:left-right,ease=even", "tilt:up-down", "follow:calm".

    Raises:
        BadRequest: it cannot be read.
    """
    if not text:
        return Motion()
    kind, _, rest = text.partition(":")
    if kind not in ("push", "pan", "tilt", "follow"):
        raise BadRequest(
            f"{kind!r} is no movement.", remedy="There are push:4%, pan:left-right, tilt:up-down and follow:medium."
        )
    first, *more = rest.split(",") if rest else [""]
    given: dict[str, Any] = {} if kind == "follow" else {"kind": kind}
    if kind == "follow" and first and "=" not in first:
        given["pace"] = first
    elif first and "=" not in first:
        given |= {"percent": first.rstrip("%")} if kind == "push" else {"way": first.replace("-", "_")}
    elif first:
        more.insert(0, first)
    given |= dict(pair(part, KEY_HELP) for part in more)
    if kind == "follow":
        return checked(lambda: Motion(follow=Follow.model_validate(given)))
    return checked(lambda: Motion(move=MOVE.validate_python(given)))


def read_keys(texts: Sequence[str], stage: Stage) -> list[Key]:
    """Keys as they were typed, each "SECONDS:what=value,…", in the order of time.

    Raises:
        BadRequest: one of them cannot be read.
    """
    return sorted((_key(text, stage) for text in texts), key=lambda key: key.time)


def _key(text: str, stage: Stage) -> Key:
    time, _, rest = text.partition(":")
    given: dict[str, Any] = dict(pair(part, KEY_HELP) for part in re.split(r",(?=[a-z_]+=)", rest) if part)
    if not given.keys() & {*PLACED, "x", "y"}:
        raise BadRequest(f"The key {text!r} sets nothing.", remedy=KEY_HELP)
    placed = {name: given.pop(name) for name in PLACED if name in given}
    if "offset" in placed:
        # An offset is told in frame pixels; what is kept is the point of the picture that it looks at.
        whole = checked(lambda: _moved(stage, placed))
        key = key_of(whole, Fraction(0))
        given |= {"x": key.x, "y": key.y}
    given |= {name: value for name, value in placed.items() if name != "offset"}
    return checked(lambda: Key(time=time, **given))


def _moved(stage: Stage, placed: dict[str, str]) -> Stage:
    x, _, y = placed["offset"].partition(",")
    try:
        given = {"offset_x": parse_exact(x), "offset_y": parse_exact(y or "0")}
    except ValueError as error:
        raise BadRequest(f"{placed['offset']!r} is no offset.", remedy=KEY_HELP) from error
    more = {name: value for name, value in placed.items() if name != "offset"}
    if "tightness" in more:
        more["sizing"] = "tightness"
    return stage.with_base(Placement.model_validate({**stage.base.model_dump(), **given, **more}))
