"""A board of 300 clips in 5 frames: how soon it is there, how soon a column is placed, whether it scrolls evenly."""

import tempfile
import time
from dataclasses import dataclass
from pathlib import Path
from statistics import median

from playwright.sync_api import Page, sync_playwright

from benchmarks.filled import Filled
from tests.chromium import launch
from tests.clips import write_clip

CLIPS, OPENED = 300, 3
FRAMES = ((1920, 1080), (1080, 1920), (1080, 1080), (1080, 1350), (1440, 1080))
FIRST = """() => {
    const image = document.querySelector("[data-cell] img");
    return image && image.complete && image.naturalWidth && performance.now();
}"""
SCROLLED = """() => new Promise((done) => {
    const gaps = [], end = document.documentElement.scrollHeight - innerHeight;
    let last = performance.now(), y = 0;
    requestAnimationFrame(function step(now) {
        gaps.push(now - last);
        last = now;
        scrollTo(0, (y += 120));
        if (y < end) return requestAnimationFrame(step);
        gaps.sort((one, other) => one - other);
        done([gaps[Math.floor(gaps.length * 0.95)], gaps.at(-1)]);
    });
})"""


@dataclass(frozen=True, slots=True)
class LargeFigures:
    """Milliseconds.

    Attributes:
        first: from the address until the first cell shows its picture, the page's files being kept, median.
        column: from a choice until all cells of a column are placed and shown so.
        gaps: between two pictures while it is scrolled to the end: 95th percentile and longest.
    """

    first: float
    column: float
    gaps: tuple[float, float]


def large_board() -> LargeFigures:
    """In a browser without a screen, on the same cores as the server."""
    with tempfile.TemporaryDirectory(prefix="cadrage-large-") as name:
        clip = write_clip(Path(name) / "small.mp4", frames=25)
        with (
            Filled(Path(name), clip, CLIPS, FRAMES) as running,
            sync_playwright() as playwright,
            launch(playwright) as browser,
        ):
            page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=running.address, bypass_csp=True)
            page.goto("/projects/1")
            page.locator("[data-cell]").first.wait_for(timeout=60_000)
            page.wait_for_timeout(8000)
            first = median([_opened(page) for _ in range(OPENED)])
            page.evaluate(SCROLLED)  # once, so that thumbnails are made
            page.evaluate("scrollTo(0, 0)")
            page.wait_for_timeout(3000)
            usual, longest = page.evaluate(SCROLLED)
            page.evaluate("scrollTo(0, 0)")
            page.wait_for_timeout(2000)
            return LargeFigures(first, _placed(page), (usual, longest))


def _opened(page: Page) -> float:
    page.goto("/projects/1", wait_until="commit")
    at: float = page.wait_for_function(FIRST).json_value()
    page.wait_for_timeout(5000)
    return at


def _placed(page: Page) -> float:
    page.locator("thead button.font-bold").nth(1).click()
    page.get_by_text(f"{CLIPS} cells selected").wait_for()
    page.get_by_label("Selected cells").get_by_role("button", name="Placement").click()
    began = time.perf_counter()
    page.get_by_role("menuitem", name="Half fill").click()
    page.get_by_role("status").filter(has_text=f"Placed {CLIPS}").wait_for()
    return (time.perf_counter() - began) * 1000
