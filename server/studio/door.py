"""The demonstration's open door."""

from collections.abc import Callable

from django.conf import settings
from django.contrib.auth import get_user_model, login
from django.core.exceptions import MiddlewareNotUsed
from django.http import HttpRequest, HttpResponse

THIS_MACHINE = {"127.0.0.1", "::1"}


class DemonstrationDoor:
    """Signs a visitor on this machine in to the demonstration account. Exists only with the demonstration flag."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        if not settings.DEMO:
            raise MiddlewareNotUsed
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Sign in whoever is not, if they come from here."""
        if not request.user.is_authenticated and request.META.get("REMOTE_ADDR") in THIS_MACHINE:
            account = get_user_model().objects.filter(username=settings.DEMO_USER).first()
            if account is not None:
                login(request, account, backend="django.contrib.auth.backends.ModelBackend")
        return self.get_response(request)
