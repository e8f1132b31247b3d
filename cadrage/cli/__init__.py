"""The same job without a browser."""

from cadrage.cli.main import main

__all__ = ["main"]
