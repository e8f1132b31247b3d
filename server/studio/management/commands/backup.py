"""`manage.py backup`: all there is, in one archive, while people work."""

from pathlib import Path
from typing import Any

from django.core.management import CommandError, CommandParser
from django.core.management.base import BaseCommand

from cadrage.errors import CadrageError
from server.studio.actions.backups import back_up


class Command(BaseCommand):
    """Writes a backup."""

    help = "Write the database and all files to one archive (tar), while people work. Linked footage is not in it."

    def add_arguments(self, parser: CommandParser) -> None:
        """Where to."""
        parser.add_argument("archive", type=Path)
        parser.add_argument("--without-results", action="store_true", help="leave finished renders out")

    def handle(self, *args: Any, archive: Path, without_results: bool, **options: Any) -> None:
        """Write it."""
        try:
            count = back_up(archive, results=not without_results, report=self.stderr.write)
        except CadrageError as error:
            raise CommandError(str(error)) from error
        self.stdout.write(f"{count} files, {archive.stat().st_size / 1e9:.2f} GB: {archive}")
