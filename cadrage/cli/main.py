"""The commands. Exit status: 0 all right, 1 a wrong result, 2 bad input."""

import json
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from fractions import Fraction
from pathlib import Path
from typing import Annotated, NoReturn

import typer
from pydantic import ValidationError
from rich.console import Console
from rich.progress import BarColumn, Progress, TextColumn, TimeRemainingColumn
from rich.table import Table

from cadrage import render as rendering
from cadrage.cli.arguments import build_plan, described, first_problem, read_frame, read_size, read_written
from cadrage.cli.batch import run_batch
from cadrage.cli.options import Active, FrameSize, Json, Options, SettingsName, Written, takes_plan
from cadrage.compose import compose
from cadrage.compose.lineup import sheet, starting_set
from cadrage.errors import BadRequest, CadrageError, CannotWrite
from cadrage.exchange import chart_of, to_png, to_svg
from cadrage.footage import Facts, Library, Material, library_of_files, probe
from cadrage.footage.baked import BakedBars, find_baked, said
from cadrage.footage.fields import FieldsFound, find_fields
from cadrage.formats import guides_for
from cadrage.geometry import Raster
from cadrage.pixels.rgb import encode_image, to_rgb
from cadrage.plan import Plan, read_plan
from cadrage.render.batch import help_in
from cadrage.values import Value, parse_exact

app = typer.Typer(no_args_is_help=True, add_completion=False, help=__doc__, pretty_exceptions_enable=False)

Source = Annotated[Path, typer.Argument(help="The clip, still, or folder of numbered stills.", show_default=False)]

WRONG, BAD_INPUT = 1, 2


def main() -> None:
    """Run the command line."""
    app()


@contextmanager
def _told(as_json: bool) -> Iterator[None]:
    """Turn an error into one message and the right exit status."""
    try:
        yield
    except CadrageError as error:
        _fail(error, as_json)


def _fail(error: CadrageError, as_json: bool) -> NoReturn:
    if as_json:
        print(json.dumps({"error": described(error)}))
    else:
        print(f"cadrage: {error}", file=sys.stderr)
    raise typer.Exit(BAD_INPUT) from error


def _show(value: Value, as_json: bool, table: Callable[[], Table]) -> None:
    if as_json:
        print(value.model_dump_json(indent=2))
    else:
        Console().print(table())


@app.command("probe")
def probe_command(file: Source, as_json: Json = False) -> None:
    """Say what a file is."""
    with _told(as_json):
        facts = probe(file)
        _show(facts, as_json, lambda: _facts_table(facts))


def _facts_table(facts: Facts) -> Table:
    table = Table(show_header=False, box=None)
    for name, value in json.loads(facts.model_dump_json()).items():
        table.add_row(name.replace("_", " "), str(value))
    return table


@app.command("look")
def look_command(file: Source, as_json: Json = False) -> None:
    """Look at a clip's pictures: bars that are part of them, and fields."""
    with _told(as_json):
        facts = probe(file)
        seen = Seen(bars=find_baked(file, facts), fields=find_fields(file, facts))
        _show(seen, as_json, lambda: _seen_table(seen))


class Seen(Value):
    """What looking at a clip's pictures found."""

    bars: BakedBars
    fields: FieldsFound


def _seen_table(seen: Seen) -> Table:
    table = Table(show_header=False, box=None)
    table.add_row("bars", seen.bars.says)
    for stretch in seen.bars.stretches:
        table.add_row("", f"{float(stretch.start):.3f} to {float(stretch.end):.3f} s: {said(stretch.edges)}")
    table.add_row("fields", seen.fields.says)
    return table


@app.command("plan")
@takes_plan
def plan_command(source: Source, options: Options, as_json: Json = False) -> None:
    """Write the plan that the options make, as JSON."""
    with _told(as_json):
        probe(source)
        print(build_plan(source, options).model_dump_json(indent=2))


@app.command("frame")
@takes_plan
def frame_command(
    source: Source,
    out: Annotated[Path, typer.Argument(help="The PNG or JPEG image to write.", show_default=False)],
    options: Options,
    at: Annotated[str, typer.Option("--at", help="Seconds from the first picture.")] = "0",
    as_json: Json = False,
) -> None:
    """Compose one frame and write it as an image."""
    with _told(as_json):
        made, facts = build_plan(source, options), probe(source)
        planes = compose(made, facts, source, _seconds(at), library=_library(made, source, facts))
        _write(out, encode_image(to_rgb(planes), ".jpg" if out.suffix.lower() in (".jpg", ".jpeg") else ".png"))
        if as_json:
            print(json.dumps({"file": str(out), "width": made.frame.width, "height": made.frame.height}))


@app.command("lineup")
@takes_plan
def lineup_command(
    source: Source,
    out: Annotated[Path, typer.Argument(help="The PNG image to write.", show_default=False)],
    options: Options,
    at: Annotated[str, typer.Option("--at", help="Seconds from the first picture.")] = "0",
    as_json: Json = False,
) -> None:
    """Write several ways for one moment side by side, each with its cost."""
    with _told(as_json):
        facts = probe(source)
        made = build_plan(source, options)
        ways = starting_set(made, facts)
        _write(out, sheet(ways, source, facts, _seconds(at), _library(made, source, facts)))
        if as_json:
            print(json.dumps({"file": str(out), "ways": [way.name for way in ways]}))


@app.command("chart")
def chart_command(
    out: Annotated[Path, typer.Argument(help="The SVG or PNG file to write.", show_default=False)],
    frame: FrameSize = "1920x1080",
    active: Active = None,
    raster: Annotated[str | None, typer.Option("--raster", help="A camera's raster to draw it in.")] = None,
    also: Annotated[list[str] | None, typer.Option("--also", help="A frame whose outline is drawn too.")] = None,
    as_json: Json = False,
) -> None:
    """Write a chart of a frame's guides, for a camera or a monitor."""
    with _told(as_json):
        try:
            made, others = read_frame(frame, active), tuple(read_frame(other, None) for other in also or ())
        except ValidationError as error:
            raise BadRequest(first_problem(error), remedy="See --help for what each option takes.") from error
        chart = chart_of(made, guides_for(made, others=others), None if raster is None else Raster(*read_size(raster)))
        _write(out, to_png(chart) if out.suffix.lower() == ".png" else to_svg(chart).encode())
        if as_json:
            print(json.dumps({"file": str(out), "width": chart.width, "height": chart.height}))


def _library(plan: Plan, source: Path, facts: Facts) -> Library:
    """What plans name on the command line: paths, and the clip itself."""
    return library_of_files(Material(source, facts, plan.interpretation))


def _write(out: Path, data: bytes) -> None:
    try:
        out.write_bytes(data)
    except OSError as error:
        raise CannotWrite("The image could not be written.", remedy="Choose another place.", clip=out) from error


def _seconds(text: str) -> Fraction:
    try:
        return parse_exact(text)
    except ValueError as error:
        raise typer.BadParameter(str(error)) from error


@app.command("convert")
@takes_plan
def convert_command(
    source: Source,
    target: Annotated[Path, typer.Argument(help="The file to write.", show_default=False)],
    options: Options,
    settings: SettingsName = None,
    write: Written = "",
    as_json: Json = False,
) -> None:
    """Render a clip into a frame, then inspect the file."""
    with _told(as_json):
        facts = probe(source)
        made = build_plan(source, options)
        library = _library(made, source, facts)
        how = read_written(rendering.find_settings(settings), write)
        rendering.check_decided(how, made.frame, source.name)
        with _bar(rendering.delivered(made, facts, how).frames) as report:
            rendering.render(made, source, target, facts, settings=how, library=library, report=report)
        _report(target, rendering.Order(made, source, facts, library, how), as_json)


@app.command("batch")
def batch_command(
    folder: Annotated[Path, typer.Argument(help="A folder of clips and stills.", show_default=False)],
    out: Annotated[Path, typer.Option("--out", help="The folder to write to.", show_default=False)],
    frame: Annotated[list[str] | None, typer.Option("--frame", help="A frame to deliver; may be given again.")] = None,
    treatment: Annotated[str | None, typer.Option("--treatment", help="What every clip is given.")] = None,
    settings: SettingsName = None,
    write: Written = "",
    workers: Annotated[int, typer.Option("--workers", min=1, help="Processes that draw at once.")] = 1,
    as_json: Json = False,
) -> None:
    """Render every clip of a folder into every frame, inspect the files, and write a delivery sheet beside them.

    Nothing is replaced. A clip that cannot be used is told at the end and does not stop the others. What was stopped
    in the middle goes on from there when the same is asked again.
    """
    with _told(as_json):
        how = read_written(rendering.find_settings(settings), write)
        made, failed = run_batch(folder, frame or ["1920x1080"], treatment, how, out, workers)
    wrong = [one.row.file for one in made if not one.row.inspection.right]
    if as_json:
        files = [{"file": one.row.file, "right": one.row.inspection.right} for one in made]
        print(json.dumps({"files": files, "failed": [described(one.error) for one in failed]}))
    else:
        for one in made:
            print(f"{one.row.file}: {'right' if one.row.inspection.right else 'WRONG'}")
        for lost in failed:
            print(f"cadrage: {lost.error}", file=sys.stderr)
    if failed or wrong:
        raise typer.Exit(BAD_INPUT if failed else WRONG)


@app.command("parts")
def parts_command(
    folder: Annotated[Path, typer.Argument(help="A folder that a batch writes to.", show_default=False)],
) -> None:
    """Help a batch that was begun elsewhere, also on another machine that shares its folder, until stopped."""
    help_in(folder)


@contextmanager
def _bar(total: int) -> Iterator[Callable[[rendering.Progress], None]]:
    """A progress bar on a terminal; nothing elsewhere."""
    columns = (TextColumn("{task.description}"), BarColumn(), TextColumn("{task.fields[speed]}"), TimeRemainingColumn())
    console = Console(stderr=True)
    with Progress(*columns, console=console, disable=not console.is_terminal) as progress:
        task = progress.add_task("Rendering", total=total, speed="")

        def report(now: rendering.Progress) -> None:
            progress.update(task, completed=now.done, speed=f"{now.frames_per_second:.0f} frames/s")

        yield report


@app.command("inspect")
def inspect_command(
    file: Annotated[Path, typer.Argument(help="A file that was rendered.", show_default=False)],
    plan: Annotated[Path | None, typer.Option("--plan", help="The plan to hold it against.")] = None,
    settings: SettingsName = None,
    write: Written = "",
    as_json: Json = False,
) -> None:
    """Measure a file, and hold it against a plan. Exit status 1 if it is not what the plan asks for."""
    with _told(as_json):
        order = None
        if plan is not None:
            asked: Plan = read_plan(plan)
            source = Path(asked.source)
            facts = probe(source)
            how = read_written(rendering.find_settings(settings), write)
            order = rendering.Order(asked, source, facts, _library(asked, source, facts), how)
        _report(file, order, as_json)


def _report(file: Path, order: rendering.Order | None, as_json: bool) -> None:
    inspection = rendering.inspect_file(file, order)
    _show(inspection, as_json, lambda: _inspection_table(inspection))
    if not inspection.right:
        raise typer.Exit(WRONG)


def _inspection_table(inspection: rendering.Inspection) -> Table:
    table = Table(title=inspection.file, title_justify="left")
    for heading in ("what", "asked", "found", ""):
        table.add_column(heading)
    for line in inspection.lines:
        table.add_row(line.name, line.asked, line.found, f"{line.verdict}. {line.remedy}".strip(". "))
    return table
