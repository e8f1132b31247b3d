"""Controls and settings: a description, kept beside each field, from which an interface draws its control."""

from fractions import Fraction
from typing import Any, Literal, TypeVar

from pydantic import BaseModel, Field

from cadrage.values import Value, parse_exact
from cadrage.wording import wording

V = TypeVar("V", bound=Value)
Named = Literal["picture", "clip", "logo", "captions"]


LONGEST_CLIP = 86400  # seconds


def _number(low: float, high: float, default: float, label: str, unit: str, step: float) -> Any:  # noqa: ANN401 - what Field returns
    """A field of an exact number. The literals it is declared with mean the decimals that they are written as."""
    least, most, usual = (parse_exact(number) for number in (low, high, default))
    extra: dict[str, Any] = {"unit": unit, "step": step, "low": low, "high": high}
    return Field(default=usual, ge=least, le=most, title=label, json_schema_extra=extra)


def percent(low: float, high: float, default: float, label: str, step: float = 1) -> Any:  # noqa: ANN401 - as above
    """A field from `low` to `high` percent."""
    return _number(low, high, default, label, "%", step)


def pixels(low: float, high: float, label: str) -> Any:  # noqa: ANN401 - as above
    """A field of frame pixels, 0 unless set."""
    return _number(low, high, 0.0, label, "px", 1)


def lengthened(value: V, by: Fraction) -> V:
    """A value with all lengths in frame pixels, in whatever it holds, multiplied, as far as their ranges go."""
    update: dict[str, Any] = {}
    for name, field in type(value).model_fields.items():
        held, extra = getattr(value, name), field.json_schema_extra
        if isinstance(held, Value):
            update[name] = lengthened(held, by)
        elif isinstance(extra, dict) and extra.get("unit") == "px":
            low, high = (parse_exact(extra[end]) for end in ("low", "high"))
            update[name] = min(max(held * by, low), high)
    return value.model_copy(update=update)


def degrees(low: float, high: float, default: float, label: str) -> Any:  # noqa: ANN401 - as above
    """A field of degrees, clockwise as seen."""
    return _number(low, high, default, label, "°", 1)


def seconds(low: float, high: float, default: float, label: str) -> Any:  # noqa: ANN401 - as above
    """A field of seconds."""
    return _number(low, high, default, label, "s", 0.5)


def moment(label: str) -> Any:  # noqa: ANN401 - as above
    """A field of a moment of the clip, in seconds from its first picture."""
    return _number(0, LONGEST_CLIP, 0.0, label, "moment", 0.1)


def plain_number(low: float, high: float, default: float, label: str, step: float) -> Any:  # noqa: ANN401 - as above
    """A field that is a number and no more."""
    return _number(low, high, default, label, "", step)


def text(label: str, default: str, longest: int) -> Any:  # noqa: ANN401 - as above
    """A field of words; they may have several lines."""
    return Field(default=default, max_length=longest, title=label, json_schema_extra={"unit": "text"})


def named(label: str, what: Named) -> Any:  # noqa: ANN401 - as above
    """A field that names something of a library, or nothing."""
    return Field(default="", max_length=4096, title=label, json_schema_extra={"unit": what})


class Choice(Value):
    """One thing that a choice can be: its value, and what people call it."""

    value: str
    title: str


class Control(Value):
    """One thing that can be set.

    Attributes:
        name: the field.
        label: what people call it.
        unit: of a number, or empty; "moment", in seconds; "colour"; "colour or none"; "choice"; "tick"; "text";
            "surround", which has controls of its own; or what a field names: "picture" (any clip or still), "clip",
            "logo", "captions".
        low, high, step: of a number; 0 where it is none.
        default: as JSON holds it; empty for no colour; of a surround, all of it.
        choices: the values of a choice.
    """

    name: str
    label: str
    unit: str
    low: float = 0
    high: float = 0
    step: float = 0
    default: str | bool | dict[str, Any]
    choices: tuple[Choice, ...] = ()


def controls_of(
    kind: type[BaseModel],
    *,
    first: tuple[str, ...] = (),
    last: tuple[str, ...] = (),
    without: tuple[str, ...] = (),
) -> tuple[Control, ...]:
    """The controls of a value's fields, in order; some of them before, and some after all others; of some there is none
    that could be listed.
    """
    properties: dict[str, dict[str, Any]] = kind.model_json_schema()["properties"]
    usual = kind().model_dump(mode="json")
    names = [name for name in properties if name not in ("kind", *without)]
    middle = [name for name in names if name not in first + last]
    behind = (name for name in last if name in names and name not in first)
    ordered = [*(name for name in first if name in names), *middle, *behind]
    return tuple(_control(name, properties[name], usual[name]) for name in ordered)


def _control(name: str, field: dict[str, Any], usual: Any) -> Control:  # noqa: ANN401 - as JSON holds it
    known = {"name": name, "label": field["title"]}
    if "enum" in field:
        return Control(
            **known,
            unit="choice",
            default=usual,
            choices=tuple(Choice(value=one, title=wording(one)) for one in field["enum"]),
        )
    if field.get("type") == "boolean":
        return Control(**known, unit="tick", default=usual)
    if "discriminator" in field:
        return Control(**known, unit="surround", default=usual)
    if "anyOf" in field:
        return Control(**known, unit="colour or none", default=usual or "")
    return Control(
        **known,
        unit=field.get("unit", field.get("format", "")),
        low=field.get("low", 0),
        high=field.get("high", 0),
        step=field.get("step", 0),
        default=usual,
    )


Scalar = str | int | float | bool | None


class Option(Value):
    """A value of a setting, as JSON holds it, and what people call it."""

    value: Scalar
    title: str


class Setting(Value):
    """One setting of a clip, a frame or a file, for an interface that shows it.

    Attributes:
        name: the field that it sets.
        label, hint: what people call it, and one more sentence where that is needed.
        unit: "choice", "tick", "text", "colour", "button", or the unit of a number.
        options: of a choice; of a tick, its values when off and when on; of a button, the value that it sets; of a
            text that may be empty, the value that this stands for; of a colour, the one that a double-click restores.
        others: whether a choice can have other values too, which are then shown as they are; otherwise such a value
            means the first option.
        low, high, step, decimals: of a number.
        initial: the number shown if the field is empty.
        only_if, unless: the setting is shown if every field in `only_if`, and no field in `unless`, has one of the
            listed values.
    """

    name: str
    label: str
    hint: str = ""
    unit: str = "choice"
    options: tuple[Option, ...] = ()
    others: bool = False
    low: float = 0
    high: float = 0
    step: float = 1
    decimals: int = 0
    initial: float = 0
    only_if: dict[str, tuple[Scalar, ...]] = Field(default={})
    unless: dict[str, tuple[Scalar, ...]] = Field(default={})


class SettingGroup(Value):
    """Settings that belong together, under a title.

    Attributes:
        title, state: the subject, and its present state in a word or two.
        open: whether they are worth looking at without being asked for.
        notes: sentences about it.
    """

    title: str
    state: str = ""
    open: bool = False
    notes: tuple[str, ...] = ()
    settings: tuple[Setting, ...]


def options(*pairs: tuple[Scalar, str]) -> tuple[Option, ...]:
    """Options from pairs of a value and its title."""
    return tuple(Option(value=value, title=title) for value, title in pairs)
