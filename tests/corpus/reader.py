"""The independent reader: what ffmpeg, the command, decodes of a file."""

import re
import subprocess
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np

from tests.corpus.drawing import clicks_in, number_in

WIDTH, HEIGHT = 112, 64
SOUND_RATE = 48_000
PICTURE = re.compile(r"Parsed_showinfo_0 .*?n: *(\d+) pts: *(\S+) pts_time:(\S+)")
SOUND = re.compile(r"Parsed_ashowinfo_0 .*?pts_time:(\S+) .*?rate:(\d+) nb_samples:(\d+)")
SECONDS = 60


@dataclass
class Read:
    """What it shows.

    Attributes:
        numbers: that the pictures carry, in the order shown; None for one that cannot be read.
        times: of the pictures, in seconds from the first.
        clicks: of the sound, in seconds from the first picture; None where there is no sound.
        errors: what it complained of.
        pictures: luma as it is, (pictures, rows, columns), codes of 8 bits.
    """

    numbers: list[int | None] = field(default_factory=list)
    times: list[float] = field(default_factory=list)
    clicks: list[float] | None = None
    errors: str = ""
    pictures: np.ndarray = field(default_factory=lambda: np.zeros((0, HEIGHT, WIDTH), np.uint8))


def read(path: Path, folder: Path, *, picture: str = "0:V") -> Read:
    """Decode every picture and sample of a file, or a still.

    Args:
        path: the file.
        folder: for what comes out.
        picture: which stream of pictures.
    """
    pictures, sound = folder / "reference.gray", folder / "reference.pcm"
    for one in (pictures, sound):
        one.unlink(missing_ok=True)
    shown = f"showinfo,scale={WIDTH}:{HEIGHT}:flags=area:in_range=full:out_range=full,format=gray"
    command = ["ffmpeg", "-v", "info", "-nostdin", "-noautorotate", "-threads", "1", "-i", f"file:{path}"]
    command += ["-map", picture, "-vsync", "passthrough", "-vf", shown, "-f", "rawvideo", "-y", str(pictures)]
    hear = ["-map", "0:a:0", "-af", f"ashowinfo,aresample={SOUND_RATE},pan=mono|c0=c0"]
    hear += ["-f", "f32le", "-y", str(sound)]
    done = subprocess.run([*command, *hear], capture_output=True, timeout=SECONDS, check=False)
    if b"matches no streams" in done.stderr:
        done = subprocess.run(command, capture_output=True, timeout=SECONDS, check=False)
    told = done.stderr.decode(errors="replace")
    times = [float(one[3]) if one[3] != "NOPTS" else float("nan") for one in PICTURE.finditer(told)]
    data = np.fromfile(pictures, np.uint8) if pictures.exists() else np.zeros(0, np.uint8)
    frames = data[: len(data) // (WIDTH * HEIGHT) * WIDTH * HEIGHT].reshape(-1, HEIGHT, WIDTH)
    numbers = [number_in(one) for one in frames]
    count = min(len(times), len(numbers))
    first = times[0] if times else 0.0
    errors = "\n".join(line for line in told.splitlines() if "rror" in line or "orrupt" in line)[:2000]
    found = Read(numbers[:count], [time - first for time in times[:count]], None, errors, frames[:count])
    if sound.exists() and SOUND.search(told):
        found.clicks = _clicks(np.fromfile(sound, np.float32), told, first)
    return found


def read_sound(path: Path, folder: Path) -> Read:
    """Decode every sample of a file that holds nothing else; times count from its own zero."""
    sound = folder / "reference.pcm"
    command = ["ffmpeg", "-v", "info", "-nostdin", "-i", f"file:{path}", "-map", "0:a:0"]
    command += ["-af", f"ashowinfo,aresample={SOUND_RATE},pan=mono|c0=c0", "-f", "f32le", "-y", str(sound)]
    done = subprocess.run(command, capture_output=True, timeout=SECONDS, check=True)
    return Read(clicks=_clicks(np.fromfile(sound, np.float32), done.stderr.decode(errors="replace"), 0.0))


def _clicks(samples: np.ndarray, told: str, first: float) -> list[float]:
    """Clicks by the time stamps of the pieces that sound came in; pieces of one run are counted on."""
    runs: list[list[float]] = []  # start, seconds
    for one in SOUND.finditer(told):
        start, length = float(one[1]), int(one[3]) / int(one[2])
        if runs and abs(runs[-1][0] + runs[-1][1] - start) < 0.005:
            runs[-1][1] += length
        else:
            runs.append([start, length])
    clicks, at = [], 0
    for start, length in runs:
        count = round(length * SOUND_RATE)
        clicks += [start + time - first for time in clicks_in(samples[at : at + count], SOUND_RATE)]
        at += count
    return clicks
