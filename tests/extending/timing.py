"""How long plates take, and how much memory: `python -m tests.extending.timing LINES` prints seconds and MiB."""

import resource
import subprocess
import sys
import time
from fractions import Fraction

import numpy as np

from cadrage.extend.merging import NO_GRAIN, Merged
from cadrage.extend.plate import make_plate
from cadrage.extend.request import AskedSide, PlateRequest, SceneRequest
from cadrage.extend.scene import Scene
from tests.extending.photographs import sized

DRAFT_LINES = 200


def of_lines(lines: int, *, draft: bool) -> float:
    """Seconds for both sides of an upright picture in a wide frame of so many lines."""
    wide = lines * 9 // 16
    picture = sized("rocket", wide, lines).astype(np.float32)
    nothing = np.zeros(picture.shape[:2], bool)
    merged = Merged(picture, np.full(picture.shape[:2], 9, np.uint8), nothing, NO_GRAIN)
    scene = Scene(merged, 8, np.zeros(0), np.zeros((0, 2, 3)))
    side = AskedSide(way="completed", variant=0, melt=Fraction(3, 10), reach=(lines * 16 // 9 - wide) // 2)
    asked = SceneRequest(start=0, end=1, camera="still", width=wide, height=lines)
    request = PlateRequest(scene=asked, sides={"left": side, "right": side})
    while draft and lines // (request.shrink * 2) >= DRAFT_LINES:
        request = request.draft(request.shrink * 2)
    before = time.perf_counter()
    make_plate(request, scene, lambda *_: None)
    return time.perf_counter() - before


def measured(lines: int, *, draft: bool = False) -> tuple[float, float]:
    """Seconds and MiB at most, in a process of its own."""
    words = [sys.executable, "-m", "tests.extending.timing", str(lines), str(int(draft))]
    answer = subprocess.run(words, capture_output=True, text=True, check=True).stdout.split()
    return float(answer[0]), float(answer[1])


if __name__ == "__main__":
    seconds = of_lines(int(sys.argv[1]), draft=sys.argv[2] == "1")
    print(seconds, resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024)
