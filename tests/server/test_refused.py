"""What is refused: every place of the API that takes a text, and that nothing of a request stays."""

import gc
import json
import logging
from urllib.parse import urlencode

import pytest
from django.core.handlers.wsgi import WSGIRequest

from tests.server.places import Places

pytestmark = pytest.mark.django_db

WRONG = ("no number", "9" * 40, "1/0", "a\0b", "{clip")
"""Texts that many places refuse, each in its own way."""


@pytest.fixture(autouse=True)
def nothing_is_logged():
    """What is captured of a log holds the requests that it is about; and what is there already is not counted."""
    logging.disable(logging.CRITICAL)
    gc.collect()
    gc.freeze()
    yield
    gc.unfreeze()
    logging.disable(logging.NOTSET)


def held():
    """Requests that are still there once the collector has been."""
    gc.collect()
    return sum(type(one) is WSGIRequest for one in gc.get_objects())


def ask(person, place, address, text):
    if place.filled is None:
        return person.generic(place.method, address, QUERY_STRING=urlencode({place.name: text}))
    return person.generic(place.method, address, json.dumps(place.filled(text)), content_type="application/json")


def test_of_what_is_refused_nothing_is_kept(ida, framing):
    known = {
        "project_id": framing.footage.project_id,
        "framing_id": framing.pk,
        "footage_id": framing.footage_id,
        "frame_id": framing.frame_id,
    }
    refused, places = 0, list(Places())
    for place in places:
        for text in WRONG:
            answer = ask(ida, place, place.address(known), text)
            assert answer.status_code < 500, (place.said, text)
            refused += answer.status_code == 422
        assert held() <= 1, place.said
    assert len(places) > 200
    assert refused > 3 * len(places)
