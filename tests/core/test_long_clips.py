"""Clips that are too long to be gone through while somebody waits."""

from fractions import Fraction

import numpy as np
import pytest
from diskcache import Cache

from cadrage.footage import ClipReader, index, probe
from cadrage.footage import clusters as room
from cadrage.footage.clusters import clusters_of
from tests.corpus.drawing import number_in
from tests.corpus.making import MPEG2, X264, Maker


@pytest.fixture(scope="module")
def recording(tmp_path_factory):
    """A recording of 20 seconds that was cut off: no index, no duration, a cluster every fifth of a second."""
    folder = tmp_path_factory.mktemp("long")
    path = folder / "recording.mkv"
    Maker(folder / "made").encode(
        path, X264 + " -g 12 -bf 2", "aac", frames=500, more="-live 1 -cluster_time_limit 200"
    )
    return path


@pytest.fixture
def without_index(recording, monkeypatch):
    monkeypatch.setattr(room, "WORTH", 0)
    monkeypatch.setattr(room, "PIECE", 1000)
    return recording


def test_a_cluster_is_found_by_a_few_looks(without_index):
    found = clusters_of(without_index)
    assert found.before(Fraction(0)) == found.first
    places = [found.before(Fraction(second)) for second in range(20)]
    assert places == sorted(set(places))
    data = without_index.read_bytes()
    assert all(data[place : place + 4] == room.CLUSTER for place in places)
    assert found.before(Fraction(10**6)) == data.rindex(room.CLUSTER)


def test_the_picture_at_a_moment_is_the_one_from_the_start(without_index):
    info = probe(without_index)
    with ClipReader(without_index, info) as reader:
        linear = {frame.time: frame.planes.arrays[0].copy() for frame in reader.frames()}
    assert len(linear) == 500
    with ClipReader(without_index, info) as reader:
        for number in (400, 13, 499, 250, 11, 12, 0, 333):
            shown = reader.frame_at((number + Fraction(1, 2)) / 25)
            assert number_in(shown.planes.luma8) == number
            assert np.array_equal(shown.planes.arrays[0], linear[shown.time])


def test_small_files_and_files_with_an_index_are_read_the_usual_way(recording, small_clip, tmp_path, monkeypatch):
    assert clusters_of(recording) is None
    monkeypatch.setattr(room, "WORTH", 0)
    assert clusters_of(small_clip) is None
    indexed = tmp_path / "indexed.mkv"
    Maker(tmp_path / "made").encode(indexed, X264, frames=20)
    assert clusters_of(indexed) is None


def test_an_index_is_made_once_for_all_processes(tmp_path, monkeypatch):
    disc = tmp_path / "disc.mpg"
    Maker(tmp_path / "made").encode(disc, MPEG2, "mp2")
    info = probe(disc)
    assert index.needs_index(info)
    kept = Cache(tmp_path / "kept")
    made = []
    real = index._made
    monkeypatch.setattr(index, "_made", lambda *given: made.append(1) or real(*given))
    for _ in range(2):
        monkeypatch.setattr(index, "_indexes", index._Indexes())
        index.keep_indexes_in(kept)
        with ClipReader(disc, info) as reader:
            assert [number_in(reader.frame_at(Fraction(n, 25)).planes.luma8) for n in (40, 7)] == [40, 7]
    assert made == [1]
    kept[next(iter(kept))] = "{"
    monkeypatch.setattr(index, "_indexes", index._Indexes())
    index.keep_indexes_in(kept)
    assert len(index.index_of(disc, info).times) == 50
