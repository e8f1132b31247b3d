"""Measure following on made clips: `python -m tests.following [--page PATH]`. Takes some minutes."""

import argparse
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from tempfile import TemporaryDirectory

import cv2
import numpy as np

from cadrage.motion.follow import Follow, Pace
from tests.following.boxes import FOLLOWED, BoxFigures, boxed
from tests.following.cases import CASES
from tests.following.faces import SIZES, at_size, invented, photographed
from tests.following.measuring import Figures, compared, looked_at

PACES: tuple[Pace, ...] = ("calm", "medium", "quick")
BEGIN, END = "<!-- measured -->", "<!-- /measured -->"
FEWEST = 10
"""Seconds that a class of confidence is to have before it tells anything."""


def of_case(number: int) -> tuple[dict[str, Figures], BoxFigures | None]:
    """One case at every pace, from one look at it; and a box in it."""
    cv2.setNumThreads(1)
    case = CASES[number]
    with TemporaryDirectory() as folder:
        info, seen = looked_at(case.write(Path(folder)), Path(folder) / "analyses")
        found = {pace: compared(case, info, seen, Follow(pace=pace)) for pace in PACES}
        return found, boxed(case, info, seen) if case.name in FOLLOWED else None


def classes(seconds: list[tuple[float, float]]) -> Iterator[tuple[float, int, float, float]]:
    """Of each tenth of confidence: where it begins, seconds, how sure it was on average, and how often it was right."""
    values = np.array(seconds)
    for low in range(10):
        inside = values[(values[:, 0] * 10 >= low) & (values[:, 0] * 10 < low + 1 + (low == 9))]
        if len(inside):
            yield low / 10, len(inside), float(inside[:, 0].mean()), float(inside[:, 1].mean())


def report() -> Iterator[str]:
    """All figures, line by line."""
    with ProcessPoolExecutor() as pool:
        results = list(pool.map(of_case, range(len(CASES))))
    plain = [found for (found, _), case in zip(results, CASES, strict=True) if not case.hard]
    yield "| clip, at medium | inside | off | at worst | still | jerk | of an average | reversals |"
    yield "|---|---|---|---|---|---|---|---|"
    for found in plain:
        one = found["medium"]
        yield (
            f"| {one.name} | {one.inside:.1%} | {one.error:.1%} | {one.worst:.0%} | {one.still:.0%} "
            f"| {one.jerk:.2f} | {one.average_jerk:.1f} | {one.reversals:.1f} |"
        )
    yield ""
    yield "| pace | inside, mean | inside, least | off, mean | still | jerk, of an average one | reversals a minute |"
    yield "|---|---|---|---|---|---|---|"
    for pace in PACES:
        rows = [found[pace] for found in plain]
        ratio = max(row.jerk / row.average_jerk for row in rows)
        yield (
            f"| {pace} | {np.mean([row.inside for row in rows]):.2%} | {min(row.inside for row in rows):.1%} "
            f"| {np.mean([row.error for row in rows]):.1%} | {np.mean([row.still for row in rows]):.0%} "
            f"| at most 1/{1 / max(ratio, 1e-9):.0f} | {np.mean([row.reversals for row in rows]):.1f} |"
        )
    yield ""
    yield "| confidence | seconds | said | right |"
    yield "|---|---|---|---|"
    for low, count, said, right in classes([one for found, _ in results for row in found.values() for one in row.sure]):
        yield f"| {low:.1f} to {low + 0.1:.1f} | {count} | {said:.2f} | {right:.2f} |"
    yield ""
    yield "| a box in | found | off by, of the picture's width | pictures of a ghost |"
    yield "|---|---|---|---|"
    for box in (box for _, box in results if box is not None):
        yield f"| {box.name} | {box.found:.0%} | {box.drift:.2%} | {box.ghost:.0f} |"
    yield ""
    yield "| faces of | drawn into places: found | of what is found, faces | photographs of faces: found |"
    yield "|---|---|---|---|"
    for size in SIZES:
        face, (found_ones, of) = at_size(size), photographed(size)
        yield f"| {size} px | {face.recall:.0%} | {face.precision:.0%} | {found_ones} of {of} |"
    without = invented()
    yield ""
    yield f"In {len(without)} photographs without a face, {sum(without.values())} are seen."


def main() -> None:
    """Print all figures, and put them into a page."""
    parser = argparse.ArgumentParser(prog="python -m tests.following")
    parser.add_argument("--page", type=Path, help="the page to put the figures into")
    given = parser.parse_args()
    lines = list(report())
    print("\n".join(lines))
    if given.page:
        before, _, rest = given.page.read_text().partition(BEGIN)
        _, _, after = rest.partition(END)
        given.page.write_text(f"{before}{BEGIN}\n\n" + "\n".join(lines) + f"\n\n{END}{after}")


if __name__ == "__main__":
    main()
