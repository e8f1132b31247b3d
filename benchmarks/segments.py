"""Renders in parts: what cutting costs, what a second worker brings, and how fast a queue goes."""

import shutil
import sys
import time
from dataclasses import dataclass
from pathlib import Path

from benchmarks.runs import whole
from cadrage.footage import probe

FRAMES = ("1080x1920", "1920x1080", "1440x1080")
CLIPS = 4


@dataclass(frozen=True, slots=True)
class SegmentFigures:
    """Ratios, and frames a second.

    Attributes:
        overhead, waiting: processor and waiting time in parts over in one go, by one worker.
        two_workers: waiting time of two workers in parts over one process in one go.
        queue: of twelve framings by two workers, inspection and sheet included.
        parts: how many parts there were.
    """

    overhead: float
    waiting: float
    two_workers: float
    queue: float
    parts: int


def segments(sixty: Path, five: Path, folder: Path) -> SegmentFigures:
    """Measure: 60 s in one go, in parts, in parts by two; and four clips of 5 s into three frames."""
    own = [sys.executable, "-m", "benchmarks.work"]
    once = whole([*own, "render", str(sixty), str(folder / "once.mp4")])
    alone = whole([*own, "parts", str(sixty), str(folder / "alone.mp4"), "1"])
    two = whole([*own, "parts", str(sixty), str(folder / "two.mp4"), "2"])
    return SegmentFigures(
        overhead=alone["cpu"] / once["cpu"],
        waiting=alone["wall"] / once["wall"],
        two_workers=two["wall"] / once["wall"],
        queue=_queue(five, folder),
        parts=round(float(probe(sixty).duration) / 8),
    )


def _queue(five: Path, folder: Path) -> float:
    clips, out = folder / "clips", folder / "out"
    clips.mkdir()
    for number in range(CLIPS):
        shutil.copyfile(five, clips / f"clip {number}.mp4")
    frames = [part for frame in FRAMES for part in ("--frame", frame)]
    began = time.perf_counter()
    whole([sys.executable, "-m", "cadrage", "batch", str(clips), "--out", str(out), *frames, "--workers", "2"])
    return CLIPS * len(FRAMES) * probe(five).frames / (time.perf_counter() - began)
