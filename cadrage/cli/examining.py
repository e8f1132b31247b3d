"""Commands that look at footage, and write single images."""

import json
from fractions import Fraction
from pathlib import Path
from typing import Annotated

import typer
from rich.table import Table

from cadrage.analysis.burned_in_bars import BurnedInBars, edges_summary
from cadrage.analysis.closed_captions import NO_CAPTIONS, CaptionsFound
from cadrage.analysis.fields import FieldsFound
from cadrage.analysis.shots import ShotsFound
from cadrage.cli.analysing import found_in
from cadrage.cli.app import At, Replace, Source, app, examples, library_for, seconds, show, told, used_by
from cadrage.cli.arguments import read_frame, read_size
from cadrage.cli.endings import check_image
from cadrage.cli.moving import planned
from cadrage.cli.options import Active, FrameSize, Json, Options, takes_plan
from cadrage.compose import compose
from cadrage.compose.lineup import sheet, starting_set
from cadrage.errors import BadRequest
from cadrage.exchange import chart_of, to_edl, to_png, to_svg
from cadrage.files import write_data
from cadrage.footage import MediaInfo, probe
from cadrage.footage.describe import finding_message, timecode
from cadrage.formats import guides_for
from cadrage.geometry import Raster
from cadrage.pixels.rgb import encode_image, to_rgb
from cadrage.values import Value

Thorough = Annotated[
    bool, typer.Option("--thorough", help="Decode every picture, however long that takes, to find all damage.")
]


@app.command("probe", epilog=examples("probe tape.mpg", "probe --thorough --json reel.mkv"))
def probe_command(file: Source, thorough: Thorough = False, as_json: Json = False) -> None:
    """Say what a file is, and what is wrong with it."""
    info = probe(file, thorough=thorough)
    show(info, as_json, lambda: _facts_table(info))


def _facts_table(info: MediaInfo) -> Table:
    table = Table(show_header=False, box=None)
    for name, value in json.loads(info.model_dump_json(exclude={"findings"})).items():
        table.add_row(name.replace("_", " "), str(value))
    for finding in info.findings:
        table.add_row("damaged" if finding.damage else "note", finding_message(finding, info.rate))
    if info.counted != "decoded":
        table.add_row("note", "not every picture was decoded: --thorough finds all damage")
    return table


@app.command("analyse", epilog=examples("analyse tape.mpg"))
def analyse_command(file: Source, as_json: Json = False) -> None:
    """Look at a clip's pictures: bars that are part of them, and fields."""
    info = probe(file)
    found = {kind: found_in(kind, file, info) for kind in ("bars", "fields")}
    seen = Seen.model_validate(found)
    show(seen, as_json, lambda: _seen_table(seen))


class Seen(Value):
    """What looking at a clip's pictures found."""

    bars: BurnedInBars
    fields: FieldsFound


def _seen_table(seen: Seen) -> Table:
    table = Table(show_header=False, box=None)
    table.add_row("bars", seen.bars.summary)
    for stretch in seen.bars.stretches:
        table.add_row("", f"{float(stretch.start):.3f} to {float(stretch.end):.3f} s: {edges_summary(stretch.edges)}")
    table.add_row("fields", seen.fields.summary)
    return table


@app.command("shots", epilog=examples("shots reel.mov", "shots --edl reel.mov > reel.edl"))
def shots_command(
    file: Source,
    edl: Annotated[bool, typer.Option("--edl", help="Write them as a CMX 3600 edit list.")] = False,
    as_json: Json = False,
) -> None:
    """List the shots of a clip: where each begins and how long it lasts."""
    info = probe(file)
    found = found_in("shots", file, info)
    shots = found if isinstance(found, ShotsFound) else ShotsFound(starts=(Fraction(0),), summary="one shot")
    if edl:
        print(to_edl(file.name, info, shots.starts), end="")
        return
    show(shots, as_json, lambda: _shots_table(shots, info))


def _shots_table(shots: ShotsFound, info: MediaInfo) -> Table:
    table = Table(box=None)
    for heading in ("shot", "begins", "lasts", "seconds"):
        table.add_column(heading, justify="left" if heading == "begins" else "right")
    ends = [*shots.starts[1:], info.duration]
    for number, (start, end) in enumerate(zip(shots.starts, ends, strict=True), 1):
        table.add_row(
            str(number), timecode(start, info.rate), timecode(end - start, info.rate), f"{float(end - start):.3f}"
        )
    return table


@app.command("captions", epilog=examples("captions programme.ts programme.srt"))
def captions_command(
    file: Source,
    out: Annotated[Path, typer.Argument(help="The SRT file to write.", show_default=False)],
    replace: Replace = False,
    as_json: Json = False,
) -> None:
    """Write the closed captions (CEA-608) that a clip's pictures carry as a captions file."""
    found = found_in("captions", file, probe(file))
    if not isinstance(found, CaptionsFound):
        raise BadRequest(NO_CAPTIONS, remedy="Choose another clip.", clip=file)
    write_data(out, found.srt.encode(), sources=[file], replace=replace)
    told(as_json, file=str(out), captions=found.count)


@app.command("plan", epilog=examples("plan clip.mp4 --frame 1080x1920 --placement fill"))
@takes_plan
def plan_command(source: Source, options: Options, as_json: Json = False) -> None:  # noqa: ARG001 - it is JSON
    """Write the plan that the options make, as JSON."""
    print(planned(source, probe(source), options).model_dump_json(indent=2))


@app.command("frame", epilog=examples("frame clip.mp4 still.png --at 1.5 --frame 1080x1920 --placement fill"))
@takes_plan
def frame_command(
    source: Source,
    out: Annotated[Path, typer.Argument(help="The PNG or JPEG image to write.", show_default=False)],
    options: Options,
    at: At = "0",
    replace: Replace = False,
    as_json: Json = False,
) -> None:
    """Compose one frame and write it as an image."""
    ending, moment = check_image(out, ".png", ".jpg", ".jpeg"), seconds(at)
    info = probe(source)
    made = planned(source, info, options)
    planes = compose(made, info, source, moment, library=library_for(made, source, info))
    data = encode_image(to_rgb(planes), ".png" if ending == ".png" else ".jpg")
    write_data(out, data, sources=used_by(made, source), replace=replace)
    told(as_json, file=str(out), width=made.frame.width, height=made.frame.height)


@app.command("lineup", epilog=examples("lineup clip.mp4 ways.png --at 1.5 --frame 1080x1920"))
@takes_plan
def lineup_command(
    source: Source,
    out: Annotated[Path, typer.Argument(help="The PNG image to write.", show_default=False)],
    options: Options,
    at: At = "0",
    replace: Replace = False,
    as_json: Json = False,
) -> None:
    """Write several ways for one moment side by side, each with its cost."""
    check_image(out, ".png")
    moment, info = seconds(at), probe(source)
    made = planned(source, info, options)
    ways = starting_set(made, info)
    data = sheet(ways, source, info, moment, library_for(made, source, info))
    write_data(out, data, sources=used_by(made, source), replace=replace)
    told(as_json, file=str(out), ways=[way.name for way in ways])


@app.command("chart", epilog=examples("chart guides.svg --frame 1920x1080 --active 2.39 --also 1080x1920"))
def chart_command(
    out: Annotated[Path, typer.Argument(help="The SVG or PNG file to write.", show_default=False)],
    frame: FrameSize = "1920x1080",
    active: Active = None,
    raster: Annotated[str | None, typer.Option("--raster", help="A camera's raster to draw it in.")] = None,
    also: Annotated[list[str] | None, typer.Option("--also", help="A frame whose outline is drawn too.")] = None,
    replace: Replace = False,
    as_json: Json = False,
) -> None:
    """Write a chart of a frame's guides, for a camera or a monitor."""
    ending = check_image(out, ".svg", ".png")
    made, others = read_frame(frame, active), tuple(read_frame(other, None) for other in also or ())
    chart = chart_of(made, guides_for(made, others=others), None if raster is None else Raster(*read_size(raster)))
    write_data(out, to_png(chart) if ending == ".png" else to_svg(chart).encode(), replace=replace)
    told(as_json, file=str(out), width=chart.width, height=chart.height)
