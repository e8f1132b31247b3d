"""Heavy clips play in a process of their own: the same stream, and nothing of it stays."""

import multiprocessing
from itertools import islice

import pytest

from cadrage.errors import MissingSource
from cadrage.footage import probe
from cadrage.formats import Frame
from cadrage.plan import Plan
from cadrage.playing import PlayRequest, PlayStream
from cadrage.playing.child_stream import parts_in_child
from tests.clips import write_clip


@pytest.fixture
def request_to_play(tmp_path):
    path = write_clip(tmp_path / "clip.mp4", size=(320, 180), frames=50)
    return PlayRequest((Plan(frame=Frame(width=180, height=320)),), path, probe(path))


def test_it_is_the_stream_that_one_process_makes(request_to_play):
    stream = parts_in_child(request_to_play, lambda: True)
    straight = PlayStream(request_to_play).parts()
    try:
        assert list(islice(stream, 6)) == list(islice(straight, 6))
    finally:
        stream.close()
        straight.close()
    assert multiprocessing.active_children() == []


def test_it_ends_when_nobody_watches(request_to_play):
    watched = True
    stream = parts_in_child(request_to_play, lambda: watched)
    assert next(stream)
    watched = False
    assert list(stream) == []
    assert multiprocessing.active_children() == []


def test_what_is_wrong_is_raised_where_it_is_read(request_to_play):
    request_to_play.source.unlink()
    with pytest.raises(MissingSource):
        next(parts_in_child(request_to_play, lambda: True))
    assert multiprocessing.active_children() == []
