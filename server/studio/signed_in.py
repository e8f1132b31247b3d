"""Who a request comes from, by its cookies alone."""

from importlib import import_module

from django.conf import settings
from django.contrib.auth import SESSION_KEY
from django.http import parse_cookie


def is_signed_in(cookies: str) -> bool:
    """Whether a header of cookies is of a session that somebody has signed in to.

    Raises:
        DatabaseError: that cannot be found out now.
    """
    key = parse_cookie(cookies).get(settings.SESSION_COOKIE_NAME, "")
    if not key:
        return False
    store = import_module(settings.SESSION_ENGINE).SessionStore(key)
    return SESSION_KEY in store
