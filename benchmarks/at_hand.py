"""`python -m benchmarks.at_hand`: measures how the page follows the hand, and writes docs/hand.md."""

import tempfile
from pathlib import Path

from benchmarks.hand import HandFigures, hand
from benchmarks.jobs import JobFigures, jobs
from benchmarks.large_board import LargeFigures, large_board
from benchmarks.plan import make_clip

PAGE = Path(__file__).resolve().parent.parent / "docs" / "hand.md"


def main() -> None:
    """Measure and write."""
    with tempfile.TemporaryDirectory(prefix="cadrage-hand-") as name:
        figures = hand(make_clip(Path(name) / "ten.mp4", 10))
    text = page(figures, large_board(), jobs())
    PAGE.write_text(text)
    print(text)


def page(hands: HandFigures, large: LargeFigures, counted: list[JobFigures]) -> str:
    """The tables of the page and the hand."""
    rows = "\n".join(
        f"| {job.name} | {job.clicks} | {job.keys} | {job.scrolls} | {job.refused} | {job.seconds:.0f} s |"
        for job in counted
    )
    return f"""# The page and the hand

Written by `make hand`, in a browser without a screen and without a graphics processor, on the same cores as the server.
See [page.md](page.md) for how the page is made.

## How soon it follows

On the bench: a 1080p clip over a blurred copy of itself in 1080×1920. While a slider is dragged pictures are made
smaller; full size follows once it rests.

| what | measured | aim |
|---|---|---|
| press of a slider to its picture, median | {hands.slider[0]:.0f} ms | ≤ 100 ms |
| the same, 95th percentile | {hands.slider[1]:.0f} ms | ≤ 200 ms |
| pictures a second while a slider is dragged | {hands.drag:.1f} | ≥ 10 |
| to another step | {hands.step:.0f} ms | ≤ 150 ms |
| from a press of a cell on the board to its picture on the bench | {hands.opens[0]:.0f} ms | ≤ 600 ms |
| from the address of a bench to its picture, the page's files being kept | {hands.opens[1]:.0f} ms | ≤ 600 ms |
| script that the first visit loads | {hands.scripts:.0f} kB | ≤ 250 kB |

On a board of 300 clips in 5 frames:

| what | measured | aim |
|---|---|---|
| from its address to the picture of the first cell | {large.first:.0f} ms | ≤ 1500 ms |
| from a choice to a column of 300 cells that is placed and shown so | {large.column:.0f} ms | ≤ 3000 ms |
| between two pictures while scrolling to the end, 95th percentile | {large.gaps[0]:.0f} ms | |
| the longest of those | {large.gaps[1]:.0f} ms | ≤ 100 ms |

## What everyday jobs take

At 1280×800, as a mouse and a few keys do them. Seconds are those of the keystroke-level model (Card, Moran and Newell,
1980, from memory: 1.1 to point, 0.2 to press, 0.28 a key), without the time to think. An order is refused where it is
answered by an error, or on another page. The whole job from no project to a measured file about to be saved, by the
keyboard alone, is held to at most 60 keys by a test (35 at present).

| job | clicks | keys | scrolled for something | refused orders | hand time |
|---|---|---|---|---|---|
{rows}
"""


if __name__ == "__main__":
    main()
