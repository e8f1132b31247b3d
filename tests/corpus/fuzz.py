"""Throw flipped bytes at everything that reads: `python -m tests.corpus.fuzz [--count N] [--seed S]`.

Nothing may end in anything but a result or an error in words, take longer than ten seconds, leave a file, or take more
than a gibibyte and a half.
"""

import argparse
import random
import resource
import shutil
import sys
import tempfile
import time
import traceback
from collections import Counter
from datetime import UTC, datetime
from fractions import Fraction
from pathlib import Path

from PIL import Image

from cadrage.errors import CadrageError
from cadrage.footage import open_footage, probe
from cadrage.formats import Frame
from cadrage.inspection import inspect_file
from cadrage.lettering.captions import read_captions
from cadrage.output import Settings
from cadrage.plan import Plan
from cadrage.render import render
from cadrage.surrounds import Plain
from tests.corpus.drawing import picture
from tests.corpus.making import MPEG2, MPEG4, VP9, X264, X265, Maker
from tests.corpus.pool import Died, done

LONGEST_SECONDS = 10
MOST_MEMORY = int(1.5 * 2**20)  # kibibytes, as getrusage counts
TINY = (64, 48)
SEEDS = (
    ("mp4", X264, "aac"),
    ("mov", "prores_ks", "pcm_s16le"),
    ("mkv", X264 + " -bf 2", "libopus"),
    ("webm", VP9, "libvorbis"),
    ("avi", MPEG4 + " -bf 2", "libmp3lame"),
    ("ts", X264, "aac"),
    ("mpg", MPEG2, "mp2"),
    ("ogv", "libtheora -q:v 7", "libvorbis"),
    ("mxf", MPEG2, "pcm_s16le"),
    ("flv", "flv1 -q:v 3", "libmp3lame -ar 44100"),
    ("hevc", X265, ""),
    ("gif", "gif", ""),
)
CAPTIONS = "1\n00:00:01,000 --> 00:00:02,000\n<i>On</i> rails\n\n2\n00:00:03,000 --> 00:00:04,500\nand off\n\n"


def seeds(folder: Path) -> list[Path]:
    """Small files of every kind that is read."""
    maker, made = Maker(folder), []
    for suffix, video, audio in SEEDS:
        path = folder / f"seed.{suffix}"
        maker.encode(path, video, audio, size=TINY, frames=8)
        made.append(path)
    still = Image.fromarray(picture(5, *TINY))
    for suffix, options in (("png", {}), ("jpg", {}), ("tif", {"compression": "tiff_lzw"})):
        path = folder / f"seed.{suffix}"
        still.save(path, **options)
        made.append(path)
    words = folder / "seed.srt"
    words.write_text(CAPTIONS)
    return [*made, words]


def flipped(data: bytes, chance: random.Random) -> bytes:
    """The same with some bytes changed, a piece left out or put in twice, or the end cut off."""
    found = bytearray(data)
    for _ in range(chance.choice((1, 1, 2, 4, 16, 64))):
        reach = chance.choice((256, 2048, len(found), len(found), len(found)))  # headers matter most
        found[chance.randrange(min(reach, len(found)))] = chance.choice((0, 255, chance.randrange(256)))
    if chance.random() < 0.15:
        at, size = chance.randrange(len(found)), chance.randrange(1, 200)
        found[at : at + size] = b"" if chance.random() < 0.5 else found[at : at + size] * 2
    if chance.random() < 0.1:
        del found[chance.randrange(1, len(found)) :]
    return bytes(found)


def tried(path: Path, folder: Path, *, whole: bool) -> None:
    """Read a file as people would."""
    if path.suffix == ".srt":
        read_captions(path)
        return
    info = probe(path)
    with open_footage(path, info) as reader:
        for share in (Fraction(0), Fraction(1, 2), Fraction(9, 10)):
            reader.frame_at(info.duration * share)
    if whole and info.duration < 60:
        plan = Plan(source=str(path), frame=Frame(width=64, height=48), surround=Plain())
        target = folder / "out.mp4"
        render(plan, path, target, info, settings=Settings(quality="draft"), replace=True)
        inspect_file(target)
        target.unlink()


def _outcome(path: Path, folder: Path, *, whole: bool) -> tuple[str, str]:
    """Whether a file was read, refused in words, or something is wrong; and what."""
    outcome = "read"
    try:
        tried(path, folder, whole=whole)
    except CadrageError:
        outcome = "refused"
    except Exception:  # noqa: BLE001 - told
        return "wrong", traceback.format_exc()[-1500:]
    left = sorted(found.name for found in folder.iterdir() if found != path)
    if left:
        return "wrong", f"left behind: {left}"
    most = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    return ("wrong", f"{most // 1024} MiB of memory") if most > MOST_MEMORY else (outcome, "")


def main() -> int:
    """Run, and print what went wrong, with what it takes to see it again."""
    parser = argparse.ArgumentParser(prog="fuzz", description=__doc__)
    parser.add_argument("--count", type=int, default=2000)
    parser.add_argument("--seed", type=int, default=int(datetime.now(UTC).strftime("%Y%m%d")))
    given = parser.parse_args()
    print(f"{given.count} inputs, seed {given.seed}")
    began, counts = time.monotonic(), Counter[str]()
    with tempfile.TemporaryDirectory(prefix="fuzz-") as place:
        root = Path(place)
        files = seeds(root)

        def one(number: int) -> tuple[str, str]:
            seed, chance = files[number % len(files)], random.Random(given.seed * 1_000_003 + number)
            folder = root / f"run-{number}"
            folder.mkdir()
            path = folder / f"clip{seed.suffix}"
            path.write_bytes(flipped(seed.read_bytes(), chance))
            outcome = _outcome(path, folder, whole=number % 5 == 0)
            shutil.rmtree(folder)
            return outcome

        for number, found in enumerate(done(range(given.count), one, LONGEST_SECONDS)):
            outcome, told = ("wrong", str(found)) if isinstance(found, Died) else found
            counts[outcome] += 1
            if outcome == "wrong":
                print(f"WRONG {number} ({files[number % len(files)].name}): {told}", flush=True)
    print(f"{given.count} inputs in {time.monotonic() - began:.0f} s: {dict(counts)}")
    return 1 if counts["wrong"] else 0


if __name__ == "__main__":
    sys.exit(main())
