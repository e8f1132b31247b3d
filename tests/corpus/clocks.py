"""Clocks that begin anywhere, wrap, jitter and jump; cuts made without encoding; sound that begins early or late."""

from collections.abc import Callable
from fractions import Fraction
from pathlib import Path
from zlib import crc32

from tests.corpus.making import MPEG2, MPEG4, VP9, X264, X265, Maker, Member, encoded

CLOCKS, CUTS, STARTS, RATES = "Clocks", "Cuts without encoding", "Where sound begins", "Rates"
GOP = X264 + " -g 12 -bf 2"


def copied(video: str, audio: str, first: str, *more: str, before: str = "") -> Callable[[Maker, Path], None]:
    """A member whose packets come from another file."""

    def make(maker: Maker, path: Path) -> None:
        name = f"of-{crc32((video + audio).encode())}.{first}"
        maker.copy(maker.source(name, video, audio), path, *more, before=before)

    return make


def _offsets() -> list[Member]:
    made = []
    for seconds in (0, 1, 600, 36_000, 95_440, 95_443):
        for suffix, video, audio in (("ts", X264, "aac"), ("mpg", MPEG2, "mp2")):
            make = encoded(video, audio, more=f"-output_ts_offset {seconds}")
            made.append(Member(f"{suffix.upper()}: clock begins at {seconds} s", CLOCKS, f"clip.{suffix}", make))
    for seconds in (3, -0.5):
        for suffix, video, audio in (("mkv", X264, "aac"), ("mp4", X264, "aac"), ("webm", VP9, "libopus")):
            more = ("-avoid_negative_ts", "disabled", "-output_ts_offset", str(seconds))
            make = copied(video, audio, suffix, *more)
            # In Matroska such pictures have no stamp; the other reader makes up others, and so moves the sound.
            heard = (suffix, seconds) != ("mkv", -0.5)
            name = f"{suffix.upper()}: clock begins at {seconds} s"
            made.append(Member(name, CLOCKS, f"clip.{suffix}", make, sound=heard))
    return made


def _joined(
    count: int, suffix: str, video: str, audio: str, offsets: tuple[float, ...]
) -> Callable[[Maker, Path], None]:
    """Streams of different clocks one behind the other, as a recorder writes them that was stopped."""

    def make(maker: Maker, path: Path) -> None:
        parts = []
        for number, offset in enumerate(offsets[:count]):
            part = maker.folder / f"joined-{suffix}-{number}-{offset}.{suffix}"
            maker.encode(part, video, audio, more=f"-output_ts_offset {offset}")
            parts.append(part.read_bytes())
        path.write_bytes(b"".join(parts))

    return make


def _jumps() -> list[Member]:
    return [
        Member("TS: clock jumps ahead", CLOCKS, "clip.ts", _joined(2, "ts", X264, "aac", (0, 3600))),
        Member("TS: clock jumps back", CLOCKS, "clip.ts", _joined(2, "ts", X264, "aac", (3600, 0))),
        Member("TS: clock jumps twice", CLOCKS, "clip.ts", _joined(3, "ts", MPEG2, "mp2", (100, 0, 5000))),
        Member("MPG: clock begins anew", CLOCKS, "clip.mpg", _joined(2, "mpg", MPEG2, "mp2", (0, 0)), "either"),
    ]


def _jittered(path: Path, maker: Maker, amount: int) -> None:
    """Time stamps of Matroska blocks that are some milliseconds off."""
    source = maker.source("jitter.mkv", X264, "aac")
    expression = f"PTS+({amount}*(mod(N*7\\,5)-2)/1000/TB)"
    maker.copy(source, path, "-bsf:v", f"setts=pts={expression}:dts={expression}")


def _odd_clocks() -> list[Member]:
    def dropped(maker: Maker, path: Path) -> None:
        maker.copy(maker.source("even.mkv", X264, "aac"), path, "-bsf:v", "noise=drop=eq(mod(n\\,9)\\,8)*not(key)")

    def varying(maker: Maker, path: Path) -> None:
        choice = "settb=1/1000,setpts='N*40+if(gt(N,20),300,0)+if(gt(N,30),13*(N-30),0)'"
        maker.encode(path, X264 + f" -vf {choice} -vsync passthrough", "aac")

    return [
        Member("MKV: stamps off by 2 ms", CLOCKS, "clip.mkv", lambda maker, path: _jittered(path, maker, 2)),
        Member("MP4: stamps off by 5 ms", CLOCKS, "clip.mp4", lambda maker, path: _jittered(path, maker, 5)),
        Member("MKV: a rate that varies", CLOCKS, "clip.mkv", varying),
        Member("MP4: a rate that varies", CLOCKS, "clip.mp4", varying),
        Member("MOV: a rate that varies", CLOCKS, "clip.mov", varying),
        Member("MKV: pictures left out", CLOCKS, "clip.mkv", dropped, "damaged"),
    ]


def _cuts() -> list[Member]:
    made = []
    for at in ("0.3", "0.7", "0.96", "1.2"):
        for suffix, video, audio in (("mp4", GOP, "aac"), ("mov", GOP, "pcm_s16le"), ("mkv", GOP, "aac")):
            make = copied(video, audio, "mp4" if suffix == "mp4" else suffix, before=f"-ss {at}")
            made.append(Member(f"{suffix.upper()}: cut at {at} s", CUTS, f"clip.{suffix}", make))
    for suffix, video, audio in (("ts", GOP, "aac"), ("mpg", MPEG2, "mp2"), ("avi", MPEG4, "libmp3lame")):
        make = copied(video, audio, suffix, before="-ss 0.7")
        made.append(Member(f"{suffix.upper()}: cut at 0.7 s", CUTS, f"clip.{suffix}", make))
    made += [
        Member("MP4: cut at both ends", CUTS, "clip.mp4", copied(GOP, "aac", "mp4", "-t", "0.8", before="-ss 0.5")),
        Member("MP4: H.265 cut at 0.7 s", CUTS, "clip.mp4", copied(X265 + " -g 12", "aac", "mp4", before="-ss 0.7")),
        Member("MOV: edit list of 0.2 s", CUTS, "clip.mov", copied(GOP, "aac", "mov", before="-itsoffset 0.2")),
        Member(
            "MP4: without edit list",
            CUTS,
            "clip.mp4",
            encoded(GOP, "aac", more="-use_editlist 0 -movflags negative_cts_offsets"),
        ),
    ]
    return made


def _starts() -> list[Member]:
    made = []
    table = (
        ("mp4", X264, "aac"),
        ("mov", X264, "pcm_s16le"),
        ("mkv", X264, "aac"),
        ("mkv", X264, "libopus"),
        ("webm", VP9, "libopus"),
        ("ts", X264, "aac"),
        ("mpg", MPEG2, "mp2"),
    )
    for late in (0.35, 1.0, -0.3):
        for suffix, video, audio in table:
            codec = audio.removeprefix("lib")
            when = f"{abs(late)} s {'late' if late > 0 else 'early'}"
            make = encoded(video, audio, late=late)
            made.append(Member(f"{suffix.upper()}, {codec}: sound {when}", STARTS, f"clip.{suffix}", make))
    return made


def _rates() -> list[Member]:
    made = []
    for rate in ("24000/1001", "24", "30000/1001", "50", "60000/1001", "12", "15", "10"):
        for suffix, video in (("mkv", X264), ("mp4", X264), ("ts", X264)):
            make = encoded(video, "aac", rate=Fraction(rate), frames=max(20, int(2 * Fraction(rate))))
            made.append(Member(f"{suffix.upper()}: {float(Fraction(rate)):.5g} fps", RATES, f"clip.{suffix}", make))
    return made


def members() -> list[Member]:
    """All of these."""
    return [*_offsets(), *_jumps(), *_odd_clocks(), *_cuts(), *_starts(), *_rates()]
