"""How soon composed pictures move once Play is pressed on the bench."""

import tempfile
from pathlib import Path
from statistics import median

from playwright.sync_api import Page, sync_playwright

from benchmarks.filled import Filled
from benchmarks.runs import REPEATS
from tests.chromium import launch

MOVING = """() => new Promise((moved) => {
    const composed = document.querySelector('[data-testid=composed]');
    const play = [...document.querySelectorAll('footer button')].find((one) => one.innerText.startsWith('Play'));
    let changes = 0;
    const began = performance.now();
    new MutationObserver(() => { if (++changes === 2) moved(performance.now() - began); })
        .observe(composed, { attributes: true, attributeFilter: ['src'] });
    play.click();
})"""


def playing(clip: Path) -> float:
    """Milliseconds from Play until the second composed picture shows: then it plays."""
    with (
        tempfile.TemporaryDirectory(prefix="cadrage-playing-") as folder,
        Filled(Path(folder), clip, 1, ((1080, 1920),)) as running,
        sync_playwright() as playwright,
        launch(playwright) as browser,
    ):
        taken = []
        for _ in range(REPEATS):
            page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=running.address)
            taken.append(_play(page))
            page.close()
        return median(taken)


def _play(page: Page) -> float:
    page.goto("/projects/1/framings/1")
    page.get_by_test_id("composed").wait_for()
    page.wait_for_timeout(2000)
    found: float = page.evaluate(MOVING)
    return found
