"""Telling of what went wrong, in one line."""

import json
import sys
from contextlib import suppress

from cadrage.cli.arguments import described
from cadrage.errors import CadrageError

RIGHT, WRONG, BAD_INPUT = 0, 1, 2
JSON_OPTION = "--json"


def tell(error: CadrageError, *, as_json: bool) -> int:
    """Tell of an error, as JSON where that was asked for; the exit status for it."""
    if as_json:
        print(json.dumps({"error": described(error)}))
        return BAD_INPUT
    return report(" ".join(str(error).split()), BAD_INPUT)


def note(text: str) -> None:
    """Tell something that is no error, beside the result."""
    report(text, RIGHT)


def report(text: str, status: int) -> int:
    """Say something on the error output, if there is any; hand on the status."""
    with suppress(OSError):
        print(f"cadrage: {text}", file=sys.stderr)
    return status
