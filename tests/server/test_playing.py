"""Playing over HTTP: what is sent, to whom, how many at once, and when it ends."""

import gc
import json
import threading

import pytest

from cadrage.compose import heavy
from cadrage.errors import Busy
from server.studio.actions import playing
from server.studio.actions.playing import Viewers, viewers
from server.studio.actions.streams import ConcurrencyLimit
from tests.played import pieces
from tests.server.page import design_of, post_json, state

pytestmark = pytest.mark.django_db


@pytest.fixture
def asked(ida, framing):
    design = design_of(state(ida, framing)["plan"])

    def ask(viewer="mine", **more):
        body = {"designs": [design], "time": "0", "viewer": viewer, "lines": 90} | more
        return post_json(ida, f"/api/framings/{framing.pk}/play", body)

    return ask


@pytest.fixture(autouse=True)
def nobody_left():
    gc.collect()  # streams that other tests have let go of end
    yield
    assert viewers.count == 0


def taken(answer, count):
    """The first parts of an answer, which is then let go of."""
    parts = iter(answer.streaming_content)
    data = b"".join(next(parts) for _ in range(count))
    answer.close()
    return data


def test_pictures_and_sound_come_with_what_one_must_know(asked):
    answer = asked()
    head = json.loads(answer["Cadrage-Play"])
    assert head["picture"].startswith("video/mp4")
    assert (head["start"], head["loop_start"], head["speed"]) == (0, 0, 1)
    assert head["loop_length"] > 0
    sent = pieces(taken(answer, 6))
    assert sent["picture"][0][4:8] == b"ftyp"
    assert sent["sound"][0][4:8] == b"ftyp"


def test_the_source_plays_as_it_is_stored(asked):
    head = json.loads((answer := asked(source=True))["Cadrage-Play"])
    assert head["width"] > head["height"]
    taken(answer, 2)


def test_designs_that_are_none_are_told(asked, ida, framing):
    assert asked(designs=[]).status_code == 422
    assert asked(lines=1).status_code == 422
    assert asked(speed=3).status_code == 422
    framing.footage.path.unlink()
    answer = asked()
    assert answer.status_code == 410
    assert answer.json()["clip"] == framing.footage.name


def test_what_belongs_to_others_is_not_there(joel, framing):
    answer = post_json(joel, f"/api/framings/{framing.pk}/play", {"designs": [], "time": "0", "viewer": "x"})
    assert answer.status_code in (404, 422)


def test_a_viewer_watches_one_thing_at_a_time(asked):
    first, second = asked(), asked()
    assert viewers.count == 1
    rest = b"".join(first.streaming_content)  # the first ends by itself
    assert len(rest) > 0
    second.close()


def test_what_arrives_behind_a_later_question_ends_nothing(asked):
    later = asked(turn=8)
    overtaken = asked(turn=7)
    assert b"".join(overtaken.streaming_content) == b""
    assert viewers.count == 1
    assert len(pieces(taken(later, 6))["picture"]) > 1


def test_there_is_room_for_so_many(asked, monkeypatch):
    monkeypatch.setattr(playing, "viewers", Viewers(2))
    monkeypatch.setattr(playing, "MAX_STREAMS_EACH", 3)
    open_ones = [asked("one"), asked("two")]
    full = asked("three")
    assert full.status_code == 503
    assert "2 others" in full.json()["title"]
    again = asked("two")  # who watches may watch another thing
    assert again.status_code == 200
    for one in (*open_ones, again):
        one.close()
    assert playing.viewers.count == 0


def test_one_person_does_not_take_all_streams(asked, monkeypatch):
    """However many pages they say that they have: one more ends their oldest."""
    monkeypatch.setattr(playing, "viewers", Viewers(4))
    first, second, third = asked("one"), asked("two"), asked("three")
    assert third.status_code == 200
    assert playing.viewers.count == playing.MAX_STREAMS_EACH == 2
    b"".join(first.streaming_content)  # which ends by itself
    for one in (second, third):
        one.close()
    assert playing.viewers.count == 0


def test_archives_of_one_person_are_fewer_than_all():
    limit = ConcurrencyLimit(3, "Full.", limit_each=2)
    with limit.slot("ida"), limit.slot("ida"):
        with pytest.raises(Busy, match="2 of these"), limit.slot("ida"):
            pass
        with limit.slot("joel"), pytest.raises(Busy, match="Full"), limit.slot("mona"):
            pass
    with limit.slot("ida"):
        assert limit._each == {"ida": 1}


def test_counting_who_watches_is_safe():
    many = Viewers(3)
    refused = []

    def watch(name):
        try:
            with many.watching(name):
                pass
        except Busy:
            refused.append(name)

    threads = [threading.Thread(target=watch, args=(str(number),)) for number in range(50)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert many.count == 0


def test_one_large_still_plays_at_a_time_and_who_plays_it_may_change_it(asked, monkeypatch):
    monkeypatch.setattr(heavy, "is_heavy_picture", lambda info: True)
    one = ConcurrencyLimit(1, "A large still plays.", wait_s=0.2)
    monkeypatch.setattr(playing, "ONE_HEAVY", one)
    first = asked("one")
    assert asked("two").json()["title"] == "A large still plays."
    one._wait_s = 30
    rest = threading.Thread(target=lambda: b"".join(first.streaming_content))
    rest.start()
    again = asked("one")  # the first ends by itself
    assert again.status_code == 200
    again.close()
    rest.join()
