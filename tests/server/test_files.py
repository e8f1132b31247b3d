"""Sending files whole and in part, as RFC 9110, section 14, says."""

import pytest

from server.studio.files import send_file

CONTENT = bytes(range(256)) * 4


@pytest.fixture
def path(tmp_path):
    file = tmp_path / "file.bin"
    file.write_bytes(CONTENT)
    return file


def get(rf, path, asked=None):
    headers = {"Range": asked} if asked else {}
    return send_file(rf.get("/", headers=headers), path, "video/mp4", "a “name”.mp4")


@pytest.mark.parametrize(
    ("asked", "first", "last"),
    [("bytes=0-9", 0, 9), ("bytes=1000-", 1000, 1023), ("bytes=-24", 1000, 1023), ("bytes=1000-9999", 1000, 1023)],
)
def test_a_range(rf, path, asked, first, last):
    answer = get(rf, path, asked)
    assert answer.status_code == 206
    assert b"".join(answer) == CONTENT[first : last + 1]
    assert answer["Content-Range"] == f"bytes {first}-{last}/1024"
    assert answer["Content-Length"] == str(last + 1 - first)


@pytest.mark.parametrize("asked", [None, "bytes=", "bytes=-", "bytes=0-1,5-6", "lines=1-2"])
def test_the_whole(rf, path, asked):
    answer = get(rf, path, asked)
    assert answer.status_code == 200
    assert b"".join(answer) == CONTENT
    assert answer["Accept-Ranges"] == "bytes"
    assert "attachment" in answer["Content-Disposition"]


def test_a_range_beyond_the_end(rf, path):
    answer = get(rf, path, "bytes=5000-")
    assert answer.status_code == 416
    assert answer["Content-Range"] == "bytes */1024"
