"""Commands that write files, and measure them."""

import json
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import cache
from pathlib import Path
from typing import Annotated

import typer
from rich.console import Console
from rich.progress import BarColumn, Progress, TextColumn, TimeRemainingColumn
from rich.table import Table

from cadrage import output
from cadrage import render as rendering
from cadrage.batch import Batch, help_in
from cadrage.cli.analysing import as_seen, with_ways
from cadrage.cli.app import Replace, Source, app, examples, library_for, show
from cadrage.cli.arguments import (
    build_plan,
    described,
    frame_asked,
    read_interpretation,
    read_range,
    read_surround,
    read_written,
)
from cadrage.cli.batch import run_batch
from cadrage.cli.endings import settings_for
from cadrage.cli.extended import extended_as_advised
from cadrage.cli.moving import completed, cut, read_motion
from cadrage.cli.options import (
    Json,
    Options,
    SettingsName,
    StopAtDamage,
    Written,
    takes_plan,
    takes_plan_of_many,
)
from cadrage.cli.running import stop_if_asked
from cadrage.cli.telling import BAD_INPUT, WRONG, note
from cadrage.files import check_apart, check_target
from cadrage.footage import MediaInfo, effective_timing, probe
from cadrage.footage.describe import finding_message
from cadrage.inspection import Inspection, inspect_file
from cadrage.inspection.report import RESULTS
from cadrage.plan import Plan, read_plan
from cadrage.render.review import FILE_REASONS, file_concerns, file_facts, sound_conversion
from cadrage.render.written_tracks import join_offer
from cadrage.treatments import find_treatment


@app.command(
    "convert",
    epilog=examples(
        "convert phone.mov wide.mp4 --frame 1920x1080 --surround blurred:softness=6",
        "convert tape.mpg master.mov --as fields=upper-first --write kind=mov-prores,profile=HQ",
    ),
)
@takes_plan
def convert_command(
    source: Source,
    target: Annotated[Path, typer.Argument(help="The file to write; its ending says what kind.", show_default=False)],
    options: Options,
    settings: SettingsName = None,
    write: Written = "",
    stop_at_damage: StopAtDamage = False,
    replace: Replace = False,
    dry_run: Annotated[
        bool, typer.Option("--dry-run", help="Say how the file would be written and what to check; write nothing.")
    ] = False,
    as_json: Json = False,
) -> None:
    """Render a clip into a frame, then inspect the file."""
    how = read_written(output.find_settings(settings), write, stop_at_damage=stop_at_damage)
    how = settings_for(target, how, stated=settings is not None or "kind=" in write)
    check_apart(target, [source])
    check_target(target, folder=output.OUTPUT_FORMATS[how.kind].folder, replace=replace)
    made = build_plan(source, options)
    info = rendering.info_to_render(source, whole=made.range.whole)
    made = completed(made, source, info, options)
    if dry_run:
        _tell_review(rendering.RenderRequest(made, source, info, library_for(made, source, info), how), as_json)
        return
    _tell(deliver(made, source, info, target, how, replace=replace), as_json)


def deliver(
    made: Plan, source: Path, info: MediaInfo, target: Path, how: output.Settings, *, replace: bool
) -> Inspection:
    """Render a plan into a file with a progress bar, and inspect it."""
    library = library_for(made, source, info)
    request = rendering.RenderRequest(made, source, info, library, how)
    output.check_decided(how, made.frame, source.name)
    _notes(made, info, request)
    with _bar(rendering.delivered(made, info, how).frames) as report:
        rendering.render(made, source, target, info, settings=how, library=library, report=report, replace=replace)
    return inspect_file(target, request)


def _tell_review(request: rendering.RenderRequest, as_json: bool) -> None:
    """Print how a file would be written and what to check before. Exit status 2 if it cannot be rendered so."""
    concerns = file_concerns(request)
    partial = any(one.reason == "part" for one in concerns)
    facts = file_facts(request.plan.frame, request.settings, [request.wanted.rate], partial=partial)
    if as_json:
        dumped = {"file": [one.model_dump() for one in facts], "check": [one.model_dump() for one in concerns]}
        print(json.dumps(dumped))
    else:
        for fact in facts:
            print(f"{fact.label}: {fact.value}")
        for one in concerns:
            note(" ".join(filter(None, (f"{FILE_REASONS[one.reason]}: {one.summary}.", one.remedy))))
    if any(one.blocks for one in concerns):
        raise typer.Exit(BAD_INPUT)


def _notes(plan: Plan, info: MediaInfo, request: rendering.RenderRequest) -> None:
    """Print notes about a file that do not stop its render."""
    lasts, end = effective_timing(info, plan.interpretation).duration, plan.range.end
    if end is not None and end > lasts and plan.range.start < lasts:
        note(f"The range ends at {float(end):g} s and the clip at {float(lasts):g} s; it is delivered to its end.")
    if (how := sound_conversion(request)) is not None:
        note(f"{request.encoder_config.kind.title}: cannot hold sound as it is; it is {how}.")
    if (joined := join_offer(info.sounds)) and not request.settings.tracks and request.sounds:
        note(
            f"{request.source.name}: its {len(info.sounds)} tracks of sound are mono. "
            f"--write tracks={joined} joins them in pairs."
        )
    if request.encoder_config.kind.muxer == "mxf" and any(one.language for one in request.sounds):
        note("MXF: languages of tracks of sound are not written; the file has no place for them here.")
    for finding in info.damage:
        note(f"{request.source.name}: {finding_message(finding, info.rate)}.")


@app.command(
    "batch", epilog=examples("batch reels --out delivered --frame 1920x1080 --frame 1080x1920 --treatment 'Calm blur'")
)
@takes_plan_of_many
def batch_command(
    folder: Annotated[Path, typer.Argument(help="A folder of clips and stills.", show_default=False)],
    out: Annotated[Path, typer.Option("--out", help="The folder to write to.", show_default=False)],
    options: Options,
    frame: Annotated[list[str] | None, typer.Option("--frame", help="A frame to deliver; may be given again.")] = None,
    settings: SettingsName = None,
    write: Written = "",
    workers: Annotated[int, typer.Option("--workers", min=1, help="Processes that draw at once.")] = 1,
    stop_at_damage: StopAtDamage = False,
    surround: Annotated[
        str | None, typer.Option("--surround", help="Background beside every picture, as for `convert`.")
    ] = None,
    as_json: Json = False,
) -> None:
    """Render every clip of a folder into every frame, inspect the files, and write a delivery sheet beside them.

    Existing files are kept. Clips that cannot be used are listed at the end and do not stop the others. An interrupted
    batch resumes when the same command is run again.
    """
    how = read_written(output.find_settings(settings), write, stop_at_damage=stop_at_damage)
    frames = [frame_asked(size, options) for size in frame or ["1920x1080"]]
    batch = Batch(
        frames=tuple(frames),
        settings=how,
        folder=out,
        treatment=None if options["treatment"] is None else find_treatment(options["treatment"]),
        project=folder.resolve().name,
        interpretation=read_interpretation(options["pixel_aspect"], options["taken_as"]),
        range=read_range(options["part"]),
        motion=read_motion(options["motion"]),
        finished=lambda plan, clip, info: extended_as_advised(
            with_ways(cut(_with(plan, surround), clip, info, options["shots"]), clip, info), clip, info, surround
        ),
        look=cache(as_seen),
        library=library_for,
    )
    made, failed = run_batch(folder, batch, workers)
    # A clip that cannot be read fails in every frame with the same error: print it once.
    problems = list({(one.error.clip, str(one.error)): one.error for one in failed}.values())
    wrong = [one.row.file for one in made if not one.row.inspection.right]
    if as_json:
        files = [{"file": one.row.file, "right": one.row.inspection.right} for one in made]
        print(json.dumps({"files": files, "failed": [described(error) for error in problems]}))
    else:
        for one in made:
            print(f"{one.row.file}: {'right' if one.row.inspection.right else 'WRONG'}")
        for error in problems:
            print(f"cadrage: {error}", file=sys.stderr)
    if failed or wrong:
        raise typer.Exit(BAD_INPUT if failed else WRONG)


def _with(plan: Plan, surround: str | None) -> Plan:
    """A plan with a surround that was typed, if any was."""
    return plan if surround is None else plan.model_copy(update={"surround": read_surround(surround)})


@app.command("parts", epilog=examples("parts delivered"))
def parts_command(
    folder: Annotated[Path, typer.Argument(help="A folder that a batch writes to.", show_default=False)],
) -> None:
    """Draw parts of a running batch, also one of another machine with the same folder, until stopped."""
    help_in(folder)


@contextmanager
def _bar(total: int) -> Iterator[Callable[[rendering.Progress], None]]:
    """A progress bar on a terminal; nothing elsewhere."""
    columns = (TextColumn("{task.description}"), BarColumn(), TextColumn("{task.fields[speed]}"), TimeRemainingColumn())
    console = Console(stderr=True)
    with Progress(*columns, console=console, disable=not console.is_terminal) as progress:
        task = progress.add_task("Rendering", total=total, speed="")

        def report(now: rendering.Progress) -> None:
            stop_if_asked()
            progress.update(task, completed=now.done, speed=f"{now.frames_per_second:.0f} frames/s")

        yield report


@app.command("inspect", epilog=examples("inspect wide.mp4 --plan plan.json"))
def inspect_command(
    file: Annotated[Path, typer.Argument(help="A file that was rendered.", show_default=False)],
    plan: Annotated[Path | None, typer.Option("--plan", help="The plan to hold it against.")] = None,
    settings: SettingsName = None,
    write: Written = "",
    as_json: Json = False,
) -> None:
    """Measure a file, and hold it against a plan. Exit status 1 if it is not what the plan asks for."""
    request = None
    if plan is not None:
        asked: Plan = read_plan(plan)
        source = Path(asked.source)
        info = probe(source)
        how = read_written(output.find_settings(settings), write)
        if settings is None and "kind=" not in write:
            how = settings_for(file, how, stated=False)
        request = rendering.RenderRequest(asked, source, info, library_for(asked, source, info), how)
    _tell(inspect_file(file, request), as_json)


def _tell(inspection: Inspection, as_json: bool) -> None:
    show(inspection, as_json, lambda: _inspection_table(inspection))
    if not inspection.right:
        raise typer.Exit(WRONG)


def _inspection_table(inspection: Inspection) -> Table:
    table = Table(title=inspection.file, title_justify="left")
    for heading in ("", "Expected", "Measured", "Result"):
        table.add_column(heading)
    for line in inspection.lines:
        table.add_row(line.name, line.asked, line.found, f"{RESULTS[line.verdict]}. {line.remedy}".strip(". "))
    return table
