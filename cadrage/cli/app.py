"""The command line itself, and what several commands share."""

import json
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path
from typing import Annotated, Any

import typer
from rich.console import Console
from rich.table import Table
from typer.core import TyperGroup

from cadrage import __version__
from cadrage.cli.analysing import plates_for
from cadrage.cli.telling import JSON_OPTION, tell
from cadrage.errors import BadRequest, CadrageError
from cadrage.footage import Library, Material, MediaInfo, library_of_files
from cadrage.plan import Plan
from cadrage.values import Value, parse_exact

HELP = "Footage of one shape into a frame of another. Exit status: 0 all right, 1 a wrong result, 2 bad input."
LATEST = 10**6  # seconds, more than any clip lasts


class _Commands(TyperGroup):
    """The commands, each of which tells of what goes wrong in the same way."""

    def invoke(self, ctx: Any) -> Any:  # noqa: ANN401 - as the one it stands for
        """Run one of them."""
        try:
            return super().invoke(ctx)
        except CadrageError as error:
            raise typer.Exit(tell(error, as_json=ctx.obj)) from error

    def make_context(self, info_name: str | None, args: list[str], *more: Any, **extra: Any) -> Any:  # noqa: ANN401
        """Note whether JSON was asked for, whatever else was."""
        return super().make_context(info_name, args, *more, obj=JSON_OPTION in args, **extra)


app = typer.Typer(cls=_Commands, add_completion=False, help=HELP, pretty_exceptions_enable=False, rich_markup_mode=None)

Source = Annotated[Path, typer.Argument(help="The clip, still, or folder of numbered stills.", show_default=False)]
At = Annotated[str, typer.Option("--at", help="Seconds from the first picture.")]
Replace = Annotated[bool, typer.Option("--replace", help="Replace a file that is there, whoever wrote it.")]


def _version(asked: bool) -> None:
    if asked:
        print(f"cadrage {__version__}")
        raise typer.Exit


@app.callback()
def _shared(
    version: Annotated[
        bool, typer.Option("--version", help="Say which version this is.", callback=_version, is_eager=True)
    ] = False,
) -> None:
    """Carry what the command line takes before any command."""


def examples(*lines: str) -> str:
    """What stands under a command's help."""
    return "Examples:\n\n" + "\n\n".join(f"cadrage {line}" for line in lines)


def show(value: Value, as_json: bool, table: Callable[[], Table]) -> None:
    """Print a value as JSON, or as a table."""
    if as_json:
        print(value.model_dump_json(indent=2))
    else:
        Console().print(table())


def told(as_json: bool, **what: object) -> None:
    """Print what was made, where JSON was asked for."""
    if as_json:
        print(json.dumps(what))


def library_for(plan: Plan, source: Path, info: MediaInfo) -> Library:
    """What plans name on the command line: paths, and the clip itself."""
    return library_of_files(Material(source, info, plan.interpretation), plates=plates_for(plan, source, info))


def used_by(plan: Plan, source: Path) -> list[Path]:
    """Every file that a plan's pictures are made of."""
    return [source, *(Path(name) for name in plan.asset_refs if name)]


def seconds(text: str) -> Fraction:
    """A moment as it was typed.

    Raises:
        BadRequest: it is none.
    """
    try:
        found = parse_exact(text)
    except ValueError as error:
        raise BadRequest(f"--at: {error}.", remedy="Give seconds, such as 1.5.") from error
    if not 0 <= found <= LATEST:
        raise BadRequest(f"--at: {text[:20]} is no moment of a clip.", remedy="Give seconds from its first picture.")
    return found
