"""Renders that are drawn in parts: the same file, whoever draws them and however often they die."""

import json
import multiprocessing
import os
import random
import subprocess
import sys
import time
from fractions import Fraction as F
from pathlib import Path

import av
import numpy as np
import pytest

from cadrage.errors import Cancelled, CannotWrite, MissingSource, Paused, SourceChanged
from cadrage.files import locked
from cadrage.footage import open_footage, probe
from cadrage.formats import Frame
from cadrage.inspection import inspect_file
from cadrage.output import OUTPUT_FORMATS, Settings
from cadrage.plan import Plan, Range
from cadrage.render import RenderRequest, render
from cadrage.render.passes import allocate_bitrate
from cadrage.render.segments import finish, help_out
from cadrage.render.workspace import RenderWorkspace
from tests.clips import write_clip

PLAN = Plan(frame=Frame(width=256, height=144))
ROOT = Path(__file__).resolve().parents[2]
# Processes as they really are, but without waiting for what they import each time.
PROCESSES = multiprocessing.get_context("forkserver")
PROCESSES.set_forkserver_preload([__name__])


@pytest.fixture(scope="module")
def clip(tmp_path_factory):
    """Four seconds with sound."""
    return write_clip(tmp_path_factory.mktemp("segments") / "c.mp4", frames=100)


def desk_for(clip, folder, plan=PLAN, seconds=1, **settings):
    order = RenderRequest(plan, clip, probe(clip), settings=Settings(**settings))
    return RenderWorkspace.create_or_resume(folder / "workspace", order, seconds=seconds)


def times(path):
    command = ["ffprobe", "-v", "error", "-select_streams", "v", "-show_packets", "-of", "json", str(path)]
    found = json.loads(subprocess.run(command, capture_output=True, check=True).stdout)["packets"]
    assert [float(one["dts_time"]) for one in found] == sorted({float(one["dts_time"]) for one in found})
    return sorted(float(one["pts_time"]) for one in found)


def lumas(path):
    with open_footage(path, probe(path)) as reader:
        return [frame.planes.arrays[0].copy() for frame in reader.frames()]


def sound(path):
    with av.open(str(path)) as container:
        return np.concatenate([frame.to_ndarray() for frame in container.decode(audio=0)], axis=1)


def psnr(one, other):
    """In decibels over all samples; infinite where they are alike."""
    apart = np.mean([(a.astype(float) - b) ** 2 for a, b in zip(one, other, strict=True)])
    peak = 255 if one[0].dtype == np.uint8 else 1023
    return 10 * np.log10(peak**2 / apart) if apart else np.inf


ALWAYS = ("mp4-h264", "mp4-h265", "webm-vp9", "mov-prores", "mkv-ffv1", "mxf-dnxhr")
"""One of each encoder, and each container that is written in another way; the others take long together."""


@pytest.mark.parametrize(
    "kind",
    [
        pytest.param(kind, id=kind.name, marks=() if kind.name in ALWAYS else pytest.mark.long)
        for kind in OUTPUT_FORMATS.values()
        if not kind.folder
    ],
)
def test_segmented_equals_unsegmented(clip, tmp_path, kind):
    how = {"kind": kind.name, "quality": "nearly_lossless", "sound": kind.sounds[0]}
    whole, joined = tmp_path / f"whole{kind.suffix}", tmp_path / f"joined{kind.suffix}"
    info = probe(clip)
    render(PLAN, clip, whole, info, settings=Settings(**how))
    workspace = desk_for(clip, tmp_path, **how)
    assert workspace.stored.count == 4
    finish(workspace, joined)
    assert times(joined) == times(whole)
    apart = psnr(lumas(whole), lumas(joined))
    assert apart == np.inf if not kind.rated else apart >= 50
    assert np.array_equal(sound(whole), sound(joined))  # no jump where parts meet, nor anywhere else
    assert inspect_file(joined, RenderRequest(PLAN, clip, info, settings=Settings(**how))).right


@pytest.mark.long
@pytest.mark.parametrize("kind", ["mp4-h264", "mov-h265"])
def test_two_passes_keep_the_rate_over_all_parts(tmp_path, kind):
    """The first half is noise and the second nearly still, so that equal shares would be wrong for both."""
    noise = np.random.default_rng(1)

    def paint(number):
        image = np.full((144, 256, 3), 90, np.uint8)
        image[:, : 2 + number % 9] = 200
        return image if number >= 50 else image + noise.integers(0, 50, (144, 256, 3), np.uint8)

    clip = write_clip(tmp_path / "in.mp4", size=(256, 144), frames=100, paint=paint, sound=None)
    target = tmp_path / f"out{OUTPUT_FORMATS[kind].suffix}"
    workspace = desk_for(clip, tmp_path, kind=kind, rate_control="rate", rate=1500)
    assert workspace.stages == ("measure", "draw")
    finish(workspace, target)
    assert target.stat().st_size * 8 / 4 == pytest.approx(1_500_000, rel=0.1)
    noisy, calm = (sum(one.bits for one in workspace.records("draw")[part]) for part in (slice(0, 2), slice(2, 4)))
    assert noisy > 5 * calm
    assert len(lumas(target)) == 100


def test_shares_have_the_mean_that_was_asked_for_and_keep_below_the_ceiling():
    assert allocate_bitrate(1000, 0, [10, 30], [1, 1]) == pytest.approx([500, 1500], abs=1)
    assert allocate_bitrate(1000, 1200, [10, 90], [1, 1]) == pytest.approx([800, 1200], abs=1)
    assert allocate_bitrate(1000, 0, [10, 10], [1, 3]) == pytest.approx([2000, 667], abs=2)
    assert allocate_bitrate(1000, 1000, [0, 50], [2, 2]) == pytest.approx([1000, 1000], abs=1)


def test_what_is_done_is_not_done_again(clip, tmp_path):
    workspace = desk_for(clip, tmp_path)
    assert help_out(workspace)
    made = workspace.path("draw", 0, ".record").stat().st_mtime_ns
    assert RenderWorkspace(workspace.folder).undone("draw") == [1, 2, 3]
    again = desk_for(clip, tmp_path)
    finish(again, tmp_path / "out.mp4")
    assert workspace.path("draw", 0, ".record").stat().st_mtime_ns == made
    other = desk_for(clip, tmp_path, quality="draft")  # another order on the same workspace begins anew
    assert other.undone("draw") == [0, 1, 2, 3]


def test_a_part_that_somebody_has_is_left_to_them(clip, tmp_path):
    workspace = desk_for(clip, tmp_path)
    with locked(workspace.path("draw", 0, ".lock")) as mine:
        assert mine
        assert help_out(workspace)
        assert workspace.undone("draw") == [0, 2, 3]


def work_at(folder, target):
    workspace = RenderWorkspace(folder)
    if target:
        finish(workspace, target)
    while workspace.has_request and help_out(workspace):
        pass


def worker_at(workspace, target=None):
    worker = PROCESSES.Process(target=work_at, args=(workspace.folder, target))
    worker.start()
    return worker


def test_several_processes_draw_one_render(clip, tmp_path):
    workspace = desk_for(clip, tmp_path, seconds=F(1, 2))
    others = [worker_at(workspace) for _ in range(2)]
    finish(workspace, tmp_path / "out.mp4")
    for other in others:
        other.join(60)
    assert [other.exitcode for other in others] == [0, 0]
    assert times(tmp_path / "out.mp4") == [number / 25 for number in range(100)]


def test_a_worker_killed_at_random_twenty_times_leaves_a_complete_file(tmp_path):
    """Each is killed some hundredths of a second after it began to draw; the seed makes it the same every time."""
    clip = write_clip(tmp_path / "in.mp4", frames=200)
    folder = tmp_path / "made"
    folder.mkdir()
    target, seed = folder / "out.mp4", random.Random(5)
    settings = {"kind": "mp4-h264", "quality": "high"}
    reference = tmp_path / "reference.mp4"
    finish(desk_for(clip, tmp_path, seconds=F(1, 3), **settings), reference)
    workspace = desk_for(clip, folder, seconds=F(1, 3), **settings)
    finished = []
    for _ in range(20):
        worker = worker_at(workspace, target)
        _until_it_draws(workspace, worker, finished)
        time.sleep(seed.uniform(0, 0.12))
        worker.kill()
        worker.join()
        assert not target.exists() or not workspace.undone("draw")  # no half file under the name
        finished.append(workspace.stored.count - len(RenderWorkspace(workspace.folder).undone("draw")))
    assert finished == sorted(finished)
    finish(RenderWorkspace(workspace.folder), target)
    workspace.clear()
    assert all(np.array_equal(one, other) for one, other in zip(lumas(reference), lumas(target), strict=True))
    for left in folder.glob(".*.part"):  # what a killed process was joining; whoever picks the render up takes it away
        left.unlink()
    assert [path.name for path in folder.iterdir()] == ["out.mp4"]


def _until_it_draws(workspace, worker, finished):
    """Until a part has been begun, or the worker has nothing left to draw."""
    before = {path.stat().st_mtime_ns for path in workspace.folder.glob("*.lock")}
    end = time.monotonic() + 20
    while time.monotonic() < end and worker.is_alive():
        if {path.stat().st_mtime_ns for path in workspace.folder.glob("*.lock")} - before:
            return
        time.sleep(0.005)


def test_a_pause_keeps_what_is_done_and_a_cancel_stops_within_a_part(clip, tmp_path):
    workspace, target = desk_for(clip, tmp_path), tmp_path / "out.mp4"
    with pytest.raises(Paused):
        finish(workspace, target, paused=lambda: len(workspace.undone("draw")) < 4)
    assert workspace.undone("draw") == [1, 2, 3]
    with pytest.raises(Cancelled):
        finish(workspace, target, cancelled=lambda: True)
    assert not target.exists()
    finish(workspace, target)
    assert len(lumas(target)) == 100


def test_a_source_that_is_swapped_while_it_is_rendered_is_noticed(tmp_path):
    clip = write_clip(tmp_path / "in.mp4", frames=100)
    workspace = desk_for(clip, tmp_path)
    help_out(workspace)
    write_clip(clip, frames=100, size=(160, 90))
    with pytest.raises(SourceChanged, match="changed after"):
        finish(workspace, tmp_path / "out.mp4")
    clip.unlink()
    with pytest.raises(MissingSource):
        finish(workspace, tmp_path / "out.mp4")
    assert not (tmp_path / "out.mp4").exists()


FULL = """
import resource, sys
resource.setrlimit(resource.RLIMIT_FSIZE, (20_000, 20_000))
import signal
signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
from pathlib import Path
from cadrage.errors import CannotWrite
from cadrage.render.workspace import RenderWorkspace
from cadrage.render.segments import finish
try:
    finish(RenderWorkspace(Path(sys.argv[1])), Path(sys.argv[2]))
except CannotWrite as error:
    print(error)
    sys.exit(7)
"""


def test_a_file_system_that_takes_no_more_is_said_and_leaves_no_half_file(clip, tmp_path):
    """A limit of the system on a file's size stands in for a full disk: writing fails in the same place."""
    workspace, out = desk_for(clip, tmp_path, quality="nearly_lossless"), tmp_path / "out"
    out.mkdir()
    command = [sys.executable, "-c", FULL, str(workspace.folder), str(out / "out.mp4")]
    done = subprocess.run(command, cwd=ROOT, capture_output=True, text=True, check=False)
    assert done.returncode == 7, done.stderr
    assert "could not be written" in done.stdout
    assert list(out.iterdir()) == []
    finish(workspace, out / "out.mp4")  # with room, it goes on from what is done


def test_too_little_room_is_told_before_it_is_used_up(clip, tmp_path, monkeypatch):
    workspace = desk_for(clip, tmp_path)
    help_out(workspace)
    room = os.statvfs(tmp_path)
    little = type("Usage", (), {"free": 51 * 2**20, "total": room.f_blocks, "used": 0})
    monkeypatch.setattr("cadrage.render.segments.shutil.disk_usage", lambda _: little)
    monkeypatch.setattr("cadrage.render.segments.SPARE_BYTES", 51 * 2**20 - 1000)
    with pytest.raises(CannotWrite, match="still to be written"):
        finish(workspace, tmp_path / "out.mp4")
    assert workspace.undone("draw") == [1, 2, 3]


def test_a_range_is_drawn_to_the_frame_and_its_sound_to_the_sample(tmp_path):
    clip = write_clip(tmp_path / "in.mov", frames=100, sound="pcm_s16le")
    plan = PLAN.model_copy(update={"range": Range(start=F(1), end=F(3))})
    target = tmp_path / "out.mov"
    finish(desk_for(clip, tmp_path, plan, kind="mov-prores", sound="pcm-16"), target)
    whole = tmp_path / "whole.mov"
    render(PLAN, clip, whole, probe(clip), settings=Settings(kind="mov-prores", sound="pcm-16"))
    cut = zip(lumas(target), lumas(whole)[25:75], strict=True)
    assert all(np.array_equal(one, other) for one, other in cut)
    assert np.array_equal(sound(target), sound(whole)[:, 48_000:144_000])
