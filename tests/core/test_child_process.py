"""Work in a process of its own: what comes back, what it may take, and that nothing of it stays."""

import os
import time
from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from cadrage.child_process import ChildProcess
from cadrage.compose import Previewer, heavy
from cadrage.compose.heavy import CarefulPreviewer, is_heavy, look_at
from cadrage.compose.quiet import Sample, quietened, quietness
from cadrage.errors import BadRequest, CadrageError, MissingSource, RasterOutOfRange, Stale
from cadrage.footage import EMPTY, Library, Material, library_of_files, probe
from cadrage.formats import Frame
from cadrage.plan import Plan
from cadrage.surrounds import Graphic


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
        more = {"changed": ()} if kind is Stale else {}
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
    assert is_heavy(plan, info)
    assert np.array_equal(careful.rgb(*asked, library=library), straight.rgb(*asked, library=library))
    assert careful.store.held == 0
    strips = [one.strip(still, info, plan.interpretation, 5, 30) for one in (careful, straight)]
    assert strips[0] == strips[1]
    look = look_at(plan, still, info, library)
    sample = Sample.of(plan.interpretation, info, still, library)
    assert careful.measured(quietness, look) == quietness(plan, sample)
    assert careful.measured(quietened, look) == quietened(plan, sample)


def test_a_heavy_still_over_a_light_clip_is_heavy(still):
    info = probe(still)
    light = info.model_copy(update={"kind": "clip"})
    library = Library({"": Material(still, light), "logo": Material(still, info)}.__getitem__)
    plan = Plan(frame=Frame(width=180, height=320), surround=Graphic(logo="logo"))
    assert is_heavy(plan, light, library)
    assert not is_heavy(plan.model_copy(update={"surround": Graphic()}), light, library)
    with pytest.raises(BadRequest):
        is_heavy(plan, light, EMPTY)
