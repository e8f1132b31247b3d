import json
import os
import subprocess
import sys
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest

from cadrage.compose import Compositor
from cadrage.errors import BadRequest, Cancelled, CannotWrite, MissingSource
from cadrage.footage import ClipReader, probe
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.inspection import inspect_file
from cadrage.output import Settings
from cadrage.plan import Plan
from cadrage.render import RenderRequest, render
from cadrage.render.drawing import Drawing
from cadrage.surrounds import Plain
from tests.clips import write_clip

UPRIGHT = Plan(frame=Frame(width=180, height=320))


def line(inspection, name):
    return next(line for line in inspection.lines if line.name == name)


def rendered(plan, source, folder, **options):
    target = folder / "out.mp4"
    render(plan, source, target, probe(source), **options)
    return target


def left_in(folder):
    return sorted(path.name for path in folder.iterdir())


def packets(path, kind):
    command = ["ffprobe", "-v", "error", "-select_streams", kind, "-show_packets", "-of", "json", str(path)]
    return json.loads(subprocess.run(command, capture_output=True, check=True).stdout)["packets"]


def test_the_file_is_what_was_asked_for(small_clip, tmp_path):
    target = rendered(UPRIGHT, small_clip, tmp_path)
    inspection = inspect_file(target, RenderRequest(UPRIGHT, small_clip, probe(small_clip)))
    assert inspection.right, inspection
    assert {line.verdict for line in inspection.lines if line.asked} == {"right"}
    assert left_in(tmp_path) == ["out.mp4"]
    # The index stands before the pictures, so that playing starts at once.
    content = target.read_bytes()
    assert content.index(b"moov") < content.index(b"mdat")


@pytest.mark.parametrize(
    "rate", [Fraction(24000, 1001), Fraction(30000, 1001), Fraction(30), Fraction(12), Fraction(60)]
)
def test_the_clips_own_rate_is_kept_exactly(tmp_path, rate):
    source = write_clip(tmp_path / "in.mp4", rate=rate, frames=10)
    found = probe(rendered(UPRIGHT, source, tmp_path))
    assert (found.rate, found.frames, found.rate_varies) == (rate, 10, False)


def test_a_varying_rate_keeps_every_time_stamp(tmp_path):
    stamps = [0, 33, 66, 100, 400, 433, 466, 1000, 1033]
    source = write_clip(tmp_path / "in.mkv", frames=9, stamps=stamps, sound=None)
    target = rendered(UPRIGHT, source, tmp_path)
    with ClipReader(target, probe(target)) as reader:
        assert [round(frame.time * 1000) for frame in reader.frames()] == stamps


def test_aac_is_kept_to_the_last_byte_and_in_sync(small_clip, tmp_path):
    target = rendered(UPRIGHT, small_clip, tmp_path)
    before, after = packets(small_clip, "a"), packets(target, "a")
    assert [packet["size"] for packet in before] == [packet["size"] for packet in after]
    for one, other in ((0, 0), (-1, -1)):
        assert float(before[one]["pts_time"]) == pytest.approx(float(after[other]["pts_time"]), abs=0.001)


@pytest.mark.parametrize(("codec", "suffix"), [("pcm_s16le", "mkv"), ("pcm_s16le", "avi"), ("mp3float", "mkv")])
def test_other_sound_becomes_aac_in_step(tmp_path, codec, suffix):
    if codec == "mp3float":
        codec = "libmp3lame"
    source = write_clip(tmp_path / f"in.{suffix}", sound=codec, frames=50)
    target = rendered(UPRIGHT, source, tmp_path)
    info = probe(target)
    assert info.sounds[0].codec == "aac"
    # A decoder that knows nothing of Cadrage finds the tone's beginning where the source has it.
    assert abs(onset(source) - onset(target)) <= 0.001


def onset(path):
    """When the sound first rises, in seconds on the file's own clock, as ffmpeg decodes it."""
    first = ["ffprobe", "-v", "error", "-select_streams", "a", "-show_frames"]
    said = subprocess.run([*first, "-of", "json", str(path)], capture_output=True, check=True).stdout
    begins = float(json.loads(said)["frames"][0]["pts_time"])
    command = ["ffmpeg", "-v", "error", "-i", str(path), "-f", "f32le", "-ac", "1", "-ar", "48000", "-"]
    sound = np.frombuffer(subprocess.run(command, capture_output=True, check=True).stdout, np.float32)
    return begins + np.flatnonzero(np.abs(sound) > 0.05)[0] / 48000


def test_no_sound_stays_no_sound(tmp_path):
    source = write_clip(tmp_path / "in.mp4", sound=None, frames=5)
    assert probe(rendered(UPRIGHT, source, tmp_path)).sounds == ()


@pytest.mark.long
def test_what_is_shown_is_what_is_rendered(museum, tmp_path):
    """The composed frame against the decoded file at high quality: at least 38 dB."""
    source, plan = museum["crossing.mp4"], Plan(frame=Frame(width=540, height=960))
    info = probe(source)
    target = rendered(plan, source, tmp_path, settings=Settings(number=10))
    with ClipReader(source, info) as reader, ClipReader(target, probe(target)) as result:
        for time in (Fraction(0), Fraction(1, 3), Fraction(9, 10)):
            stored = reader.frame_at(time).planes
            shown = Compositor(plan, stored.layout, info).compose(stored).arrays[0].astype(float)
            error = ((shown - result.frame_at(time).planes.arrays[0]) ** 2).mean()
            assert 10 * np.log10(255**2 / error) >= 38


def test_moving_by_quarter_pixels_moves_the_picture_by_quarter_pixels(tmp_path):
    def spot(_):
        image = np.zeros((180, 320, 3), np.uint8)
        image[80:100, 150:170] = 230
        return image

    source = write_clip(tmp_path / "spot.mp4", frames=1, paint=spot, sound=None)
    info = probe(source)
    with ClipReader(source, info) as reader:
        stored = reader.frame_at(Fraction(0)).planes
    centroids = []
    for step in range(9):
        plan = Plan(
            frame=Frame(width=320, height=320),
            placement=Placement(offset_x=Fraction(step, 4)),
            surround=Plain(),
        )
        luma = Compositor(plan, stored.layout, info).compose(stored).arrays[0].astype(float) - 16
        centroids.append((luma.sum(axis=0) * np.arange(320)).sum() / luma.sum())
    assert np.diff(centroids) == pytest.approx(0.25, abs=0.05)


def test_cancelling_leaves_nothing_behind(small_clip, tmp_path):
    with pytest.raises(Cancelled):
        rendered(UPRIGHT, small_clip, tmp_path, cancelled=lambda: True)
    assert left_in(tmp_path) == []


def test_progress_reaches_the_end(small_clip, tmp_path):
    said = []
    rendered(UPRIGHT, small_clip, tmp_path, report=said.append)
    assert (said[-1].done, said[-1].total, said[-1].seconds_left) == (25, 25, 0)


def test_the_source_is_never_replaced(tmp_path):
    source = write_clip(tmp_path / "in.mp4", frames=5)
    before = source.read_bytes()
    with pytest.raises(BadRequest, match="replace its own source"):
        render(UPRIGHT, source, tmp_path / "in.mp4", probe(source))
    assert source.read_bytes() == before


def test_a_source_that_went_away(tmp_path, small_clip):
    info = probe(small_clip)
    with pytest.raises(MissingSource):
        render(UPRIGHT, tmp_path / "gone.mp4", tmp_path / "out.mp4", info)
    assert left_in(tmp_path) == []


def test_odd_frames_cannot_be_h264(small_clip, tmp_path):
    with pytest.raises(BadRequest, match="even"):
        rendered(Plan(frame=Frame(width=181, height=320)), small_clip, tmp_path)
    assert left_in(tmp_path) == []


def test_a_folder_that_is_not_there(small_clip, tmp_path):
    with pytest.raises(CannotWrite):
        render(UPRIGHT, small_clip, tmp_path / "nowhere" / "out.mp4", probe(small_clip))


FULL = """
import resource, signal, sys
from pathlib import Path
from cadrage.cli import main
signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
resource.setrlimit(resource.RLIMIT_FSIZE, (20_000, 20_000))
sys.argv = ["cadrage", "convert", *sys.argv[1:]]
main()
"""


def test_no_more_room_while_writing(small_clip, tmp_path):
    """Real writes that fail: the process may not write files beyond 20 kB. What was there before stays as it was."""
    target = tmp_path / "out.mp4"
    target.write_bytes(b"an earlier result")
    run = subprocess.run(  # noqa: PLW1510 - it is meant to fail
        [sys.executable, "-c", FULL, str(small_clip), str(target), "--frame", "640x360", "--json"],
        capture_output=True,
        text=True,
        env={**os.environ, "PYTHONPATH": "."},
    )
    assert run.returncode == 2, run.stderr
    assert json.loads(run.stdout)["error"]["clip"] == "out.mp4"
    assert target.read_bytes() == b"an earlier result"
    assert left_in(tmp_path) == ["out.mp4"]


def test_inspection_finds_what_is_wrong(small_clip, tmp_path):
    target = rendered(UPRIGHT, small_clip, tmp_path)
    info = probe(small_clip)
    for plan, name in [
        (Plan(frame=Frame(width=320, height=180)), "Size"),
        (Plan(frame=Frame(width=180, height=320, pixel_aspect=Fraction(12, 11))), "Pixel aspect"),
        (Plan(frame=Frame(width=180, height=320), surround=Plain()), "Black bars"),
    ]:
        inspection = inspect_file(target, RenderRequest(plan, small_clip, info))
        assert not inspection.right
        assert line(inspection, name).verdict == "wrong"
        assert line(inspection, name).remedy
    longer = info.model_copy(update={"frames": 30, "rate": Fraction(24)})
    inspection = inspect_file(target, RenderRequest(UPRIGHT, small_clip, longer))
    assert [line(inspection, name).verdict for name in ("Rate", "Frames")] == ["wrong", "wrong"]


def test_black_bars_that_were_asked_for_are_right(small_clip, tmp_path):
    plan = Plan(frame=Frame(width=180, height=320), surround=Plain())
    inspection = inspect_file(rendered(plan, small_clip, tmp_path), RenderRequest(plan, small_clip, probe(small_clip)))
    # 320×180 whole in 180 across is 101¼ high: bars of 109⅜.
    assert line(inspection, "Black bars").found == "top 109, bottom 109"
    assert inspection.right


def test_tape_colours_are_tagged_as_what_they_are(museum, tmp_path):
    target = rendered(Plan(frame=Frame(width=960, height=720)), museum["points.mp4"], tmp_path)
    found = probe(target)
    assert (found.matrix, found.primaries, found.transfer) == (1, 1, 1)  # those of the tape are converted


def test_bars_of_an_active_picture_are_asked_for_and_found(small_clip, tmp_path):
    plan = Plan(frame=Frame(width=320, height=180, active=Fraction("2.39")), placement=Placement(tightness=Fraction(1)))
    inspection = inspect_file(rendered(plan, small_clip, tmp_path), RenderRequest(plan, small_clip, probe(small_clip)))
    # 320 / 2.39 = 133.89, drawn as 134: bars of 23.
    assert line(inspection, "Black bars").asked == "top 23, bottom 23"
    assert inspection.right


def test_no_encoder_puts_itself_before_the_rest_of_the_machine(small_clip):
    before = os.sched_getscheduler(0)
    order = RenderRequest(UPRIGHT, small_clip, probe(small_clip), settings=Settings(kind="webm-av1", sound="opus"))
    with Drawing(order) as drawing, av.open(os.devnull, "w", format="null") as container:
        drawing.track(container).codec_context.open(strict=False)
        threads = [int(path.name) for path in Path("/proc/self/task").iterdir()]
        assert {os.sched_getscheduler(thread) for thread in threads} == {before}
