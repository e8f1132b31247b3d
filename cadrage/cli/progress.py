"""A bar on a terminal for what takes a while; nothing elsewhere."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager

from rich.console import Console
from rich.progress import BarColumn, Progress, TextColumn, TimeRemainingColumn

from cadrage.cli.running import stop_if_asked


@contextmanager
def progress_bar(what: str) -> Iterator[Callable[[float], None]]:
    """A bar that is told the fraction that is done, 0 to 1; a signal that asked for an end, ends it."""
    columns = (TextColumn("{task.description}"), BarColumn(), TimeRemainingColumn())
    console = Console(stderr=True)
    with Progress(*columns, console=console, disable=not console.is_terminal, transient=True) as progress:
        task = progress.add_task(what, total=1.0)

        def report(done: float) -> None:
            stop_if_asked()
            progress.update(task, completed=done)

        yield report
