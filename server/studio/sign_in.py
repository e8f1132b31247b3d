"""Signing in, no faster than somebody who mistypes needs."""

import logging
import threading

from cachetools import TTLCache
from django.contrib.auth.forms import AuthenticationForm
from django.contrib.auth.views import LoginView
from django.http import HttpRequest, HttpResponse

log = logging.getLogger(__name__)
TRIES, SECONDS, REMEMBERED = 10, 600, 10_000
_failed: TTLCache[str, int] = TTLCache(REMEMBERED, SECONDS)
_lock = threading.Lock()


class SignIn(LoginView):
    """Ten wrong passwords for a name, or from a place, in ten minutes; more are not looked at until that is over."""

    def post(self, request: HttpRequest, *args: object, **kwargs: object) -> HttpResponse:
        """Sign in, or say that it was tried too often."""
        if any(_failed.get(key, 0) >= TRIES for key in _keys(request)):
            response = self.render_to_response(self.get_context_data(too_often=True))
            response.status_code = 429
            response.headers["Retry-After"] = str(SECONDS)
            return response
        return super().post(request, *args, **kwargs)

    def form_invalid(self, form: AuthenticationForm) -> HttpResponse:
        """Count a wrong one."""
        with _lock:
            for key in _keys(self.request):
                _failed[key] = _failed.get(key, 0) + 1
        log.warning("A sign-in failed, from %s.", self.request.META.get("REMOTE_ADDR", "somewhere"))
        return super().form_invalid(form)

    def form_valid(self, form: AuthenticationForm) -> HttpResponse:
        """Forget what was wrong before."""
        with _lock:
            for key in _keys(self.request):
                _failed.pop(key, None)
        return super().form_valid(form)


def _keys(request: HttpRequest) -> tuple[str, str]:
    """The name that is tried, and where from."""
    return f"name {request.POST.get('username', '')[:150].lower()}", f"place {request.META.get('REMOTE_ADDR', '')}"
