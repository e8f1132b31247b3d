"""Composing takes turns: so many pictures at a time, few that wait of one visitor, none for whoever has gone."""

import threading

import pytest
from django.test import RequestFactory

from cadrage.compose.heavy import TooSlow
from cadrage.errors import Busy, Cancelled
from server.studio import asking
from server.studio.actions import previews
from server.studio.actions.previews import in_turn
from server.studio.actions.streams import ConcurrencyLimit


class Somebody:
    is_authenticated = True

    def __init__(self, pk):
        self.pk = pk


@pytest.fixture
def visit():
    """Do something in a thread, as the answer to a request of somebody; returns what it made or raised."""
    threads = []

    def begin(pk, work, gone=lambda: False):
        request = RequestFactory().get("/", **{"waitress.client_disconnected": gone})
        request.user, came = Somebody(pk), []

        def answer(_):
            try:
                came.append(work())
            except (Busy, Cancelled) as error:
                came.append(error)

        thread = threading.Thread(target=asking.Asking(answer), args=(request,))
        thread.start()
        threads.append(thread)
        return thread, came

    yield begin
    for thread in threads:
        thread.join(30)
        assert not thread.is_alive()


@pytest.fixture
def held(visit, monkeypatch):
    """Pictures of one person take all places until they are let go; two of them may wait."""
    monkeypatch.setattr(previews, "WAITING", ConcurrencyLimit(6, "Many.", limit_each=4))
    go, begun = threading.Event(), threading.Barrier(3)

    def long():
        begun.wait(20)
        assert go.wait(20)
        return b"picture"

    slow = [visit(1, lambda: in_turn(long, heavy=False)) for _ in range(2)]
    begun.wait(20)
    yield go, slow
    go.set()


def test_few_of_one_person_wait_and_others_still_may(visit, held):
    go, slow = held
    waiting = [visit(1, lambda: in_turn(lambda: b"later", heavy=False)) for _ in range(5)]
    for thread, _ in waiting:
        thread.join(0.5)
    refused = [came for _, came in waiting if came]
    assert len(refused) == 3
    assert all(isinstance(came[0], Busy) for came in refused)
    other, came = visit(2, lambda: in_turn(lambda: b"theirs", heavy=False))
    go.set()
    other.join(20)
    assert came == [b"theirs"]
    for thread, came in (*slow, *waiting):
        thread.join(20)
        assert came


def test_whoever_has_gone_waits_no_longer(visit, held):
    left = threading.Event()
    thread, came = visit(2, lambda: in_turn(lambda: b"for nobody", heavy=False), gone=left.is_set)
    thread.join(0.5)
    assert not came
    left.set()
    thread.join(20)
    assert isinstance(came[0], Cancelled)


def test_what_turns_out_to_be_heavy_waits_for_that_turn(visit):
    tried = []

    def slow_at_first():
        tried.append(previews.HEAVY_AT_ONCE._value)
        if len(tried) == 1:
            raise TooSlow("It takes long.", remedy="Try again.")
        return b"picture"

    thread, came = visit(1, lambda: in_turn(slow_at_first, heavy=False))
    thread.join(20)
    assert came == [b"picture"]
    assert tried == [1, 0]
