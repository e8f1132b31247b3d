"""What is asked before a byte of a request's body is read: who sends it, how much it is, and whether there is room."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

from server.studio.api.errors import JSON, of_error, problem, usual
from server.studio.methods import SAFE
from server.studio.room import NoRoom, TooMuch, check_room

API = "/api/"
MOST_OF_A_FORM = 64 * 1024
"""Bytes that are read of what goes to a page and not to the API: a name and a password."""
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
        if request.method in SAFE:
            return None
        try:
            length = int(request.META.get("CONTENT_LENGTH") or 0)
        except ValueError:
            length = 0
        chunked = length == 0 and "chunked" in request.META.get("HTTP_TRANSFER_ENCODING", "").lower()
        return refusal(request.path, length, chunked=chunked, signed_in=lambda: request.user.is_authenticated)


def refusal(path: str, length: int, *, chunked: bool, signed_in: Callable[[], bool]) -> HttpResponse | None:
    """The answer to something that is sent and not welcome, known by its head; None where it is.

    Args:
        path: that it is sent to.
        length: in bytes, as it was said.
        chunked: whether it was not said.
        signed_in: says whether somebody is, who sends it.
    """
    if not path.startswith(API):
        return usual(413) if length > MOST_OF_A_FORM or chunked else None
    if not signed_in():
        return usual(401)
    if chunked:
        return problem(411, "It was not said how much is sent.", remedy="Send it with its length.")
    try:
        check_room(length)
    except (TooMuch, NoRoom) as error:
        return of_error(error)
    return None


def _as_problem(response: HttpResponse) -> HttpResponse:
    """An error that a framework has made in its own form, in the form that all errors of the API have."""
    if response.status_code < 400 or response.headers.get("Content-Type") == JSON:
        return response
    told = usual(response.status_code)
    if "Allow" in response.headers:
        told.headers["Allow"] = response.headers["Allow"]
    return told
