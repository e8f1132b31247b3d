"""Captions, format descriptions and teletext that broadcast streams carry are told of, since files do not get them."""

import subprocess

import pytest

from cadrage.footage import probe

START = b"\0\0\0\1"
CAPTION = b"GA94\x03\x41\xff\xfc\x94\x20\xff"  # ANSI/SCTE 128-1, 8.1: one pair of bytes of CEA-608; from memory
FORMAT = b"DTG1\x41\xfa"  # ETSI TS 101 154, annex B: active format 1010; from memory


def sei(data):
    """ITU-T T.35 user data of the United States, provider 0x31, as an H.264 SEI: ITU-T H.264, D.1.6."""
    payload = b"\xb5\x00\x31" + data
    return START + b"\x06\x04" + bytes([len(payload)]) + payload + b"\x80"


@pytest.fixture
def plain(tmp_path):
    path = tmp_path / "plain.h264"
    drawn = ["-f", "lavfi", "-i", "testsrc2=s=192x108:r=25:d=1", "-pix_fmt", "yuv420p"]
    subprocess.run(["ffmpeg", "-v", "error", "-y", *drawn, "-c:v", "libx264", "-aud", "1", path], check=True)
    return path.read_bytes()


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
