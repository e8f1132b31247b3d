"""Analyses and where their outcomes lie."""

import os
import threading
from typing import ClassVar

import pytest

from cadrage.analyses import ANALYSES
from cadrage.analysis import Analysis, AnalysisStore, Found, NotFound, Subject
from cadrage.errors import Cancelled
from cadrage.footage import Edges, Interpretation, probe
from cadrage.values import Value


class Count(Value):
    """What the analysis of these tests finds."""

    number: int


class Counting(Analysis[Count]):
    """Counts how often it was asked."""

    kind = "count"
    result = Count
    asked: ClassVar[list[int]] = []

    def find(self, subject, report=None):
        self.asked.append(1)
        return Found(Count(number=len(self.asked))) if subject.info.frames else NotFound("It has no pictures.")


@pytest.fixture
def counting():
    Counting.asked.clear()
    return Counting()


@pytest.fixture
def store(tmp_path):
    return AnalysisStore(tmp_path / "analyses")


@pytest.fixture(scope="module")
def info(small_clip):
    return probe(small_clip)


@pytest.fixture
def subject(small_clip, info):
    return Subject(small_clip, "a clip", info)


def test_an_outcome_is_found_once_and_lies_in_a_folder_of_its_own(counting, store, subject):
    assert store.find(counting, subject) == store.find(counting, subject) == Found(Count(number=1))
    assert [path.name for path in store.root.iterdir()] == [counting.request(subject).key]
    assert AnalysisStore(store.root).find(counting, subject) == Found(Count(number=1))  # another process


def test_that_there_is_none_is_kept_as_well(counting, store, small_clip, info):
    empty = Subject(small_clip, "empty", info.model_copy(update={"frames": 0}))
    for _ in range(2):
        assert store.find(counting, empty) == NotFound("It has no pictures.")
    assert len(Counting.asked) == 1


@pytest.mark.parametrize("text", ["", "{", '{"request": {"kind": "count"}}', '{"found": {"number": "many"}}'])
def test_a_manifest_that_cannot_be_read_is_made_anew(counting, store, subject, text):
    store.find(counting, subject)
    folder = store.folder(counting.request(subject).key)
    (folder / "manifest.json").write_text(text)
    assert AnalysisStore(store.root).get(counting, folder.name) is None
    assert AnalysisStore(store.root).find(counting, subject) == Found(Count(number=2))


def test_of_two_who_find_the_same_at_once_neither_spoils_the_other_s(counting, store, subject):
    stores = [AnalysisStore(store.root) for _ in range(8)]
    threads = [threading.Thread(target=one.find, args=(counting, subject)) for one in stores]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert isinstance(AnalysisStore(store.root).get(counting, counting.request(subject).key), Found)
    assert len(list(store.root.iterdir())) == 1


def test_only_what_is_old_and_nobody_uses_is_collected(counting, store, small_clip, info):
    keys = []
    for name in ("used", "old", "new"):
        one = Subject(small_clip, name, info)
        store.find(counting, one)
        keys.append(counting.request(one).key)
    for key in keys[:2]:
        os.utime(store.folder(key), (1, 1))
    assert store.collect({keys[0]}, days=30) == 1
    assert {path.name for path in store.root.iterdir()} == {keys[0], keys[2]}


@pytest.mark.parametrize("kind", ANALYSES)
def test_every_kind_finds_what_it_says_and_tells_how_far_it_is(kind, small_clip, info, store):
    """The same for all that there are and will be."""
    analysis, told = ANALYSES[kind], []
    outcome = store.find(analysis, Subject(small_clip, "a clip", info), told.append)
    assert isinstance(outcome, NotFound) or isinstance(outcome.result, analysis.result)
    assert told
    assert told == sorted(told)
    assert all(0 <= fraction < 1 for fraction in told)
    again = AnalysisStore(store.root).get(analysis, analysis.request(Subject(small_clip, "a clip", info)).key)
    assert again == outcome  # it comes back from its manifest without loss


@pytest.mark.parametrize("kind", ANALYSES)
def test_every_kind_stops_when_it_is_told_to_and_leaves_nothing_but_what_it_goes_on_from(kind, small_clip, info, store):
    def stop(_):
        raise Cancelled("Enough.", remedy="Ask again.")

    with pytest.raises(Cancelled):
        store.find(ANALYSES[kind], Subject(small_clip, "a clip", info), stop)
    left = {path.name[:6] for path in store.root.iterdir()} if store.root.exists() else set()
    assert left == ({".work-", ".busy-"} if ANALYSES[kind].keeps_files else set())


@pytest.mark.parametrize(
    ("kind", "said", "same"),
    [
        ("bars", {"burned_in_bars": Edges(top=20)}, True),
        ("bars", {"clean_aperture": "704"}, True),
        ("bars", {"rotation": 90}, False),
        ("fields", {"rotation": 90}, True),
        ("quiet_copy", {"burned_in_bars": Edges(top=20)}, True),
        ("quiet_copy", {"matrix": "bt601"}, False),
    ],
)
def test_it_is_asked_anew_only_where_the_outcome_may_be_another(kind, said, same, subject):
    other = Subject(subject.path, subject.clip, subject.info, Interpretation(**said))
    request = ANALYSES[kind].request
    assert (request(other).key == request(subject).key) == same
