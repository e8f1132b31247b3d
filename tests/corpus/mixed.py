"""Whatever comes together: containers, codecs, groups of pictures, clocks, cuts and sound, drawn by a fixed seed."""

import random
from fractions import Fraction
from pathlib import Path

from tests.corpus.making import MPEG2, MPEG4, VP9, X264, X265, Maker, Member

GROUP = "Mixed"
COUNT, SEED = 60, 7
CONTAINERS = {
    "mp4": (("h264", "hevc", "mpeg4"), ("aac", "ac3", "libmp3lame", "alac")),
    "mov": (("h264", "hevc", "prores", "mpeg2"), ("aac", "pcm_s16le", "pcm_s24be", "alac")),
    "mkv": (
        ("h264", "hevc", "mpeg2", "vp9", "mpeg4"),
        ("aac", "libopus", "libvorbis", "flac", "ac3", "pcm_s16le", "mp2"),
    ),
    "webm": (("vp9",), ("libopus", "libvorbis")),
    "ts": (("h264", "hevc", "mpeg2"), ("aac", "ac3", "mp2")),
    "mpg": (("mpeg2",), ("mp2", "ac3")),
    "avi": (("mpeg4",), ("libmp3lame", "pcm_s16le", "mp2")),
    "flv": (("h264",), ("aac",)),
}
VIDEO = {
    "h264": X264,
    "hevc": X265,
    "mpeg2": MPEG2.partition(" -bf")[0],
    "mpeg4": MPEG4,
    "vp9": VP9,
    "prores": "prores_ks -profile:v 1",
}
REORDERING = ("h264", "hevc", "mpeg2", "mpeg4")
RATES = ("24000/1001", "25", "30000/1001", "50", "24", "30")
BY_MPEG2 = ("24000/1001", "25", "30000/1001", "50")


def _draw(number: int, chance: random.Random) -> Member:
    suffix = chance.choice(list(CONTAINERS))
    codecs, sounds = CONTAINERS[suffix]
    codec, sound = chance.choice(codecs), chance.choice(sounds)
    rate = Fraction(chance.choice(BY_MPEG2 if codec == "mpeg2" else RATES))
    video = VIDEO[codec]
    if codec != "prores":
        video += f" -g {chance.choice((1, 6, 15, 48))}"
    if codec in REORDERING and suffix not in ("avi", "flv"):
        video += f" -bf {chance.choice((0, 1, 2, 3))}"
    late = chance.choice((0, 0, 0.2, -0.2)) if suffix not in ("avi", "flv") else 0
    channels = chance.choice((1, 2))
    more = (
        chance.choice(("", f"-output_ts_offset {chance.choice((2, 900, 50_000))}")) if suffix in ("ts", "mpg") else ""
    )
    if suffix in ("mp4", "mov"):
        more = chance.choice(("", "-movflags faststart", "-movflags frag_keyframe+empty_moov+default_base_moof"))
        sound = "aac" if "frag" in more else sound  # the maker of the files has no other in fragments
    cut = suffix in ("mp4", "mov", "mkv", "ts") and chance.random() < 0.3 and "frag" not in more
    at = chance.choice(("0.21", "0.5", "0.83"))

    def make(maker: Maker, path: Path) -> None:
        whole = path.with_name(f"whole{path.suffix}")
        maker.encode(whole, video, sound, more=more, rate=rate, frames=60, late=late, sound=(48_000, channels))
        if cut:
            maker.copy(whole, path, before=f"-ss {at}")
            whole.unlink()
        else:
            whole.rename(path)

    told = f"{suffix.upper()}, {codec}, {sound.removeprefix('lib')}, {float(rate):.5g} fps"
    details = [video.partition(" -g")[2] and f"group{video.partition(' -g')[2]}", late and f"sound {late:+} s"]
    details += [more, f"cut at {at} s" if cut else ""]
    name = ", ".join([f"{number}: {told}", *(str(one) for one in details if one)])
    return Member(name, GROUP, f"clip.{suffix}", make)


def members() -> list[Member]:
    """As many as `COUNT`."""
    chance = random.Random(SEED)
    return [_draw(number, chance) for number in range(1, COUNT + 1)]
