"""For whoever watches over the server: whether it lives, and whether it can work."""

import os

from django.conf import settings
from django.db import DatabaseError, connection
from django.http import HttpRequest, JsonResponse
from django.views.decorators.http import require_safe


@require_safe
def alive(request: HttpRequest) -> JsonResponse:
    """That this process answers; nothing else is touched."""
    return JsonResponse({"alive": True})


@require_safe
def ready(request: HttpRequest) -> JsonResponse:
    """Whether database, folders and page are there; 503 where one of them is not."""
    found = {"database": _database(), "folders": _folders(), "page": (settings.WEB_DIR / "index.html").exists()}
    return JsonResponse(found, status=200 if all(found.values()) else 503)


def _database() -> bool:
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1 FROM django_session LIMIT 1")
    except DatabaseError:
        return False
    return True


def _folders() -> bool:
    folders = (settings.FOOTAGE_DIR, settings.RENDERS_DIR, settings.INCOMING_DIR, settings.ANALYSES_DIR)
    return all(os.access(folder, os.W_OK) for folder in folders)
