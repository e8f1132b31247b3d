"""The command that lets a window follow what matters in a clip."""

import json
from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path
from typing import Annotated, Any

import typer
from rich.console import Console
from rich.table import Table

from cadrage import output
from cadrage import render as rendering
from cadrage.cli.analysing import as_seen, seen_for
from cadrage.cli.app import Replace, Source, app, examples
from cadrage.cli.arguments import checked, frame_asked, read_interpretation, read_range
from cadrage.cli.delivering import deliver
from cadrage.cli.endings import check_image, settings_for
from cadrage.cli.moving import cut
from cadrage.cli.options import Json, Options, takes_frame
from cadrage.cli.telling import WRONG
from cadrage.compose.concerns import doubts_of
from cadrage.compose.following import with_follow
from cadrage.compose.following_sheet import following_sheet
from cadrage.errors import BadRequest
from cadrage.files import check_target, write_data
from cadrage.footage import Interpretation, MediaInfo, ResolvedInterpretation, resolve
from cadrage.formats import Frame
from cadrage.inspection import Inspection
from cadrage.motion.follow import Doubt, Follow, Pin, SubjectBox
from cadrage.plan import Plan
from cadrage.treatments import find_treatment
from cadrage.values import Exact, Value, parse_exact

SUBJECT_HELP = "Write it like box=620,180,240,520@2.5: left, top, width and height in the clip's pixels, and seconds."
PIN_HELP = "Write it like 2.5:960,540: seconds, and the middle of the window in the clip's pixels."


class SecondOf(Value):
    """How sure a window is in one second, percent; `start` is in seconds of the clip."""

    start: Exact
    sure: int


class FollowedInto(Value):
    """What came of following into one frame."""

    frame: str
    seconds: tuple[SecondOf, ...]
    doubts: tuple[Doubt, ...]
    plan: str = ""
    file: str = ""
    right: bool = True


@app.command(
    "follow",
    epilog=examples(
        "follow talk.mp4 --frame 1080x1920 --pace calm --out plan.json --sheet window.png",
        "follow race.mov --frame 1080x1920 --frame 1080x1080 --subject box=620,180,240,520@2.5 --convert race.mp4",
    ),
)
@takes_frame
def follow_command(
    source: Source,
    options: Options,
    frame: Annotated[list[str] | None, typer.Option("--frame", help="A frame to deliver; may be given again.")] = None,
    pace: Annotated[str, typer.Option("--pace", help="How eagerly it follows: calm, medium or quick.")] = "medium",
    subject: Annotated[list[str] | None, typer.Option("--subject", help=f"Whom to follow. {SUBJECT_HELP}")] = None,
    pin: Annotated[list[str] | None, typer.Option("--pin", help=f"Where the window must be. {PIN_HELP}")] = None,
    closest: Annotated[str, typer.Option("--closest", help="How many times larger the picture may get, 1 to 3.")] = "1",
    widest: Annotated[str, typer.Option("--widest", help="How many times smaller it may get, 1 to 3.")] = "1",
    out: Annotated[Path | None, typer.Option("--out", help="A JSON file for the plan.")] = None,
    convert: Annotated[Path | None, typer.Option("--convert", help="A file to render.")] = None,
    sheet: Annotated[Path | None, typer.Option("--sheet", help="A PNG of moments, with the window on each.")] = None,
    replace: Replace = False,
    as_json: Json = False,
) -> None:
    """Let the window follow what matters in a clip: looked at once, for as many frames as are asked for.

    With several frames, the size of each is put into the names of its files.
    """
    sizes = frame or ["1080x1920"]
    if sheet is not None:
        check_image(sheet, ".png")
    for target in (_named(path, size, sizes) for path in (out, convert, sheet) for size in sizes):
        if target is not None:
            check_target(target, replace=replace)
    stated = read_interpretation(options["pixel_aspect"], options["taken_as"])
    info = rendering.info_to_render(source, whole=not options["part"])
    taken = as_seen(stated, source, info)
    seen = seen_for(source, info, taken)
    made = []
    for size in sizes:
        plan = _bare(source, taken, frame_asked(size, options), info, options)
        asked = _asked(plan, info, {"pace": pace, "closest": closest, "widest": widest}, subject or (), pin or ())
        plan = with_follow(plan, info, seen, asked)
        files = {
            kind: _named(path, size, sizes) for kind, path in (("out", out), ("convert", convert), ("sheet", sheet))
        }
        made.append(_told(plan, size, files["out"], _write(plan, source, info, files, replace=replace)))
    if as_json:
        print(json.dumps([one.model_dump(mode="json") for one in made]))
    else:
        for one in made:
            Console().print(_table(one))
    if not all(one.right for one in made):
        raise typer.Exit(WRONG)


def _bare(source: Path, taken: Interpretation, frame: Frame, info: MediaInfo, options: Options) -> Plan:
    """What is to follow, before it does."""
    plan = Plan(source=str(source), interpretation=taken, frame=frame, range=read_range(options["part"]))
    if options["treatment"] is not None:
        plan = find_treatment(options["treatment"]).on(plan)
    return cut(plan, source, info, options["shots"])


def _named(path: Path | None, size: str, sizes: Sequence[str]) -> Path | None:
    """The name of a file for one of several frames."""
    return path if path is None or len(sizes) == 1 else path.with_stem(f"{path.stem} {size}")


def _write(
    plan: Plan, source: Path, info: MediaInfo, files: dict[str, Path | None], *, replace: bool
) -> Inspection | None:
    """Write what was asked for; what was measured of a file that was rendered."""
    out, convert, sheet = files["out"], files["convert"], files["sheet"]
    if out is not None:
        write_data(out, plan.model_dump_json(indent=2).encode(), sources=[source], replace=replace)
    if sheet is not None:
        write_data(sheet, following_sheet(plan, source, info), sources=[source], replace=replace)
    if convert is None:
        return None
    how = settings_for(convert, output.find_settings(None), stated=False)
    return deliver(plan, source, info, convert, how, replace=replace)


def _told(plan: Plan, size: str, out: Path | None, inspection: Inspection | None) -> FollowedInto:
    follows = [motion.follow for motion in plan.of_each_shot("motion") if motion.follow is not None]
    ways = sorted({way.start: way for follow in follows for way in follow.path}.values(), key=lambda way: way.start)
    return FollowedInto(
        frame=size,
        seconds=tuple(
            SecondOf(start=way.start + number, sure=sure) for way in ways for number, sure in enumerate(way.sure)
        ),
        doubts=tuple(doubts_of(plan)),
        plan="" if out is None else str(out),
        file="" if inspection is None else inspection.file,
        right=inspection is None or inspection.right,
    )


def _table(made: FollowedInto) -> Table:
    table = Table(title=f"{made.frame}: {_summary(made)}", title_justify="left", box=None)
    for heading in ("from", "to", "sure", "why"):
        table.add_column(heading, justify="left" if heading == "why" else "right")
    for doubt in made.doubts:
        table.add_row(f"{float(doubt.start):.2f} s", f"{float(doubt.end):.2f} s", f"{doubt.sure}%", doubt.summary)
    return table


def _summary(made: FollowedInto) -> str:
    sure = [second.sure for second in made.seconds]
    mean = f"{sum(sure) / len(sure):.0f}% sure on average" if sure else "nothing was looked at"
    if not made.doubts:
        return f"{mean}, nothing doubtful"
    return f"{mean}, {len(made.doubts)} doubtful {'place' if len(made.doubts) == 1 else 'places'}"


def _asked(plan: Plan, info: MediaInfo, how: dict[str, Any], subjects: Sequence[str], pins: Sequence[str]) -> Follow:
    """What was typed of whom to follow, and how."""
    reading = resolve(info, plan.interpretation)
    return checked(
        lambda: Follow(
            **how,
            subjects=tuple(sorted((_subject(text, reading) for text in subjects), key=lambda one: one.time)),
            pins=tuple(sorted((_pin(text, reading) for text in pins), key=lambda one: one.time)),
        )
    )


def _subject(text: str, reading: ResolvedInterpretation) -> SubjectBox:
    box, _, time = text.removeprefix("box=").partition("@")
    left, top, width, height = _numbers(box, 4, f"--subject {text}", SUBJECT_HELP)
    raster = reading.raster
    return SubjectBox(
        time=_numbers(time, 1, f"--subject {text}", SUBJECT_HELP)[0],
        x=(left + width / 2) / raster.width,
        y=(top + height / 2) / raster.height,
        width=width / raster.width,
        height=height / raster.height,
        drawn=True,
    )


def _pin(text: str, reading: ResolvedInterpretation) -> Pin:
    time, _, place = text.partition(":")
    x, y = _numbers(place, 2, f"--pin {text}", PIN_HELP)
    rect = reading.picture.rect
    return Pin(
        time=_numbers(time, 1, f"--pin {text}", PIN_HELP)[0],
        x=(x - rect.x) / rect.width - Fraction(1, 2),
        y=(y - rect.y) / rect.height - Fraction(1, 2),
    )


def _numbers(text: str, count: int, what: str, remedy: str) -> list[Fraction]:
    try:
        found = [parse_exact(part) for part in text.split(",")]
    except ValueError as error:
        raise BadRequest(f"{what!r} cannot be read.", remedy=remedy) from error
    if len(found) != count:
        raise BadRequest(f"{what!r} cannot be read.", remedy=remedy)
    return found
