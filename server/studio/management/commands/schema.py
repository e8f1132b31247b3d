"""`manage.py schema`: the contract between server and page, as OpenAPI."""

import json
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand

from server.studio.api import api

SNAPSHOT = Path(settings.BASE_DIR) / "web" / "src" / "api" / "openapi.json"


def text() -> str:
    """The contract as it is now."""
    return json.dumps(api.get_openapi_schema(path_prefix="/api/"), indent=1, ensure_ascii=False, sort_keys=True) + "\n"


class Command(BaseCommand):
    """Writes the snapshot that the page's types are made from."""

    help = "Write the OpenAPI snapshot."

    def handle(self, *args: Any, **options: Any) -> None:
        """Write it."""
        SNAPSHOT.parent.mkdir(parents=True, exist_ok=True)
        SNAPSHOT.write_text(text())
