"""The application."""

from importlib import import_module
from pathlib import Path

from django.apps import AppConfig
from django.conf import settings

from cadrage.footage.bounds import read_only_in


class Studio(AppConfig):
    """It makes its tasks and its checks known as soon as models are there."""

    name = "server.studio"

    def ready(self) -> None:
        """Let workers be called, and let files be read where ours and linked ones lie."""
        import_module("server.studio.tasks")
        import_module("server.studio.checks")
        read_only_in(readable)


def readable() -> list[Path]:
    """The folders that files are read in: our own, and those of linked footage."""
    linked = [Path(folder.partition("@")[0]) for folder in settings.FOOTAGE_FOLDERS]
    return [settings.MEDIA_DIR, settings.DATA_DIR, *linked]
