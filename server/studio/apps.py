"""The application."""

from importlib import import_module

from django.apps import AppConfig


class Studio(AppConfig):
    """It makes its tasks and its checks known as soon as models are there."""

    name = "server.studio"

    def ready(self) -> None:
        """Let workers be called."""
        import_module("server.studio.tasks")
        import_module("server.studio.checks")
