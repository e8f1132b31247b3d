"""Long texts in every place of the API that takes one: how long it takes to answer them."""

import time
from collections.abc import Callable
from dataclasses import dataclass, field

import requests

from tests.server.places import Place, Places
from tests.siege.people import Person

SIZES = (10_000, 1_000_000, 10_000_000)
LINES = 50_000
"""Characters in an address: longer ones are refused by the server's own limit."""
KINDS: tuple[Callable[[int], str], ...] = (
    lambda size: "9" * size,
    lambda size: "1/" + "9" * size,
    lambda size: "ab {clip} " * (size // 10),
    lambda size: "1+" * (size // 2) + "x",  # nearly what patterns look for
)
NOTHING = (0.0, "")


@dataclass
class Measured:
    """What came of them.

    Attributes:
        slowest: seconds for each size, and where.
        places: how many there are.
        asked: how many requests were made.
    """

    slowest: dict[int, tuple[float, str]] = field(default_factory=dict)
    places: int = 0
    asked: int = 0


def measured(person: Person, known: dict[str, object], seconds: float) -> Measured:
    """Send long texts to every place, and see how long each takes.

    Args:
        person: who sends them.
        known: ids that stand in addresses, by their names there.
        seconds: for one request, beyond which it is given up.
    """
    found, kinds = Measured(), list(KINDS)
    for number, place in enumerate(Places()):
        found.places += 1
        path = place.address(known)
        turn = number % len(KINDS)
        for size in SIZES if place.filled else (LINES,):
            for made in kinds if size == SIZES[0] else kinds[turn : turn + 1]:
                took, status = _took(person, place, path, made(size), seconds)
                assert status < 500 or status == 503, f"{place} with {size}: {status}"
                found.asked += 1
                found.slowest[size] = max(found.slowest.get(size, NOTHING), (took, place.said))
    return found


def _took(person: Person, place: Place, path: str, text: str, seconds: float) -> tuple[float, int]:
    begun = time.monotonic()
    try:
        if place.filled is None:
            answer = person.ask(place.method, path, params={place.name: text}, timeout=seconds)
        else:
            answer = person.ask(place.method, path, json=place.filled(text), timeout=seconds)
    except requests.Timeout as error:
        raise AssertionError(f"{place.said}: {len(text)} take over {seconds} s") from error
    return time.monotonic() - begun, answer.status_code
