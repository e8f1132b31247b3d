"""`manage.py generator`: the simulated generator of the demonstration."""

from typing import Any

from django.core.management import CommandParser
from django.core.management.base import BaseCommand

from server.stand_in import Generator


class Command(BaseCommand):
    """Answers as an outside generator would, until it is stopped."""

    help = "Serve a small simulated generator of pictures, for the demonstration; see docs/extension.md."

    def add_arguments(self, parser: CommandParser) -> None:
        """Where."""
        parser.add_argument("--port", type=int, default=8127)

    def handle(self, *args: Any, port: int = 8127, **options: Any) -> None:
        """Serve."""
        with Generator(("127.0.0.1", port)) as one:
            one.serve_forever()
