"""Commands that list what there is to choose from: surrounds, finishes, settings of files, frames."""

from collections.abc import Iterable

from rich.table import Table

from cadrage.cli.app import app, examples, show
from cadrage.cli.options import Json
from cadrage.fields import Control
from cadrage.finish import caption_controls, offered_parts, title_controls
from cadrage.formats import FRAME_FORMATS
from cadrage.formats.aspect_names import aspect_name
from cadrage.output import OUTPUT_FORMATS, SHIPPED
from cadrage.surrounds import offered
from cadrage.values import Value


class Offer(Value):
    """One thing to choose, with what can be set of it.

    Attributes:
        name: by which it is asked for.
        title: what people call it.
        controls: its fields, with their ranges and defaults.
    """

    name: str
    title: str
    controls: tuple[Control, ...]


class Offers(Value):
    """All of one sort."""

    offers: tuple[Offer, ...]


class Line(Value):
    """One thing that is chosen as it is: its name, and what it is."""

    name: str
    summary: str


class Lines(Value):
    """All of one sort."""

    lines: tuple[Line, ...]


@app.command("surrounds", epilog=examples("surrounds"))
def surrounds_command(as_json: Json = False) -> None:
    """List every surround, with its fields, their ranges and defaults."""
    made = Offers(offers=tuple(Offer(name=one.kind, title=one.title, controls=one.controls) for one in offered()))
    show(made, as_json, lambda: _offers_table(made.offers))


@app.command("finishes", epilog=examples("finishes"))
def finishes_command(as_json: Json = False) -> None:
    """List every finish, with its fields, their ranges and defaults."""
    parts = [Offer(name=one.name, title=one.title, controls=one.controls) for one in offered_parts()]
    parts.append(Offer(name="titles", title="Titles, each", controls=title_controls()))
    parts.append(Offer(name="captions", title="Captions", controls=caption_controls()))
    made = Offers(offers=tuple(parts))
    show(made, as_json, lambda: _offers_table(made.offers))


@app.command("settings", epilog=examples("settings"))
def settings_command(as_json: Json = False) -> None:
    """List every kind of file, and the settings that come with Cadrage."""
    kinds = [
        Line(
            name=f"kind={one.name}",
            summary=f"{one.title}; {one.suffix}; sound: {', '.join(one.sounds)}",
        )
        for one in OUTPUT_FORMATS.values()
    ]
    named = [Line(name=one.name, summary=f"kind={one.kind}, quality={one.quality}") for one in SHIPPED]
    made = Lines(lines=(*named, *kinds))
    show(made, as_json, lambda: _lines_table(made.lines))


@app.command("frames", epilog=examples("frames"))
def frames_command(as_json: Json = False) -> None:
    """List the frames of the catalogue."""
    lines = (
        Line(
            name=f"{one.frame.width}x{one.frame.height}",
            summary=f"{one.frame.name}, {aspect_name(one.frame.raster.display_aspect)}",
        )
        for one in FRAME_FORMATS
    )
    made = Lines(lines=tuple(lines))
    show(made, as_json, lambda: _lines_table(made.lines))


def _offers_table(offers: Iterable[Offer]) -> Table:
    table = Table(box=None)
    for heading in ("", "field", "range", "default"):
        table.add_column(heading, no_wrap=heading == "field")
    for offer in offers:
        table.add_row(offer.name, offer.title, "", "")
        for control in offer.controls:
            table.add_row("", control.name, _range(control), _default(control))
    return table


def _range(control: Control) -> str:
    if control.choices:
        return ", ".join(choice.value.replace("_", "-") for choice in control.choices)
    if control.low != control.high:
        return f"{control.low:g} to {control.high:g} {control.unit}".replace("moment", "s").replace(" %", "%")
    return {"tick": "true, false", "text": "words"}.get(control.unit, control.unit)


def _default(control: Control) -> str:
    usual = control.default
    return str(usual["kind"]) if isinstance(usual, dict) else str(usual).replace("_", "-")


def _lines_table(lines: Iterable[Line]) -> Table:
    table = Table(show_header=False, box=None)
    for line in lines:
        table.add_row(line.name, line.summary)
    return table
