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
    """The contract as it is now."""
    return json.dumps(api.get_openapi_schema(path_prefix="/api/"), indent=1, ensure_ascii=False, sort_keys=True) + "\n"


class Command(BaseCommand):
    """Writes the snapshot that the page's types are made from, and the schemas of plans and treatments."""

    help = "Write the OpenAPI snapshot and the schemas of plans and treatments."

    def handle(self, *args: Any, **options: Any) -> None:
        """Write it."""
        SNAPSHOT.parent.mkdir(parents=True, exist_ok=True)
        SNAPSHOT.write_text(text())
        TREATMENT.write_text(treatment_schema())
        PLAN.write_text(plan_schema())
