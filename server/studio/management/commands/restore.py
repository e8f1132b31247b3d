"""`manage.py restore`: fills an empty data folder from a backup."""

from pathlib import Path
from typing import Any

from django.core.management import CommandError, CommandParser, call_command
from django.core.management.base import BaseCommand

from cadrage.errors import CadrageError
from server.studio.actions.backups import restore


class Command(BaseCommand):
    """Restores a backup, and brings its database up to this version."""

    help = "Fill an empty data folder (CADRAGE_DATA) from a backup; every file is held against its checksum."
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        """From where."""
        parser.add_argument("archive", type=Path)

    def handle(self, *args: Any, archive: Path, **options: Any) -> None:
        """Restore it."""
        try:
            count = restore(archive)
        except (CadrageError, OSError) as error:
            raise CommandError(str(error)) from error
        call_command("migrate", verbosity=0)
        self.stdout.write(f"{count} files are back, all as they were.")
