"""Health checks for whoever monitors the server: whether it is alive, and whether it is ready to work."""

import os
import time
from collections.abc import Callable
from pathlib import Path

from django.conf import settings
from django.db import DatabaseError, connection
from django.db.migrations.executor import MigrationExecutor
from django.http import HttpRequest, HttpResponse, HttpResponseNotAllowed, JsonResponse

from server.studio.methods import SAFE
from server.studio.room import ROOM_LEFT, free

ALIVE = {"alive": True}
HEARTBEAT_S = 60
"""A worker that was not seen for so long counts as dead; each says every few seconds that it is alive."""


class HealthChecks:
    """Answers `/healthz` and `/readyz` before anything else looks at a request.

    Monitors ask by address and port, so the name that they ask for is not checked.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer a health check, or pass the request on."""
        check = CHECKS.get(request.path)
        if check is None:
            return self.get_response(request)
        return check() if request.method in SAFE else HttpResponseNotAllowed(SAFE)


class HeadersOnly:
    """Sends no body with the answer to a HEAD request (RFC 9110, 9.3.2), which WSGI leaves to the application."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer, and take the body away."""
        response = self.get_response(request)
        if request.method != "HEAD":
            return response
        if response.streaming:
            response.streaming_content = ()
            response.file_to_stream = None
        else:
            length = str(len(response.content))
            response.content = b""
            response.headers.setdefault("Content-Length", length)
        return response


def note_worker() -> None:
    """Note that a worker is alive. Called by each worker every few seconds."""
    _heartbeat().touch()


def alive() -> JsonResponse:
    """Whether this process answers; nothing else is touched."""
    return JsonResponse(ALIVE)


def ready() -> JsonResponse:
    """Whether database, folders, disk space, page and a worker are there; 503 where one of them is not."""
    found = {
        "database": _is_migrated(),
        "folders": _can_write(),
        "disk": _has_room(),
        "page": (Path(settings.WEB_DIR) / "index.html").exists(),
        "worker": _has_worker(),
    }
    return JsonResponse(found, status=200 if all(found.values()) else 503)


CHECKS: dict[str, Callable[[], JsonResponse]] = {"/healthz": alive, "/readyz": ready}


def _is_migrated() -> bool:
    try:
        executor = MigrationExecutor(connection)
        return not executor.migration_plan(executor.loader.graph.leaf_nodes())
    except DatabaseError:
        return False


def _can_write() -> bool:
    folders = (settings.FOOTAGE_DIR, settings.RENDERS_DIR, settings.INCOMING_DIR, settings.ANALYSES_DIR)
    return all(os.access(folder, os.W_OK) for folder in folders)


def _has_room() -> bool:
    try:
        return free() > ROOM_LEFT
    except OSError:
        return False


def _has_worker() -> bool:
    try:
        return time.time() - _heartbeat().stat().st_mtime < HEARTBEAT_S
    except OSError:
        return False


def _heartbeat() -> Path:
    return Path(settings.DATA_DIR) / ".worker-alive"
