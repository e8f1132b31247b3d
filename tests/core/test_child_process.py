"""Work in a process of its own: what comes back, what it may take, and that nothing of it stays."""

import os
import time
from fractions import Fraction
from importlib import import_module
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from cadrage import child_process
from cadrage.child_process import ChildProcess, TakesTooLong
from cadrage.compose import Previewer, heavy
from cadrage.compose.heavy import CarefulPreviewer, TooSlow, look_at
from cadrage.compose.quiet import Sample, quietened, quietness
from cadrage.errors import BadRequest, Busy, CadrageError, Cancelled, MissingSource, RasterOutOfRange, Stale
from cadrage.footage import (
    EMPTY,
    ClipIdentity,
    FrameStore,
    Interpretation,
    Library,
    Material,
    library_of_files,
    probe,
)
from cadrage.footage.interruption import interrupted_by
from cadrage.formats import Frame
from cadrage.plan import Plan
from cadrage.surrounds import Graphic

footage_probe = import_module("cadrage.footage.probe")  # whose name in the package is the function's


@pytest.fixture(scope="module")
def child():
    one = ChildProcess(idle=1000)
    yield one
    one.end()


def refused():
    raise Stale("It changed.", remedy="Look again.", changed=("this", "that"), clip="tram.mp4")


def too_much():
    return np.ones(2**33, np.uint8).sum()


def killed():
    os.kill(os.getpid(), 9)


def endless(*_):
    time.sleep(600)


def parent_of():
    return os.getpid(), os.getppid()


def gone(process):
    try:
        return Path(f"/proc/{process}/status").read_text().split("State:\t")[1][0] == "Z"
    except FileNotFoundError:
        return True


def until(what, seconds=20):
    over = time.monotonic() + seconds
    while not what():
        assert time.monotonic() < over
        time.sleep(0.05)


def test_what_goes_wrong_comes_back_as_it_is(child):
    with pytest.raises(Stale) as caught:
        child.call(refused)
    assert (caught.value.problem, caught.value.remedy) == ("It changed.", "Look again.")
    assert (caught.value.clip, caught.value.changed) == ("tram.mp4", ("this", "that"))
    assert str(caught.value) == "tram.mp4: It changed. Look again."


def test_it_may_take_so_much_memory_and_no_more(child):
    for work in (too_much, killed):
        with pytest.raises(RasterOutOfRange, match="more memory"):
            child.call(work)
        assert child.call(parent_of)[1] == os.getpid()  # the next finds another


def test_what_was_not_needed_for_a_while_ends():
    child = ChildProcess(idle=0.2)
    process, _ = child.call(parent_of)
    until(lambda: not child.runs and gone(process))


def test_it_reads_only_in_folders_that_it_is_told(tmp_path):
    (tmp_path / "ours").mkdir()
    Image.new("RGB", (64, 64)).save(tmp_path / "theirs.png")
    child = ChildProcess(lambda: [tmp_path / "ours"])
    with pytest.raises(MissingSource):
        child.call(probe, tmp_path / "theirs.png")
    child.end()


def test_every_error_can_be_sent():
    assert {kind for kind in CadrageError.__subclasses__() if kind.__module__ == "cadrage.errors"}
    for kind in CadrageError.__subclasses__():
        more = {"Stale": {"changed": ()}, "InUse": {"uses": ()}}.get(kind.__name__, {})
        made = kind("What.", remedy="How.", clip="a", **more).__reduce__()
        again = made[0](*made[1])
        assert (type(again), str(again)) == (kind, "a: What. How.")


@pytest.fixture
def still(tmp_path, monkeypatch):
    """A still that counts as heavy here, without being so large."""
    monkeypatch.setattr(heavy, "HEAVY", 10_000)
    across = np.linspace(0, 255, 320).astype(np.uint8)
    Image.fromarray(np.stack([np.tile(across, (180, 1))] * 3, axis=2)).save(tmp_path / "still.png")
    return tmp_path / "still.png"


def test_what_is_heavy_is_composed_elsewhere_and_is_the_same(child, still, tmp_path):
    info = CarefulPreviewer(child).probed(still)
    assert info == probe(still)
    plan = Plan(frame=Frame(width=180, height=320))
    library = library_of_files(Material(still, info))
    careful, straight = CarefulPreviewer(child), Previewer()
    asked = plan, still, info, Fraction(0), 90
    assert careful.is_heavy(info, ClipIdentity.of(still))
    assert np.array_equal(careful.rgb(*asked, library=library), straight.rgb(*asked, library=library))
    assert careful.store.held == 0
    strips = [one.strip(still, info, plan.interpretation, 5, 30) for one in (careful, straight)]
    assert strips[0] == strips[1]
    look = look_at(plan, still, info, library)
    sample = Sample.of(plan.interpretation, info, still, library)
    assert careful.measured(quietness, look) == quietness(plan, sample)
    assert careful.measured(quietened, look) == quietened(plan, sample)


def test_a_heavy_still_over_a_light_clip_is_heavy(child, still):
    info, own = probe(still), ClipIdentity(digest="light")
    light = info.model_copy(update={"kind": "clip", "width": 16, "height": 16})
    library = Library({"": Material(still, light), "logo": Material(still, info)}.__getitem__)
    plan = Plan(frame=Frame(width=180, height=320), surround=Graphic(logo="logo"))
    careful = CarefulPreviewer(child)
    assert careful.is_heavy(light, own, plan, library)
    assert not careful.is_heavy(light, own, plan.model_copy(update={"surround": Graphic()}), library)
    with pytest.raises(BadRequest):
        careful.is_heavy(light, own, plan, EMPTY)


def test_a_clip_that_is_slow_to_reach_is_decoded_elsewhere_from_then_on(child, small_clip, monkeypatch):
    monkeypatch.setattr(heavy, "SHORT_SECONDS", 0)
    info, careful = probe(small_clip), CarefulPreviewer(child)
    asked = Plan(frame=Frame(width=180, height=320)), small_clip, info, Fraction(1, 2), 90
    library = library_of_files(Material(small_clip, info))
    with pytest.raises(TooSlow):
        careful.rgb(*asked, library=library)
    assert np.array_equal(careful.rgb(*asked, library=library), Previewer().rgb(*asked, library=library))
    assert careful.store.held == 0


def test_whoever_was_interrupted_leaves_a_reader_that_reads_right(small_clip):
    info, store, stated = probe(small_clip), FrameStore(0), Interpretation()
    right = [store.frame(small_clip, info, stated, Fraction(n, 25)).planes.arrays[0] for n in (2, 20)]

    def end():
        raise Busy("Enough.", remedy="Wait.")

    with pytest.raises(Busy), interrupted_by(end):
        store.frame(small_clip, info, stated, Fraction(10, 25))
    again = [store.frame(small_clip, info, stated, Fraction(n, 25)).planes.arrays[0] for n in (2, 20)]
    assert all(np.array_equal(one, other) for one, other in zip(right, again, strict=True))


def test_what_takes_too_long_is_ended_and_not_tried_again_at_once(small_clip, monkeypatch):
    monkeypatch.setattr(child_process, "WORK_SECONDS", 0.3)
    monkeypatch.setattr(heavy, "HEAVY", 0)
    monkeypatch.setattr(heavy, "_drawn", endless)
    child = ChildProcess(idle=1000)
    info, careful = probe(small_clip), CarefulPreviewer(child)
    asked = Plan(frame=Frame(width=180, height=320)), small_clip, info, Fraction(0), 90
    library = library_of_files(Material(small_clip, info))
    with pytest.raises(TakesTooLong):
        careful.rgb(*asked, library=library)
    assert not child.runs
    with pytest.raises(TakesTooLong):
        careful.rgb(*asked, library=library)
    assert not child.runs


def test_work_that_nobody_waits_for_any_more_is_ended():
    child, begun = ChildProcess(idle=1000), time.monotonic()
    process, _ = child.call(parent_of)

    def gone_away():
        if time.monotonic() > begun + 0.5:
            raise Cancelled("Nobody waits.", remedy="Ask again.")

    with pytest.raises(Cancelled), interrupted_by(gone_away):
        child.call(endless)
    until(lambda: gone(process))
    assert child.call(parent_of)[0] != process
    child.end()


@pytest.mark.parametrize("bound", ["MAX_PIXELS", "MAX_PIXELS_FROM_START"])
def test_more_pictures_than_can_be_decoded_are_refused(tmp_path, monkeypatch, bound):
    path = tmp_path / "long.gif"
    pictures = [Image.new("P", (64, 64), number) for number in range(20)]
    pictures[0].save(path, save_all=True, append_images=pictures[1:])
    frames = probe(path).frames
    monkeypatch.setattr(footage_probe, "FROM_THE_START", ("gif",) if bound == "MAX_PIXELS_FROM_START" else ())
    monkeypatch.setattr(footage_probe, bound, frames * 64 * 64)
    probe(path)
    monkeypatch.setattr(footage_probe, bound, frames * 64 * 64 - 1)
    with pytest.raises(RasterOutOfRange):
        probe(path)
