"""The door of the command line."""

from typing import NoReturn

from cadrage.cli import catalogue, delivering, examining, extending, following
from cadrage.cli.app import app
from cadrage.cli.running import run

__all__ = ["app", "catalogue", "delivering", "examining", "extending", "following", "main"]


def main() -> NoReturn:
    """Run the command line."""
    run(app)
