"""The request that is being answered in this thread: whose it is, and whether anybody still waits for its answer."""

from collections.abc import Callable
from contextvars import ContextVar

from django.conf import settings
from django.contrib.auth.models import AbstractBaseUser
from django.http import HttpRequest, HttpResponse

from cadrage.errors import Cancelled

_request: ContextVar[HttpRequest | None] = ContextVar("request", default=None)


class Asking:
    """Middleware that remembers the request while it is answered."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer."""
        token = _request.set(request)
        try:
            return self.get_response(request)
        finally:
            _request.reset(token)


def person() -> AbstractBaseUser | None:
    """The person who makes the request; None in a worker, and for visitors who are not signed in."""
    request = _request.get()
    return request.user if request is not None and request.user.is_authenticated else None


def visitor() -> str:
    """Name whoever asks, for limits: a person, or a browser that has opened links; empty in a worker.

    All visitors of the demonstration are one person, so there it is a browser as well.
    """
    request = _request.get()
    if request is None:
        return ""
    person = request.user
    if person.is_authenticated and not settings.DEMO:
        return f"person {person.pk}"
    return f"session {request.session.session_key}"


def check_client_connected() -> None:
    """End the work for a request whose client has gone.

    Raises:
        Cancelled: it has.
    """
    request = _request.get()
    gone = None if request is None else request.META.get("waitress.client_disconnected")
    if gone is not None and gone():
        raise Cancelled("Nobody waits for this any more.", remedy="Ask again.")
