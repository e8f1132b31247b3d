"""How soon a large board is usable, and whether rows stay blank while it is scrolled: 60 clips into 4 frames."""

import tempfile
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from statistics import median

from playwright.sync_api import Browser, Page, sync_playwright

from benchmarks.filled import Filled
from benchmarks.runs import REPEATS
from tests.application import Application
from tests.chromium import launch
from tests.clips import write_clip

CLIPS, STEP, PAUSE_MS = 60, 400, 120
FRAMES = ((1920, 1080), (1080, 1920), (1080, 1080), (1440, 1080))
BLANK = """() => [...document.querySelectorAll('tbody tr')].filter((row) => {
    const box = row.getBoundingClientRect();
    return box.bottom > 0 && box.top < innerHeight && !row.children.length;
}).length + [...document.querySelectorAll('img')].filter((image) => {
    const box = image.getBoundingClientRect();
    return box.bottom > 0 && box.top < innerHeight && !(image.complete && image.naturalWidth);
}).length"""


@dataclass(frozen=True, slots=True)
class BoardFigures:
    """Milliseconds.

    Attributes:
        usable: from opening the address until every row is there and every cell in sight is drawn.
        blank: the longest that any cell in sight stayed blank while scrolling to the end.
    """

    usable: float
    blank: float


def board() -> BoardFigures:
    """Open it once so that thumbnails are made, then measure, each time with a fresh browser cache."""
    with tempfile.TemporaryDirectory(prefix="cadrage-board-") as name:
        folder = Path(name)
        clip = write_clip(folder / "source.mp4", size=(640, 360), frames=50, rate=Fraction(25), sound=None)
        return _measured(folder, clip)


def _measured(folder: Path, clip: Path) -> BoardFigures:
    with (
        Filled(folder, clip, CLIPS, FRAMES) as running,
        sync_playwright() as playwright,
        launch(playwright) as browser,
    ):
        first = _fresh(browser, running)
        _open(first)
        _scroll(first)
        pages = [_fresh(browser, running) for _ in range(REPEATS)]
        usable = median([_open(page) for page in pages])
        return BoardFigures(usable, _scroll(pages[0]))


def _fresh(browser: Browser, running: Application) -> Page:
    return browser.new_context(viewport={"width": 1280, "height": 800}, base_url=running.address).new_page()


def _open(page: Page) -> float:
    """Milliseconds until it can be used."""
    page.goto("/projects/1", wait_until="commit")
    page.wait_for_function(f"document.querySelectorAll('tbody tr').length === {CLIPS}")
    page.wait_for_function(f"({BLANK})() === 0", timeout=120_000)
    taken: float = page.evaluate("performance.now()")
    return taken


def _scroll(page: Page) -> float:
    """Scroll to the end; milliseconds of the longest blank."""
    longest = 0.0
    while not page.evaluate("scrollY + innerHeight >= document.documentElement.scrollHeight - 2"):
        page.mouse.wheel(0, STEP)
        began: float = page.evaluate("performance.now()")
        page.wait_for_timeout(PAUSE_MS / 4)
        page.wait_for_function(f"({BLANK})() === 0", timeout=120_000)
        longest = max(longest, page.evaluate("performance.now()") - began)
    return longest
