"""The base of every value that is stored or sent: frozen, closed, exact."""

import json
import re
import unicodedata
from collections.abc import Sequence
from fractions import Fraction
from functools import lru_cache
from pathlib import Path
from typing import Annotated, Any, TypeVar

from pydantic import (
    AfterValidator,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Field,
    PlainSerializer,
    ValidationError,
    WithJsonSchema,
)

from cadrage.errors import BadRequest
from cadrage.upgrade import VERSION, upgraded

LONGEST_SIZE = 20
NUMBER = re.compile(r"[-+]?\d{1,24}(\.\d{1,24}([eE][-+]?\d{1,2})?|[eE][-+]?\d{1,2}|/\d{1,24})?")


UNSEEN = {"Cc", "Cf", "Zl", "Zp"}
"""Unicode categories of characters that cannot be seen: controls, formats such as U+202E, which turns the order of
letters round, and separators of lines."""
JOINERS = "\u200c\u200d"  # of the same, those that words of some scripts are spelled with


def visible(text: str) -> str:
    """Return a name without characters that cannot be seen, and without space at its ends."""
    kept = (char for char in text if char in JOINERS or unicodedata.category(char) not in UNSEEN)
    return "".join(kept).strip()


VisibleText = Annotated[str, BeforeValidator(lambda given: visible(given) if isinstance(given, str) else given)]
"""A name: what cannot be seen is left out of it."""


class Value(BaseModel):
    """A frozen pydantic model that refuses fields it does not know."""

    model_config = ConfigDict(frozen=True, extra="forbid")


def parse_exact(given: Any) -> Fraction:  # noqa: ANN401 - anything that JSON holds
    """Read a rational number from an int, a Fraction, or text such as "607.5", "12/11", "12:11" or "1e-3".

    A float is read through its shortest decimal text, so 0.1 means one tenth.

    Raises:
        ValueError: the text is no number, has a zero below the line, or more than 24 digits in one part.
    """
    if isinstance(given, bool):
        raise ValueError("expected a number")  # noqa: TRY004 - pydantic reports ValueErrors
    if isinstance(given, Fraction | int):
        return Fraction(given)
    return _read_exact(repr(given) if isinstance(given, float) else str(given))


@lru_cache(4096)
def _read_exact(given: str) -> Fraction:
    text = given.strip().replace(":", "/")
    if not NUMBER.fullmatch(text):
        raise ValueError(f"expected a number or a ratio such as 12:11, not {text[:40]!r}")
    try:
        return Fraction(text)
    except ZeroDivisionError:
        raise ValueError("a ratio cannot have zero below the line") from None


def parse_size(text: str) -> tuple[int, int]:
    """Read width and height of text such as "1920x1080".

    Raises:
        ValueError: it is no size.
    """
    width, cross, height = text.lower().replace("×", "x").partition("x")
    if not (cross and width.isdecimal() and height.isdecimal() and len(text) <= LONGEST_SIZE):
        raise ValueError(f"{text[:40]!r} is no size")
    return int(width), int(height)


def format_rate(rate: Fraction) -> str:
    """Return a rate or a time as people read it, with at most three decimals: 24, 29.97, 23.976."""
    return f"{float(rate):.3f}".rstrip("0").rstrip(".")


def format_exact(value: Fraction) -> str:
    """Write a Fraction as the shortest exact text: "7", "607.5", or "12/11" where no decimal ends."""
    below, twos, fives = value.denominator, 0, 0
    while below % 2 == 0:
        below, twos = below // 2, twos + 1
    while below % 5 == 0:
        below, fives = below // 5, fives + 1
    places = max(twos, fives)
    if below != 1 or places > 9:
        return str(value)
    digits = f"{abs(value.numerator) * 10**places // value.denominator:0{places + 1}d}"
    sign = "-" if value < 0 else ""
    return sign + (f"{digits[:-places]}.{digits[-places:]}" if places else digits)


Exact = Annotated[
    Fraction,
    BeforeValidator(parse_exact),
    PlainSerializer(format_exact, return_type=str),
    WithJsonSchema(
        {
            "type": "string",
            "description": "an exact number: a decimal such as 607.5 or a ratio such as 12/11",
            "pattern": r"^-?\d+(\.\d+|/\d+)?$",
        }
    ),
]
"""An exact rational number; in JSON the text that `format_exact` makes."""

NTSC_RATES = tuple(Fraction(rate * 1000, 1001) for rate in (24, 30, 48, 60, 120))
"""SMPTE ST 12-1: rates that people write as 23.976 or 23.98, 29.97, 47.95, 59.94 and 119.88."""


def parse_rate(given: Any) -> Fraction:  # noqa: ANN401 - see `parse_exact`
    """Read frames a second. What is a rate of NTSC rounded to two or three places, or cut off there, means that rate.

    Raises:
        ValueError: see `parse_exact`.
    """
    value = parse_exact(given)
    for rate in NTSC_RATES:
        if any(
            abs(value - rate) < Fraction(1, 10**places) and (value * 10**places).denominator == 1 for places in (2, 3)
        ):
            return rate
    return value


COLOUR = re.compile(r"#?[0-9a-fA-F]{6}")


def _checked_colour(text: str) -> str:
    if not COLOUR.fullmatch(text):
        raise ValueError("write a colour as # and six hexadecimal digits: #203040")
    return "#" + text.removeprefix("#").lower()


ColourText = Annotated[
    str, AfterValidator(_checked_colour), Field(max_length=7, json_schema_extra={"format": "colour"})
]
"""A colour as # and six hexadecimal digits, R'G'B'."""

PositiveExact = Annotated[Exact, Field(gt=0)]
Rate = Annotated[PositiveExact, BeforeValidator(parse_rate), Field(ge=1, le=240)]
"""Frames a second; see `parse_rate`."""


FORM_VERSION = VERSION
Form = TypeVar("Form", bound=Value)


def read_form(form: type[Form], given: dict[str, Any], what: str) -> Form:
    """Read a value that was exported as JSON, with its version.

    Raises:
        BadRequest: it is of a newer version, or no such value at all.
    """
    version = given.get("version", FORM_VERSION)
    if isinstance(version, int) and version > FORM_VERSION:
        raise BadRequest(
            f"This {what} is of version {version}; version {FORM_VERSION} can be read.", remedy="Use a newer Cadrage."
        )
    try:
        return form.model_validate(upgraded(given) if version == 1 else given)
    except ValidationError as error:
        first = error.errors()[0]
        where = " ".join(str(part) for part in first["loc"])
        raise BadRequest(
            f"This is no {what}: {where}: {first['msg']}.", remedy="Export it anew, or correct the file."
        ) from error


def named_or_read(form: type[Form], shipped: Sequence[Form], name: str, what: str) -> Form:
    """One of some values that come with Cadrage, by its name, or one from a JSON file, by its path.

    Raises:
        BadRequest: there is neither, or the file holds none that can be read.
    """
    names = {str(getattr(one, "name", "")): one for one in shipped}
    for known, one in names.items():
        if known.lower() == name.lower():
            return one
    path = Path(name)
    try:
        given = json.loads(path.read_text())
    except (OSError, ValueError) as error:
        remedy = f"Name a file, or one of: {', '.join(names)}."
        raise BadRequest(f"{name!r} is no {what}.", remedy=remedy) from error
    if not isinstance(given, dict):
        raise BadRequest(f"The file holds no {what}.", remedy="Export it anew, or correct the file.", clip=path)
    return read_form(form, given, what)
