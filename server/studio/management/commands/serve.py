"""`manage.py serve`: the web process."""

from typing import Any

from django.core.management import CommandParser
from django.core.management.base import BaseCommand

from server.serving import THREADS, serve
from server.wsgi import application


class Command(BaseCommand):
    """Serves until it is stopped."""

    help = "Serve page, API and files; stop with Ctrl-C or SIGTERM."

    def add_arguments(self, parser: CommandParser) -> None:
        """Where, and with how many threads."""
        parser.add_argument("--host", default="127.0.0.1", help="address to listen on; put a proxy with TLS before it")
        parser.add_argument("--port", type=int, default=8000)
        parser.add_argument("--threads", type=int, default=THREADS, help="how many answers are made at a time")

    def handle(self, *args: Any, host: str, port: int, threads: int, **options: Any) -> None:
        """Serve."""
        serve(application, host, port, threads)
