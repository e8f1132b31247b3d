"""Every place of the API that takes a text, by the OpenAPI document."""

import json
import re
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from tests.server.examples import Examples

DOCUMENT = Path(__file__).parents[2] / "web" / "src" / "api" / "openapi.json"
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

    def address(self, known: Mapping[str, object]) -> str:
        """Its path with ids in it; 1 where none is known by a name."""
        return re.sub(r"\{(\w+)\}", lambda named: str(known.get(named[1], 1)), self.path)


@dataclass
class Places:
    """All of them, each field of each kind of body once."""

    document: Json = field(default_factory=lambda: json.loads(DOCUMENT.read_text()))
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
