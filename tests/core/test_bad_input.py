"""Files that are not what they say. Each is refused with a clear error and opens nothing else."""

import json
import subprocess
import sys
import time
from fractions import Fraction

import av
import numpy as np
import pytest

from cadrage.errors import MissingSource, NoPicture, RasterOutOfRange, UnreadableFile
from cadrage.footage import ClipReader, probe
from cadrage.footage.findings import Finding
from tests.clips import write_clip
from tests.corpus.making import Maker
from tests.corpus.members import member


def refused(path, kind):
    with pytest.raises(kind) as caught:
        probe(path)
    error = caught.value
    assert error.clip == path.name
    assert error.problem
    assert error.remedy
    return error


def test_a_missing_file(tmp_path):
    refused(tmp_path / "gone.mp4", MissingSource)
    assert "no numbered stills" in refused(tmp_path, UnreadableFile).problem


def test_an_empty_file(tmp_path):
    path = tmp_path / "empty.mp4"
    path.touch()
    assert "empty" in refused(path, UnreadableFile).problem


@pytest.mark.parametrize("content", [b"Dear editor, here is the clip.\n" * 50, b"\x00" * 5000, bytes(range(256)) * 40])
def test_text_and_noise_named_mp4(tmp_path, content):
    path = tmp_path / "letter.mp4"
    path.write_bytes(content)
    refused(path, UnreadableFile)


def test_a_file_cut_short_before_its_index(tmp_path, small_clip):
    whole = small_clip.read_bytes()
    for share in (0.2, 0.5, 0.9):
        path = tmp_path / "cut.mp4"
        path.write_bytes(whole[: int(len(whole) * share)])
        refused(path, UnreadableFile)


def test_of_a_file_cut_short_behind_its_index_is_read_what_is_there(tmp_path, small_clip):
    """With the index in front the header still promises every frame; what is lost is told."""
    fast = tmp_path / "fast.mp4"
    command = ["ffmpeg", "-v", "error", "-i", str(small_clip), "-c", "copy", "-movflags", "+faststart", str(fast)]
    subprocess.run(command, check=True)
    path = tmp_path / "cut.mp4"
    path.write_bytes(fast.read_bytes()[: int(fast.stat().st_size * 0.6)])
    info = probe(path)
    assert 5 < info.frames < 20
    assert "cut_short" in [one.kind for one in info.damage]
    with ClipReader(path, info) as reader:
        assert len(list(reader.frames())) == info.frames


def test_sound_only(tmp_path):
    path = tmp_path / "sound.mp4"
    with av.open(str(path), "w") as container:
        track = container.add_stream("aac", rate=48000, layout="mono")
        frame = av.AudioFrame.from_ndarray(np.zeros((1, 1024), np.float32), "fltp", "mono")
        frame.sample_rate = 48000
        container.mux(track.encode(frame))
        container.mux(track.encode(None))
    refused(path, NoPicture)


@pytest.mark.parametrize(
    "script",
    [
        "ffconcat version 1.0\nfile '{other}'\n",
        "#EXTM3U\n#EXT-X-TARGETDURATION:5\n#EXTINF:5,\n{other}\n#EXT-X-ENDLIST\n",
        '<?xml version="1.0"?><MPD><Period><BaseURL>{other}</BaseURL></Period></MPD>',
        "v=0\nm=video 1 RTP/AVP 96\nc=IN IP4 127.0.0.1\n",
    ],
)
def test_playlists_and_scripts_open_nothing(tmp_path, small_clip, script):
    for name in ("list.mp4", "list.m3u8", "list.ffconcat"):
        path = tmp_path / name
        path.write_text(script.format(other=small_clip))
        refused(path, UnreadableFile)


def test_a_name_that_looks_like_an_address(tmp_path, small_clip, monkeypatch):
    """A file may be called anything; its name is never read as a protocol."""
    monkeypatch.chdir(tmp_path)
    path = tmp_path / "concat:a.mp4|b.mp4"
    path.write_bytes(small_clip.read_bytes())
    assert probe(path).frames == 25


@pytest.mark.parametrize("size", [(1, 1), (20000, 20), (8, 400)])
def test_sizes_beyond_the_limits_are_refused(tmp_path, size):
    path = write_clip(
        tmp_path / "size.mkv", size=size, frames=1, codec="ffv1", pixel_format="yuv444p", sound=None, options={}
    )
    assert f"{size[0]}×{size[1]}" in refused(path, RasterOutOfRange).problem


def test_a_huge_picture_is_refused_before_it_is_decoded(tmp_path):
    """The header alone says 20000×20000; there is not enough in the file to decode."""
    path = write_clip(tmp_path / "huge.avi", size=(320, 180), frames=2, codec="rawvideo", sound=None, options={})
    content = bytearray(path.read_bytes())
    at = content.index(b"strf") + 8 + 4
    content[at : at + 8] = (20000).to_bytes(4, "little") * 2
    path.write_bytes(content)
    refused(path, RasterOutOfRange)


@pytest.mark.parametrize("size", [(321, 181), (17, 16), (333, 18)])
def test_odd_sizes_are_read(tmp_path, size):
    path = write_clip(
        tmp_path / "odd.mkv", size=size, frames=2, codec="ffv1", pixel_format="yuv420p", sound=None, options={}
    )
    info = probe(path)
    with ClipReader(path, info) as reader:
        assert reader.frame_at(Fraction(0)).planes.arrays[0].shape == (size[1], size[0])


def test_no_sound_is_fine(tmp_path):
    assert probe(write_clip(tmp_path / "silent.mp4", sound=None, frames=3)).sounds == ()


def test_an_unknown_rate_is_worked_out(tmp_path):
    """Matroska may leave out how long a frame lasts; the time stamps tell."""
    path = write_clip(tmp_path / "unknown.mkv", frames=10, sound=None, stamps=[n * 50 for n in range(10)])
    info = probe(path)
    assert info.rate == pytest.approx(20, rel=0.3)
    assert info.duration > 0


def test_another_size_of_the_same_shape_is_brought_to_the_first(tmp_path, small_clip):
    info = probe(small_clip)
    other = write_clip(tmp_path / "other.mp4", size=(640, 360), frames=3)
    with ClipReader(other, info) as reader:
        assert {frame.planes.arrays[0].shape for frame in reader.frames()} == {(180, 320)}


def test_another_shape_is_refused_since_it_would_be_squeezed(tmp_path, small_clip):
    changes = (Finding(kind="size_changes", told="320×320"),)
    info = probe(small_clip).model_copy(update={"findings": changes})
    other = write_clip(tmp_path / "other.mp4", size=(320, 320), frames=3)
    with ClipReader(other, info) as reader, pytest.raises(UnreadableFile, match="changes size"):
        list(reader.frames())


def test_very_many_edits_are_refused_at_once(tmp_path):
    """A library takes minutes for them, and cannot be interrupted."""
    path = tmp_path / "edits.mp4"
    member("very many edits").make(Maker(tmp_path / "made"), path)
    began = time.monotonic()
    assert "200,000" in refused(path, UnreadableFile).problem
    assert time.monotonic() - began < 5


def test_channels_that_are_listed_one_by_one_end_no_process(tmp_path):
    path = tmp_path / "eight.mov"
    member("MOV: pcm_s16le, 8 channels").make(Maker(tmp_path / "made"), path)
    line = [sys.executable, "-m", "cadrage", "probe", str(path), "--json"]
    run = subprocess.run(line, capture_output=True, check=False)
    assert run.returncode == 0
    assert json.loads(run.stdout)["sounds"][0]["channels"] == 8
