"""`manage.py start`: all that a server on one machine needs, in one terminal."""

import sys
from typing import Any

from django.conf import settings
from django.core.management import CommandParser, call_command
from django.core.management.base import BaseCommand

from server.together import Kept, Together


class Command(BaseCommand):
    """Starts the web process and workers, and again whichever of them ends."""

    help = "Serve, and work; stop with Ctrl-C. A process that ends by itself is started again, the others go on."

    def add_arguments(self, parser: CommandParser) -> None:
        """Where, and how many."""
        parser.add_argument("--host", default="127.0.0.1", help="address to listen on")
        parser.add_argument("--port", type=int, default=8000)
        parser.add_argument("--workers", type=int, default=1)
        parser.add_argument("--generator-port", type=int, help="start the simulated generator of pictures too")

    def handle(
        self, *args: Any, host: str, port: int, workers: int, generator_port: int | None, **options: Any
    ) -> None:
        """Bring the database up to this version, and run them."""
        call_command("migrate", verbosity=0)
        manage = [sys.executable, str(settings.BASE_DIR / "manage.py")]
        commands = [[*manage, "serve", "--host", host, "--port", str(port)], *[[*manage, "work"]] * workers]
        if generator_port:
            commands.append([*manage, "generator", "--port", str(generator_port)])
        Together([Kept(command) for command in commands]).run()
