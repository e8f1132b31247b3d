"""Running the command line: every way it can end is told in one line, and leaves nothing half done."""

import os
import signal
import sys
import warnings
from contextlib import suppress
from types import FrameType
from typing import NoReturn

import typer
from typer.exceptions import TyperException

from cadrage.cli.telling import BAD_INPUT, JSON_OPTION, RIGHT, report, tell
from cadrage.errors import BadRequest

STOPPED = 128  # and the number of the signal, as shells have it
UNTIL_STOPPED = ("parts",)  # commands that end in no other way
SEE_HELP = "See --help."


_asked: list[int] = []
"""Signals that asked for an end."""


class _Stopped(BaseException):
    """A signal asked for an end; what is open is closed on the way out."""

    def __init__(self, number: int) -> None:
        self.number = number


def run(app: typer.Typer) -> NoReturn:
    """Run a command line until it ends, and leave with its exit status."""
    warnings.simplefilter("ignore")  # of libraries, which speak to programmers
    for stream in (sys.stdout, sys.stderr):
        with suppress(AttributeError, ValueError):
            stream.reconfigure(errors="replace")  # type: ignore[union-attr]
    status = _status(app, sys.argv[1:] or ["--help"])
    try:
        sys.stdout.flush()
    except OSError as error:  # a full disk, or nobody who reads on
        status = status or _tell_of_output(error)
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    sys.exit(status)


def _stop(number: int, _: FrameType | None) -> None:
    signal.signal(number, signal.SIG_IGN)  # once is enough; what follows is tidying
    _asked.append(number)
    raise _Stopped(number)


def stop_if_asked() -> None:
    """End here if a signal asked for that. It may have come while a library called back, which lets nothing through."""
    if _asked:
        raise _Stopped(_asked[0])


def _status(app: typer.Typer, arguments: list[str]) -> int:
    try:
        for number in (signal.SIGTERM, signal.SIGHUP, signal.SIGINT):
            signal.signal(number, _stop)  # within what hears it: it may come before the last is set
        found = typer.main.get_command(app).main(arguments, prog_name="cadrage", standalone_mode=False)
    except typer.Exit as end:
        return end.exit_code
    except (typer.Abort, KeyboardInterrupt, _Stopped) as end:
        if arguments[0] in UNTIL_STOPPED:
            return RIGHT
        return report("Stopped.", STOPPED + getattr(end, "number", signal.SIGINT))
    except TyperException as error:
        return tell(BadRequest(_sentence(error), remedy=SEE_HELP), as_json=JSON_OPTION in arguments)
    except OSError as error:
        return _tell_of_output(error)
    return found if isinstance(found, int) else RIGHT


def _sentence(error: TyperException) -> str:
    format_message = getattr(error, "format_message", error.__str__)
    text = " ".join(format_message().split())
    return text if text.endswith(".") else f"{text}."


def _tell_of_output(error: OSError) -> int:
    return report(f"The output could not be written: {error.strerror or error}.", BAD_INPUT)
