"""Signing in, no faster than somebody who mistypes needs."""

import logging

from django.contrib.auth.forms import AuthenticationForm
from django.contrib.auth.views import LoginView
from django.http import HttpRequest, HttpResponse

from server.studio.disk_cache import on_disk

log = logging.getLogger(__name__)
TRIES, SECONDS = 10, 600
CACHE_BYTES = 4 << 20
TRIES_FROM_PLACE, TRIES_FOR_NAME = 30, 200
"""A person is locked out where they mistype; only very many wrong passwords lock a place, or a name everywhere."""
_failed = on_disk("sign-ins", CACHE_BYTES)


class SignIn(LoginView):
    """Ten wrong passwords for a name from one place in ten minutes; more are not looked at until that is over."""

    def post(self, request: HttpRequest, *args: object, **kwargs: object) -> HttpResponse:
        """Sign in, or say that it was tried too often."""
        if any(_count(key) >= most for key, most in _limits(request).items()):
            response = self.render_to_response(self.get_context_data(too_often=True))
            response.status_code = 429
            response.headers["Retry-After"] = str(SECONDS)
            return response
        return super().post(request, *args, **kwargs)

    def form_invalid(self, form: AuthenticationForm) -> HttpResponse:
        """Count a wrong one."""
        for key in _limits(self.request):
            _failed.count_one(key, SECONDS)
        log.warning("A sign-in failed, from %s.", self.request.META.get("REMOTE_ADDR", "somewhere"))
        return super().form_invalid(form)

    def form_valid(self, form: AuthenticationForm) -> HttpResponse:
        """Forget what was wrong before."""
        for key in _limits(self.request):
            _failed.delete(key)
        return super().form_valid(form)


def _count(key: str) -> int:
    count = _failed.get(key, 0)
    return count if isinstance(count, int) else 0


def _limits(request: HttpRequest) -> dict[str, int]:
    """How many wrong passwords are looked at: for a name from a place, from a place, and for a name."""
    name, place = request.POST.get("username", "")[:150].lower(), request.META.get("REMOTE_ADDR", "")
    return {f"{name} from {place}": TRIES, f"from {place}": TRIES_FROM_PLACE, f"for {name}": TRIES_FOR_NAME}
