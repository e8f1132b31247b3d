"""What was typed of a scene that goes on beyond the picture."""

from typing import Any

from cadrage.errors import BadRequest
from cadrage.extend.request import SIDES, PlateSide
from cadrage.surrounds import BACKGROUND_KINDS, Extended

OF_ALL = ("way", "variant", "melt", "reach")
"""What can be said of all sides at once."""
HELP = (
    "Write it like extended:sides=left/right,variant=2,melt=0.5, or left=3 for one side's variant; "
    "camera=still or moving, beyond=plain."
)


def read_extended(given: dict[str, Any]) -> Extended:
    """An extended surround of what was typed, by name.

    Raises:
        BadRequest, ValidationError: it is none.
    """
    given = dict(given)
    sides = sides_typed(given.pop("sides", None), given)
    shared = {name: given.pop(name) for name in OF_ALL if name in given}
    for side in SIDES:
        one = given.pop(side, None)
        more = {} if one is None else {"variant": one}
        given[side] = PlateSide(**(shared | more)) if side in sides else None
    if "beyond" in given:
        kind = given["beyond"]
        if kind not in BACKGROUND_KINDS:
            raise BadRequest(f"{kind!r} is no kind of surround to lie beyond.", remedy=HELP)
        given["beyond"] = BACKGROUND_KINDS[kind]()
    return Extended(**given)


def sides_typed(text: str | None, given: dict[str, Any]) -> tuple[str, ...]:
    """Which sides go on: those that are named; else left and right.

    Raises:
        BadRequest: there is no such side.
    """
    named = [side for side in SIDES if side in given]
    if text is None:
        return tuple(named or ("left", "right"))
    asked = [part.strip() for part in text.replace("/", ",").split(",") if part.strip()]
    for side in asked:
        if side not in SIDES:
            raise BadRequest(f"{side!r} is no side.", remedy=f"Choose from {', '.join(SIDES)}.")
    return tuple(dict.fromkeys([*asked, *named]))
