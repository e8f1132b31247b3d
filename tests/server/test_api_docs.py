"""The API can be browsed by people who are signed in, with nothing from elsewhere."""

import re

import pytest

pytestmark = pytest.mark.django_db


def test_it_is_for_people_who_are_signed_in(client, ida):
    assert client.get("/api/docs").url.startswith("/sign-in/")
    assert ida.get("/api/docs").status_code == 200


def test_all_that_it_loads_is_served_here(ida):
    page = ida.get("/api/docs").content.decode()
    loaded = re.findall(r'(?:src|href)="([^"]+)"', page)
    assert loaded
    assert all(address.startswith("/") for address in loaded)
    assert re.findall(r"https?://", page) == []
    for address in loaded:
        if address.endswith((".js", ".css")):
            assert ida.get(address).status_code == 200, address
