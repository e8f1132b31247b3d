"""What is asked before a byte of a request's body is read: who sends it, how much it is, and whether there is room."""

import shutil
from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse

from server.studio.api.errors import JSON, problem, usual

API = "/api/"
SAFE = ("GET", "HEAD", "OPTIONS")
ROOM_LEFT = 1_000_000_000
"""Bytes that stay free on the disk whatever is sent: the database and what is at work need some."""
SOURCES = {
    "default-src": "'self'",
    "img-src": "'self' blob: data:",
    "media-src": "'self' blob:",
    "font-src": "'self' data:",
    "style-src": "'self' 'unsafe-inline'",  # where a thing lies on the page is said in its own style
    "object-src": "'none'",
    "base-uri": "'none'",
    "form-action": "'self'",
    "frame-ancestors": "'none'",
}
POLICY = "; ".join(f"{kind} {sources}" for kind, sources in SOURCES.items())


class Guard:
    """Turns away what strangers send to the API and what is too much, and says which sources a page may use.

    It stands behind whoever finds out who is there, and before anything that looks into a body.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer, or turn away."""
        response = self._refused(request) or self.get_response(request)
        if request.path.startswith(API):
            response = _as_problem(response)
        if not request.path.startswith(f"{API}docs"):  # whose page has a script in itself
            response.headers.setdefault("Content-Security-Policy", POLICY)
        return response

    def _refused(self, request: HttpRequest) -> HttpResponse | None:
        if request.method in SAFE or not request.path.startswith(API):
            return None
        if not request.user.is_authenticated:
            return usual(401)
        try:
            length = int(request.META.get("CONTENT_LENGTH") or 0)
        except ValueError:
            length = 0
        if length == 0 and "chunked" in request.META.get("HTTP_TRANSFER_ENCODING", "").lower():
            return problem(411, "It was not said how much is sent.", remedy="Send it with its length.")
        if length > settings.UPLOAD_BYTES:
            most = settings.UPLOAD_BYTES / 1e9
            return problem(413, "That was too much at once.", remedy=f"Send at most {most:g} GB at a time.")
        if length > settings.DATA_UPLOAD_MAX_MEMORY_SIZE and length + ROOM_LEFT > _free():
            return problem(507, "There is no room for it on the server.", remedy="Tell whoever runs the server.")
        return None


def _as_problem(response: HttpResponse) -> HttpResponse:
    """An error that a framework has made in its own form, in the form that all errors of the API have."""
    if response.status_code < 400 or response.headers.get("Content-Type") == JSON:
        return response
    told = usual(response.status_code)
    if "Allow" in response.headers:
        told.headers["Allow"] = response.headers["Allow"]
    return told


def _free() -> int:
    return shutil.disk_usage(settings.INCOMING_DIR).free
