"""Repeating pieces of work in processes of their own, and taking medians."""

import json
import os
import shlex
import subprocess
import sys
from pathlib import Path
from statistics import median

from benchmarks.plan import FFMPEG_FILTER
from cadrage.output.kinds import X264

REPEATS = 3


def once(*arguments: str | Path) -> dict[str, float]:
    """One run of `benchmarks.work`."""
    command = [sys.executable, "-m", "benchmarks.work", *map(str, arguments)]
    done = subprocess.run(command, capture_output=True, check=True, text=True)
    taken: dict[str, float] = json.loads(done.stdout)
    return taken


def whole(command: list[str]) -> dict[str, float]:
    """A command as a whole process: what the operating system counted for it."""
    before = os.times()
    subprocess.run(command, capture_output=True, check=True)
    after = os.times()
    cpu = after.children_user + after.children_system - before.children_user - before.children_system
    return {"cpu": cpu, "wall": after.elapsed - before.elapsed}


def medians(runs: list[dict[str, float]]) -> dict[str, float]:
    """The median of each figure."""
    return {name: median(run[name] for run in runs) for name in runs[0]}


def ffmpeg_command(source: Path, target: Path) -> list[str]:
    """The same framing by ffmpeg's own filters, with the same encoder settings."""
    settings = f"-c:v libx264 -preset {X264['high']['preset']} -crf {X264['high']['crf']} -pix_fmt yuv420p -c:a copy"
    return [
        *shlex.split(f"ffmpeg -y -v error -i {shlex.quote(str(source))} -filter_complex"),
        FFMPEG_FILTER,
        *shlex.split(f"{settings} -movflags +faststart {shlex.quote(str(target))}"),
    ]


def rendering(ten: Path, folder: Path) -> dict[str, dict[str, float]]:
    """The render, what it stands on, and the same by filters; in turn, so that all meet the same machine."""
    raw = folder / "composed.yuv"
    once("dump", ten, raw)
    found: dict[str, list[dict[str, float]]] = {"render": [], "decode": [], "encode": [], "process": [], "ffmpeg": []}
    own = [sys.executable, "-m", "benchmarks.work", "render", str(ten), str(folder / "own.mp4")]
    for _ in range(REPEATS):
        found["render"].append(once("render", ten, folder / "own.mp4"))
        found["decode"].append(once("decode", ten))
        found["encode"].append(once("encode", ten, raw, folder / "floor.mp4"))
        found["process"].append(whole(own))
        found["ffmpeg"].append(whole(ffmpeg_command(ten, folder / "filters.mp4")))
    raw.unlink()
    return {name: medians(runs) for name, runs in found.items()}
