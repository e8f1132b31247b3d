"""Black bars in the picture, beside ffmpeg's cropdetect on the same made clips: writes docs/burned-in-bars.md."""

import re
import subprocess
import tempfile
from pathlib import Path

from cadrage.analysis.burned_in_bars import find_bars
from cadrage.footage import probe
from tests.bar_cases import CASES, HEIGHT, WIDTH, Case

TARGET = Path(__file__).resolve().parent.parent / "docs" / "burned-in-bars.md"
HEAD = """# Bars that are part of the picture

Made clips of 640×360, two seconds each, coded as H.264 like a master: photographs that pan behind bars of every shape,
with noise, a logo, subtitles, fades and dark scenes; and clips without bars that might be taken to have some. Sides are
left, right, top, bottom, in pixels. Beside what Cadrage finds stands what ffmpeg's cropdetect (`limit=24`, `round=2`,
`reset=0`) says at the end of the clip. `python -m benchmarks.bars` makes this table;
`tests/core/test_burned_in_bars.py` holds every row of ours to within 1 pixel, 2 with noise.

| clip | true | Cadrage | sure | cropdetect |
|---|---|---|---|---|
"""

Sides = tuple[int, int, int, int]


def ours(path: Path) -> tuple[Sides, int]:
    """What Cadrage finds, and how sure it is in percent."""
    found = find_bars(path, probe(path))
    edges = found.edges
    sides = (int(edges.left), int(edges.right), int(edges.top), int(edges.bottom))
    return (sides if found.kind == "bars" else (0, 0, 0, 0)), found.confidence_percent


def theirs(path: Path) -> Sides:
    """What cropdetect says."""
    command = ["ffmpeg", "-hide_banner", "-i", str(path), "-vf", "cropdetect=limit=24:round=2:reset=0"]
    said = subprocess.run([*command, "-f", "null", "-"], capture_output=True, text=True, check=True).stderr
    crops = re.findall(r"crop=(-?\d+):(-?\d+):(\d+):(\d+)", said)
    if not crops:
        return (0, 0, 0, 0)
    width, height, x, y = (int(part) for part in crops[-1])
    return x, WIDTH - x - width, y, HEIGHT - y - height


def row(case: Case, path: Path) -> tuple[str, bool, bool]:
    """One line of the table, and whether each of the two is right."""
    reach = 2 if case.noise else 1

    def right(found: Sides) -> bool:
        return all(abs(side - wanted) <= reach for side, wanted in zip(found, case.bars, strict=True))

    mine, sure = ours(path)
    other = theirs(path)
    shown = [", ".join(map(str, sides)) for sides in (case.bars, mine, other)]
    marks = [shown[0], shown[1] + ("" if right(mine) else " ✗"), shown[2] + ("" if right(other) else " ✗")]
    return f"| {case.name} | {marks[0]} | {marks[1]} | {sure or ''} | {marks[2]} |", right(mine), right(other)


def main() -> None:
    """Write the table."""
    lines, good = [], [0, 0]
    with tempfile.TemporaryDirectory() as folder:
        for case in CASES:
            line, mine, other = row(case, case.write(Path(folder)))
            lines.append(line)
            good = [good[0] + mine, good[1] + other]
    tail = f"\nRight: Cadrage {good[0]} of {len(CASES)}, cropdetect {good[1]} of {len(CASES)}.\n"
    TARGET.write_text(HEAD + "\n".join(lines) + "\n" + tail)


if __name__ == "__main__":
    main()
