"""The command that says whether a scene can go on beyond its picture, and goes on with it in several ways."""

import json
from fractions import Fraction
from pathlib import Path
from typing import Annotated

import typer
from rich.console import Console
from rich.table import Table

from cadrage.analysis import NotFound
from cadrage.analysis.sides.analysis import SidesFound
from cadrage.cli.analysing import as_seen, plate_made, sides_for
from cadrage.cli.app import At, Replace, Source, app, examples, library_for, seconds
from cadrage.cli.arguments import frame_asked, read_interpretation, read_range
from cadrage.cli.endings import check_image
from cadrage.cli.extended import as_advised
from cadrage.cli.extension_words import sides_typed
from cadrage.cli.options import Json, Options, takes_frame
from cadrage.cli.outside import Still, finish_elsewhere
from cadrage.compose.extending import plates_asked
from cadrage.compose.extension_shares import shares_at
from cadrage.compose.lineup import Alternative
from cadrage.compose.lineup import sheet as lineup_sheet
from cadrage.errors import BadRequest
from cadrage.extend.request import SIDES, PlateSide
from cadrage.files import check_target, write_data
from cadrage.footage import MediaInfo, probe
from cadrage.plan import Plan
from cadrage.surrounds import Extended

MOST_VARIANTS = 9


@app.command(
    "extend",
    epilog=examples(
        "extend yard.mp4 --verdict --json",
        "extend yard.mp4 --frame 1920x1080 --sides left,right --variants 4 --sheet ways.png",
        "extend yard.mp4 --frame 1920x1080 --still-out yard.png",
        "extend yard.mp4 --frame 1920x1080 --still-in painted.png --picture used.png --out plan.json",
    ),
)
@takes_frame
def extend_command(
    source: Source,
    options: Options,
    frame: Annotated[str, typer.Option("--frame", help="Width and height to deliver, in pixels.")] = "1920x1080",
    sides: Annotated[str | None, typer.Option("--sides", help="Sides to go on with, like left,right.")] = None,
    variants: Annotated[int, typer.Option("--variants", min=1, max=MOST_VARIANTS, help="How many ways of each.")] = 4,
    verdict: Annotated[bool, typer.Option("--verdict", help="Only say whether it will work.")] = False,
    sheet: Annotated[Path | None, typer.Option("--sheet", help="A PNG of the ways side by side.")] = None,
    still_out: Annotated[
        Path | None, typer.Option("--still-out", help="A PNG of the frame, clear where it is to be finished elsewhere.")
    ] = None,
    still_in: Annotated[
        Path | None, typer.Option("--still-in", help="Such a picture, finished; kept as --picture.")
    ] = None,
    picture: Annotated[
        Path | None, typer.Option("--picture", help="A PNG for what was taken back, which the plan uses.")
    ] = None,
    out: Annotated[Path | None, typer.Option("--out", help="A JSON file for the plan.")] = None,
    at: At = "0",
    replace: Replace = False,
    as_json: Json = False,
) -> None:
    """Go on with the scene beyond the picture, in several ways; or say whether that will work, why, and until when."""
    for target in (sheet, still_out, picture):
        if target is not None:
            check_image(target, ".png")
            check_target(target, replace=replace)
    info, moment = probe(source), seconds(at)
    taken = as_seen(read_interpretation(options["pixel_aspect"], options["taken_as"]), source, info)
    found = sides_for(source, info, taken)
    if verdict:
        _tell_verdict(found, as_json)
        return
    plan = Plan(source=str(source), interpretation=taken, frame=frame_asked(frame, options))
    plan = plan.model_copy(update={"range": read_range(options["part"])})
    asked = sides_typed(sides, {})
    if still_out is not None or still_in is not None:
        still = Still(still_out, still_in, picture, out, replace)
        _tell_still(finish_elsewhere(_plain(plan, asked), source, info, moment, still), as_json)
        return
    ways = [_way(plan, source, info, asked, number) for number in range(variants)]
    if sheet is not None:
        named = tuple(Alternative(name=f"Variant {number}", plan=way) for number, way in enumerate(ways))
        drawn = lineup_sheet(named, source, info, moment, library_for(ways[0], source, info))
        write_data(sheet, drawn, sources=[source], replace=replace)
    _tell_ways(ways, source, info, moment, found, as_json)


def _plain(plan: Plan, sides: tuple[str, ...], variant: int = 0) -> Plan:
    """A plan that goes on beyond some sides, in one way."""
    given = {side: PlateSide(variant=variant) if side in sides else None for side in SIDES}
    return plan.model_copy(update={"surround": Extended.model_validate(given)})


def _tell_still(done: dict[str, str], as_json: bool) -> None:
    if as_json:
        print(json.dumps(done))
        return
    for name, words in done.items():
        print(f"{name}: {words}")


def _way(plan: Plan, source: Path, info: MediaInfo, sides: tuple[str, ...], number: int) -> Plan:
    """A plan that goes on in one way, its plate made."""
    extended = as_advised(_plain(plan, sides, number), source, info)
    asked = plates_asked(extended, info)
    if not asked:
        raise BadRequest(
            "The picture leaves nothing of the frame empty on those sides.",
            remedy="Choose another frame, or other sides.",
            clip=source,
        )
    for one in asked:
        outcome = plate_made(one.asked, extended, source, info)
        if isinstance(outcome, NotFound):
            raise BadRequest(outcome.reason, remedy="Choose another stretch of the clip with --range.", clip=source)
    return extended


def _tell_verdict(found: SidesFound | NotFound, as_json: bool) -> None:
    if isinstance(found, NotFound):
        print(json.dumps({"shots": [], "summary": found.reason}) if as_json else found.reason)
        return
    if as_json:
        print(found.model_dump_json(indent=2))
        return
    table = Table(title=found.summary, title_justify="left", box=None)
    for heading in ("from", "to", "side", "verdict", "why"):
        table.add_column(heading, justify="right" if heading in ("from", "to") else "left")
    for shot in found.shots:
        for side, one in shot.sides.items():
            times = f"{float(shot.start):.2f}", f"{float(shot.end):.2f}"
            table.add_row(*times, side, one.verdict, one.summary)
    Console().print(table)


def _tell_ways(
    ways: list[Plan], source: Path, info: MediaInfo, time: Fraction, found: SidesFound | NotFound, as_json: bool
) -> None:
    shares = [shares_at(way, info, library_for(way, source, info), time) for way in ways]
    if as_json:
        verdict = None if isinstance(found, NotFound) else found.model_dump(mode="json")
        listed = [
            {"variant": number, "frame": None if one is None else one.model_dump(mode="json")}
            for number, one in enumerate(shares)
        ]
        print(json.dumps({"verdict": verdict, "ways": listed}))
        return
    table = Table(box=None)
    for heading in ("variant", "picture", "other moments", "invented"):
        table.add_column(heading, justify="right")
    for number, one in enumerate(shares):
        if one is not None:
            table.add_row(str(number), *(f"{float(part):.1f}%" for part in (one.real, one.elsewhen, one.invented)))
    Console().print(table)
