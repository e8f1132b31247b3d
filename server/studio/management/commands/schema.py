"""`manage.py schema`: what is published of our own forms: the contract with the page, plans and treatments."""

import json
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand

from cadrage.plan import plan_schema
from cadrage.treatments import treatment_schema
from server.studio.api import api

SNAPSHOT = Path(settings.BASE_DIR) / "web" / "src" / "api" / "openapi.json"
TREATMENT = Path(settings.BASE_DIR) / "docs" / "treatment.schema.json"
PLAN = Path(settings.BASE_DIR) / "docs" / "plan.schema.json"


def text() -> str:
    """Return the current contract, without descriptions: they are not part of it, and the server publishes them."""
    document = _without_descriptions(api.get_openapi_schema(path_prefix="/api/"))
    return json.dumps(document, indent=1, ensure_ascii=False, sort_keys=True) + "\n"


def _without_descriptions(given: Any) -> Any:
    """Return a document without the texts under "description"; a field of that name is an object, and stays."""
    if isinstance(given, list):
        return [_without_descriptions(each) for each in given]
    if not isinstance(given, dict):
        return given
    kept = {name: each for name, each in given.items() if name != "description" or not isinstance(each, str)}
    needed = (
        {"description": ""} if "content" in given and "description" in given else {}
    )  # OpenAPI 3.1, Response Object
    return {name: _without_descriptions(each) for name, each in kept.items()} | needed


class Command(BaseCommand):
    """Writes the snapshot that the page's types are made from, and the schemas of plans and treatments."""

    help = "Write the OpenAPI snapshot and the schemas of plans and treatments."

    def handle(self, *args: Any, **options: Any) -> None:
        """Write it."""
        SNAPSHOT.parent.mkdir(parents=True, exist_ok=True)
        SNAPSHOT.write_text(text())
        TREATMENT.write_text(treatment_schema())
        PLAN.write_text(plan_schema())
