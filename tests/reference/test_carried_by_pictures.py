"""Captions and format descriptions that broadcast streams carry are reported, and captions are read as a file."""

import subprocess
from fractions import Fraction

import pytest
from typer.testing import CliRunner

from cadrage.cli.main import app
from cadrage.footage import probe
from cadrage.lettering import read_captions
from tests.captioned import START, sei, write_captioned

CAPTION = b"GA94\x03\x41\xff\xfc\x94\x20\xff"  # ANSI/SCTE 128-1, 8.1: one pair of bytes of CEA-608; from memory
FORMAT = b"DTG1\x41\xfa"  # ETSI TS 101 154, annex B: active format 1010; from memory


@pytest.fixture
def plain(tmp_path):
    path = tmp_path / "plain.h264"
    drawn = ["-f", "lavfi", "-i", "testsrc2=s=192x108:r=25:d=1", "-pix_fmt", "yuv420p"]
    subprocess.run(["ffmpeg", "-v", "error", "-y", *drawn, "-c:v", "libx264", "-aud", "1", path], check=True)
    return path.read_bytes()


@pytest.fixture
def captioned(tmp_path):
    return write_captioned(tmp_path)


def test_captions_are_read_as_an_independent_reader_reads_them(captioned, tmp_path):
    out = tmp_path / "captions.srt"
    assert CliRunner().invoke(app, ["captions", str(captioned), str(out)]).exit_code == 0
    read = ["ffmpeg", "-v", "error", "-f", "lavfi", "-i", f"movie={captioned}[out+subcc]", "-map", "0:s", "-f", "srt"]
    independent = subprocess.run([*read, "-"], check=True, capture_output=True, text=True).stdout
    (tmp_path / "theirs.srt").write_text(independent)
    ours, theirs = read_captions(out), read_captions(tmp_path / "theirs.srt")
    assert [cue.text for cue in ours] == [cue.text for cue in theirs] == ["HELLO TRAM", "ON TIME"]
    assert [cue.start for cue in ours] == [cue.start for cue in theirs]
    assert ours[0].end == theirs[0].end
    assert abs(ours[1].end - Fraction(6006, 1000)) <= Fraction(1, 1000)  # nothing erases it before the end


def test_a_clip_without_captions_says_so(small_clip, tmp_path):
    out = tmp_path / "captions.srt"
    assert CliRunner().invoke(app, ["captions", str(small_clip), str(out)]).exit_code != 0
    assert not out.exists()


def stream_with(tmp_path, plain, *messages):
    """What probing finds of a stream with messages in front of every picture."""
    delimiter = START + b"\x09"
    pictures = [delimiter + part[:1] + b"".join(map(sei, messages)) + part[1:] for part in plain.split(delimiter)[1:]]
    path = tmp_path / "clip.h264"
    path.write_bytes(b"".join(pictures))
    return probe(path)


def test_captions_and_active_format_in_the_picture_stream_are_told_of(tmp_path, plain):
    found = {one.kind: one.told for one in stream_with(tmp_path, plain, CAPTION, FORMAT).findings}
    assert found == {"captions_in_picture": "", "active_format": "1010"}


def test_a_stream_without_them_has_nothing_to_tell(tmp_path, plain):
    assert stream_with(tmp_path, plain).findings == ()
