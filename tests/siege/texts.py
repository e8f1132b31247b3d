"""Long texts in every place of the API that takes one: how long it takes to answer them."""

import json
import re
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import requests

from tests.server.examples import Examples
from tests.siege.people import Person

DOCUMENT = Path(__file__).parents[2] / "web" / "src" / "api" / "openapi.json"
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
LEFT_OUT = re.compile(r"/(play|samples|leave)$")
"""What has no end, what draws for minutes, and what would end the visit."""

Json = Any
Filled = Callable[[str], Json]


@dataclass(frozen=True)
class Place:
    """Somewhere that takes a text.

    Attributes:
        method, path: of the request, with names in braces.
        name: of the place.
        filled: the body with a text in that place; None where it is in the address.
    """

    method: str
    path: str
    name: str
    filled: Filled | None

    @property
    def said(self) -> str:
        """Where it is."""
        return f"{self.method} {self.path} {self.name}"


@dataclass
class Places:
    """All of them, each field of each kind of body once.

    Attributes:
        document: the OpenAPI document.
    """

    document: Json
    _seen: set[tuple[str, str]] = field(default_factory=set)

    def __iter__(self) -> Iterator[Place]:
        for path, operations in self.document["paths"].items():
            for method, operation in operations.items():
                if not LEFT_OUT.search(path):
                    yield from self._of(method.upper(), path, operation)

    def _of(self, method: str, path: str, operation: Json) -> Iterator[Place]:
        content = operation.get("requestBody", {}).get("content", {}).get("application/json")
        if content:
            for name, filled in self._in(content["schema"], f"{method} {path}", ()):
                yield Place(method, path, name, filled)
        for parameter in operation.get("parameters", []):
            if parameter["in"] == "query" and parameter["schema"].get("type") == "string":
                yield Place(method, path, parameter["name"], None)

    def _in(self, schema: Json, owner: str, within: tuple[str, ...]) -> Iterator[tuple[str, Filled]]:
        if "$ref" in schema:
            name = schema["$ref"].rpartition("/")[2]
            if name not in within:
                yield from self._in(self.document["components"]["schemas"][name], name, (*within, name))
            return
        for many in ("anyOf", "oneOf", "allOf"):
            for one in schema.get(many, ()):
                yield from self._in(one, owner, within)
        if schema.get("type") == "string" and not {"enum", "const"} & set(schema):
            yield owner, lambda text: text
        if schema.get("type") == "array":
            for name, filled in self._in(schema["items"], owner, within):
                yield name, lambda text, filled=filled: [filled(text)]
        if schema.get("type") == "object":
            yield from self._in_object(schema, owner, within)

    def _in_object(self, schema: Json, owner: str, within: tuple[str, ...]) -> Iterator[tuple[str, Filled]]:
        examples, parts = Examples(self.document), schema.get("properties", {})
        base = examples.of(schema) | {name: one["const"] for name, one in parts.items() if "const" in one}
        for name, part in parts.items():
            places = list(self._in(part, f"{owner}.{name}", within))
            for inner, filled in places:
                if (owner, f"{name} {inner}") not in self._seen:
                    self._seen.add((owner, f"{name} {inner}"))
                    yield inner, lambda text, filled=filled, name=name: {**base, name: filled(text)}


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
    for number, place in enumerate(Places(json.loads(DOCUMENT.read_text()))):
        found.places += 1
        path = re.sub(r"\{(\w+)\}", lambda named: str(known.get(named[1], 1)), place.path)
        turn = number % len(KINDS)
        for size in SIZES if place.filled else (LINES,):
            for made in kinds[turn : turn + 1] if size == SIZES[-1] else kinds:
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
