"""Many clips into some frames at once."""

from pathlib import Path

from rich.console import Console
from rich.progress import BarColumn, Progress, TextColumn, TimeRemainingColumn

from cadrage.batch import Batch, Delivered, Failed, helpers, write_sheet
from cadrage.cli.running import stop_if_asked
from cadrage.errors import BadRequest
from cadrage.files import make_folder
from cadrage.footage.sequences import FOOTAGE_SUFFIXES
from cadrage.render.progress import Progress as Done


def run_batch(folder: Path, batch: Batch, workers: int) -> tuple[list[Delivered], list[Failed]]:
    """Do all of it, with a progress bar on a terminal, and write the sheet.

    Raises:
        BadRequest: the folder holds no footage.
        CannotWrite: there is no place for results.
    """
    clips, out = clips_of(folder), batch.folder
    make_folder(out)
    made: list[Delivered] = []
    failed: list[Failed] = []
    console = Console(stderr=True)
    columns = (TextColumn("{task.description}"), BarColumn(), TimeRemainingColumn())
    with helpers(out, workers - 1), Progress(*columns, console=console, disable=not console.is_terminal) as progress:
        task = progress.add_task("", total=None)

        def report(name: str, now: Done) -> None:
            stop_if_asked()
            progress.update(task, description=name, completed=now.done, total=now.total)

        for one in batch.run(clips, report):
            if isinstance(one, Delivered):
                made.append(one)
            else:
                failed.append(one)
    if made:
        write_sheet(out, batch.project, made)
    return made, failed


def clips_of(folder: Path) -> list[Path]:
    """The footage of a folder, by name; hidden files and folders in it are left out.

    Raises:
        BadRequest: there is none.
    """
    if not folder.is_dir():
        raise BadRequest("This is no folder.", remedy="Name a folder of clips.", clip=folder)
    found = sorted(path for path in folder.iterdir() if path.is_file() and path.suffix.lower() in FOOTAGE_SUFFIXES)
    clips = [path for path in found if not path.name.startswith(".")]
    if not clips:
        raise BadRequest("The folder holds no footage.", remedy="Put clips or stills into it.", clip=folder)
    return clips
