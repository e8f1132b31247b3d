"""What the web process believes of a proxy, and whose bodies it reads."""

import pytest
from django.contrib.sessions.backends.db import SessionStore
from django.test import Client

from server import serving
from server.studio.signed_in import is_signed_in

pytestmark = pytest.mark.django_db


def test_nobodys_word_is_taken_for_who_asks_unless_a_proxy_is_named(settings):
    settings.PROXY = ""
    assert serving._proxy() == {}
    settings.PROXY, settings.TLS = "127.0.0.1", False
    assert "url_scheme" not in serving._proxy()
    settings.TLS = True  # a proxy that forgets the scheme still lets people sign in
    assert serving._proxy()["url_scheme"] == "https"


def test_who_sends_is_known_by_the_session_alone(people):
    client = Client()
    client.force_login(people[0])
    key = client.cookies["sessionid"].value
    assert is_signed_in(f"other=1; sessionid={key}")
    for cookies in ("", "sessionid=", "sessionid=made-up", "sessionid=" + "x" * 5000, f"sessionid={key}x", "=;=;"):
        assert not is_signed_in(cookies)
    stranger = SessionStore()
    stranger["links"] = ["a"]
    stranger.save()
    assert not is_signed_in(f"sessionid={stranger.session_key}")
    client.logout()
    assert not is_signed_in(f"sessionid={key}")
