"""Ways of coding that make it hard to begin in the middle, and damage of every kind."""

import random
from collections.abc import Callable
from pathlib import Path

from tests.corpus.making import MPEG2, MPEG4, X264, X265, Maker, Member, encoded

CODING, DAMAGED, CHANGING = "Coding", "Damage", "Changes on the way"
KINDS = (
    ("mp4", X264 + " -g 12 -bf 2", "aac", "-movflags faststart"),
    ("mkv", X264 + " -g 12 -bf 2", "aac", ""),
    ("ts", X264 + " -g 12 -bf 2", "aac", ""),
    ("avi", MPEG4, "libmp3lame", ""),
    ("mpg", MPEG2, "mp2", ""),
)
TS_PACKET = 188


def _of(suffix: str) -> tuple[str, str, str]:
    return next((video, audio, more) for name, video, audio, more in KINDS if name == suffix)


def altered(suffix: str, change: Callable[[bytes], bytes]) -> Callable[[Maker, Path], None]:
    """A member whose bytes are those of a good file, changed."""

    def make(maker: Maker, path: Path) -> None:
        video, audio, more = _of(suffix)
        path.write_bytes(change(maker.source(f"good.{suffix}", video, audio, more=more).read_bytes()))

    return make


def _truncated(share: float) -> Callable[[bytes], bytes]:
    return lambda data: data[: int(len(data) * share)]


def _headless(share: float) -> Callable[[bytes], bytes]:
    return lambda data: data[int(len(data) * share) // TS_PACKET * TS_PACKET :]


def _flipped(count: int, seed: int) -> Callable[[bytes], bytes]:
    def change(data: bytes) -> bytes:
        found, chance = bytearray(data), random.Random(seed)
        for _ in range(count):
            found[chance.randrange(len(data) // 5, len(data) * 9 // 10)] ^= 1 << chance.randrange(8)
        return bytes(found)

    return change


def _lost(every: int, size: int) -> Callable[[bytes], bytes]:
    """Pieces that are missing, as of a broadcast with bad reception."""

    def change(data: bytes) -> bytes:
        pieces = [data[at : at + size] for at in range(0, len(data), size)]
        return b"".join(piece for number, piece in enumerate(pieces) if number < 20 or number % every)

    return change


def _zeroed(data: bytes) -> bytes:
    """A bad place on a drive, read as zeros."""
    found = bytearray(data)
    at = len(found) // 2
    found[at : at + 8192] = bytes(8192)
    return bytes(found)


def _codings() -> list[Member]:
    x264 = X264 + " -g 24 -bf 3"
    table = (
        ("open groups", f"{x264} -x264-params open-gop=1:bframes=3:b-pyramid=none"),
        ("open groups and pyramid", f"{x264} -x264-params open-gop=1:bframes=5:b-pyramid=normal"),
        ("strict pyramid", f"{x264} -x264-params bframes=4:b-pyramid=strict"),
        ("only key pictures", X264 + " -g 1"),
        ("one key picture", X264 + " -g 300"),
        ("refreshed bit by bit", X264 + " -x264-params intra-refresh=1:keyint=20"),
        ("eight slices", X264 + " -slices 8"),
        ("arithmetic coding", "libx264 -preset medium -crf 12"),
    )
    made = []
    for suffix in ("mp4", "mkv", "ts"):
        made += [
            Member(f"{suffix.upper()}: H.264, {name}", CODING, f"clip.{suffix}", encoded(video, "aac"))
            for name, video in table
        ]
        video = f"{X265}:open-gop=1:bframes=4:keyint=20"
        made.append(Member(f"{suffix.upper()}: H.265, open groups", CODING, f"clip.{suffix}", encoded(video, "aac")))
    for suffix in ("ts", "mpg"):
        make = altered(suffix, _headless(0.35))
        made.append(Member(f"{suffix.upper()}: begins in the middle", CODING, f"clip.{suffix}", make, "damaged"))
    return made


def _damages() -> list[Member]:
    made = []
    for suffix, *_ in KINDS:
        for tenth in range(1, 10):
            make = altered(suffix, _truncated(tenth / 10))
            name = f"{suffix.upper()}: cut off at {tenth * 10}%"
            made.append(Member(name, DAMAGED, f"clip.{suffix}", make, "damaged"))
        for count, seed in ((3, 1), (20, 2)):
            make = altered(suffix, _flipped(count, seed))
            name = f"{suffix.upper()}: {count} bits flipped"
            made.append(Member(name, DAMAGED, f"clip.{suffix}", make, "damaged"))
        made.append(
            Member(f"{suffix.upper()}: a bad place", DAMAGED, f"clip.{suffix}", altered(suffix, _zeroed), "damaged")
        )
    for every in (40, 150):
        make = altered("ts", _lost(every, TS_PACKET))
        made.append(Member(f"TS: every {every}th packet lost", DAMAGED, "clip.ts", make, "damaged"))
    made.append(Member("MPG: pieces lost", DAMAGED, "clip.mpg", altered("mpg", _lost(60, 2048)), "damaged"))
    return made


def _following(
    first: tuple[str, dict[str, object]], second: tuple[str, dict[str, object]]
) -> Callable[[Maker, Path], None]:
    """Two streams one behind the other in one transport stream, as at the border of two programmes."""

    def make(maker: Maker, path: Path) -> None:
        parts = []
        for number, (video, options) in enumerate((first, second)):
            part = path.with_name(f"part{number}.ts")
            maker.encode(part, video, "mp2", more=f"-output_ts_offset {2 * number}", **options)  # type: ignore[arg-type]
            parts.append(part.read_bytes())
            part.unlink()
        path.write_bytes(b"".join(parts))

    return make


def _changes() -> list[Member]:
    plain: tuple[str, dict[str, object]] = (MPEG2, {})
    same_shape: tuple[str, dict[str, object]] = (MPEG2, {"size": (384, 216)})
    other_shape: tuple[str, dict[str, object]] = (MPEG2, {"size": (192, 144)})
    return [
        Member("TS: size changes, shape stays", CHANGING, "clip.ts", _following(plain, same_shape), "damaged"),
        Member("TS: size and shape change", CHANGING, "clip.ts", _following(plain, other_shape), "either"),
        Member(
            "TS: chroma changes", CHANGING, "clip.ts", _following(plain, (f"{MPEG2} -pix_fmt yuv422p", {})), "damaged"
        ),
        Member(
            "TS: pixel shape changes",
            CHANGING,
            "clip.ts",
            _following(plain, (f"{MPEG2} -vf setsar=4/3", {})),
            "damaged",
        ),
        Member(
            *("TS: rate of sound changes", CHANGING, "clip.ts"),
            _following(plain, (MPEG2, {"sound": (32_000, 2)})),
            "damaged",
            sound=False,
        ),
        Member(
            *("TS: channels of sound change", CHANGING, "clip.ts"),
            _following(plain, (MPEG2, {"sound": (48_000, 1)})),
            "damaged",
            sound=False,
        ),
    ]


def members() -> list[Member]:
    """All of these."""
    return [*_codings(), *_damages(), *_changes()]
