"""Inputs that are not footage, or mean harm: each is refused in words, soon, and leaves nothing behind."""

import os
import struct
from collections.abc import Callable
from pathlib import Path

from tests.corpus.damage import altered
from tests.corpus.making import X264, Maker, Member, encoded

GROUP, NAMES = "Hostile", "Names"

OUTSIDE = (
    ("playlist", "m3u8", "#EXTM3U\n#EXT-X-TARGETDURATION:5\n#EXTINF:5,\n/etc/passwd\n#EXT-X-ENDLIST\n"),
    ("list of files", "ffconcat", "ffconcat version 1.0\nfile '/etc/passwd'\n"),
    ("manifest", "mpd", '<?xml version="1.0"?><MPD><Period><BaseURL>file:///etc/passwd</BaseURL></Period></MPD>'),
    ("session description", "sdp", "v=0\nm=video 5004 RTP/AVP 96\nc=IN IP4 127.0.0.1\n"),
    ("drawing", "svg", '<svg xmlns="http://www.w3.org/2000/svg"><image href="file:///etc/passwd"/></svg>'),
    ("letter", "mp4", "Dear editor, here is the clip.\n" * 60),
    ("page", "mov", "<!doctype html><html><body>not found</body></html>" * 20),
)


def _written(data: bytes) -> Callable[[Maker, Path], None]:
    return lambda _, path: path.write_bytes(data) and None


def _box(kind: bytes, *content: bytes) -> bytes:
    body = b"".join(content)
    return struct.pack(">I4s", 8 + len(body), kind) + body


def _many_edits(maker: Maker, path: Path) -> None:
    """An edit list of two hundred thousand entries (ISO/IEC 14496-12, elst)."""
    data = maker.source("plain.mp4", X264).read_bytes()
    count = 200_000
    entries = b"".join(struct.pack(">IiI", 1, number % 1000, 1 << 16) for number in range(count))
    edits = _box(b"elst", struct.pack(">II", 0, count), entries)
    at = data.index(b"elst") - 4
    old = struct.unpack_from(">I", data, at)[0]
    grown = bytearray(data[:at] + edits + data[at + old :])
    for name in (b"moov", b"trak", b"edts"):
        where = grown.index(name) - 4
        struct.pack_into(">I", grown, where, struct.unpack_from(">I", grown, where)[0] + len(edits) - old)
    path.write_bytes(grown)


def _referring(maker: Maker, path: Path) -> None:
    """A movie that says its pictures are in another file."""
    data = bytearray(maker.source("plain.mp4", X264).read_bytes())
    at = data.index(b"url ")
    data[at + 7] = 0
    path.write_bytes(data)


def _promising(maker: Maker, path: Path) -> None:
    """An index that promises two thousand million pictures."""
    data = bytearray(maker.source("plain.mp4", X264).read_bytes())
    at = data.index(b"stts") + 8
    struct.pack_into(">II", data, at + 4, 2_000_000_000, 512)
    path.write_bytes(data)


def _enormous(maker: Maker, path: Path) -> None:
    data = bytearray(maker.source("plain.avi", "rawvideo -pix_fmt bgr24", frames=2).read_bytes())
    at = data.index(b"strf") + 12
    struct.pack_into("<II", data, at, 60_000, 60_000)
    path.write_bytes(data)


def _sound_alone(maker: Maker, path: Path) -> None:
    maker.ffmpeg("-i", maker.clicks(), "-c:a", "aac", path)


def _members() -> list[Member]:
    made = [Member(name, GROUP, f"clip.{suffix}", _written(text.encode()), "refused") for name, suffix, text in OUTSIDE]
    noise = bytes((number * 7919 >> 3) & 255 for number in range(40_000))
    made += [
        Member("nothing", GROUP, "clip.mp4", lambda _, path: path.touch(), "refused"),
        Member("zeros", GROUP, "clip.mov", _written(bytes(50_000)), "refused"),
        Member("noise", GROUP, "clip.ts", _written(noise), "refused"),
        Member("sound alone", GROUP, "clip.m4a", _sound_alone, "refused"),
        Member("a pipe", GROUP, "clip.mp4", lambda _, path: os.mkfifo(path), "refused"),
        Member("a link to itself", GROUP, "clip.mp4", lambda _, path: path.symlink_to(path), "refused"),
        Member("an empty folder", GROUP, "clip", lambda _, path: path.mkdir(), "refused"),
        Member("very many edits", GROUP, "clip.mp4", _many_edits, "either", sound=False),
        Member("pictures in another file", GROUP, "clip.mp4", _referring, "either", sound=False),
        Member("an index that promises too much", GROUP, "clip.mp4", _promising, "either", sound=False),
        Member("a raster of 60000×60000", GROUP, "clip.avi", _enormous, "refused"),
        Member("only the first 100 bytes", GROUP, "clip.mkv", altered("mkv", lambda data: data[:100]), "refused"),
        Member("an MP4 without its index", GROUP, "clip.mp4", _without_index, "refused"),
    ]
    return made


def _without_index(maker: Maker, path: Path) -> None:
    data = maker.source("plain.mp4", X264).read_bytes()
    path.write_bytes(data[: data.index(b"moov") - 4])


def _names() -> list[Member]:
    names = (
        "a clip: take 1.mp4",
        "http:%2F%2Fhost.mp4",
        "clip%03d.mp4",
        "-i.mp4",
        "кино.mp4",
        "клип " + "х" * 110 + ".mp4",
    )
    names += ("concat:a.mp4|b.mp4", "e" * 246 + ".mp4", "two\nlines.mp4", "pipe:0.mp4", "without ending")
    make = encoded(X264, "aac", more="-f mp4")

    def named(maker: Maker, path: Path) -> None:
        plain = path.with_name("plain.mp4")
        make(maker, plain)
        plain.rename(path)

    return [Member(f"called {name[:24]!r}", NAMES, name, named) for name in names]


def members() -> list[Member]:
    """All of these."""
    return [*_members(), *_names()]
