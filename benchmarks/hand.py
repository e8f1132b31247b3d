"""How soon the page follows the hand: sliders, drags, steps, and how much a first visit loads."""

import tempfile
import time
from dataclasses import dataclass
from pathlib import Path
from statistics import median

from playwright.sync_api import Page, sync_playwright

from benchmarks.filled import Filled
from tests.chromium import launch

BOARD, BENCH = "/projects/1", "/projects/1/framings/1?step=surround"
PRESSES, DRAG_MS, STEP_MS = 40, 3000, 16
WAITS = (250, 700, 450, 1100, 300, 900, 550, 1300)
"""Milliseconds between presses, so that they meet what is stored and asked meanwhile at all moments."""
CHANGES = """() => {
    window.seen = [];
    const look = () => {
        const image = document.querySelector("[data-testid=composed]");
        if (image && image.src !== window.last && image.complete) {
            window.last = image.src;
            window.seen.push(performance.now());
        }
        requestAnimationFrame(look);
    };
    look();
}"""
PRESS = """() => new Promise((done) => {
    const began = performance.now(), before = window.seen.length;
    const thumb = document.querySelector("[role=slider][aria-label=Blur]");
    thumb.focus();
    thumb.dispatchEvent(new KeyboardEvent("keydown", { key: "ArrowRight", bubbles: true }));
    requestAnimationFrame(function wait() {
        if (window.seen.length > before) return done(window.seen.at(-1) - began);
        if (performance.now() - began > 5000) return done(5000);
        requestAnimationFrame(wait);
    });
})"""
STEP = """(name) => new Promise((done) => {
    const began = performance.now();
    [...document.querySelectorAll("nav[aria-label=Steps] button")].find((one) => one.innerText.includes(name)).click();
    requestAnimationFrame(function wait() {
        const found = document.querySelector(`aside section[aria-label=${name}]`);
        if (found) return requestAnimationFrame(() => done(performance.now() - began));
        requestAnimationFrame(wait);
    });
})"""
SHOWN = """() => {
    const image = document.querySelector("[data-testid=composed]");
    return image && image.complete && performance.now();
}"""
OPEN = """() => new Promise((done) => {
    const began = performance.now(), cell = document.querySelector("[data-cell]");
    cell.dispatchEvent(new PointerEvent("pointerdown", { bubbles: true }));
    cell.click();
    requestAnimationFrame(function wait() {
        if (document.querySelector("[data-testid=composed]")) return done(performance.now() - began);
        requestAnimationFrame(wait);
    });
})"""
SCRIPTS = """() => performance.getEntriesByType("resource")
    .filter(({ initiatorType, name }) => initiatorType === "script" || name.endsWith(".js"))
    .reduce((sum, { encodedBodySize }) => sum + encodedBodySize, 0)"""


@dataclass(frozen=True, slots=True)
class HandFigures:
    """Milliseconds, but for what is said otherwise.

    Attributes:
        slider: from a press of a slider until its picture shows: median and 95th percentile.
        drag: pictures a second while a slider is dragged.
        step: until another step is there, median.
        opens: from a press of a cell of the board until its picture shows on the bench, and from the address of a
            bench, the page's files being kept; medians.
        scripts: kilobytes of script that the first visit loads before the bench.
    """

    slider: tuple[float, float]
    drag: float
    step: float
    opens: tuple[float, float]
    scripts: float


def hand(clip: Path) -> HandFigures:
    """On the bench of an application of its own: a clip over a blurred copy in an upright frame."""
    with (
        tempfile.TemporaryDirectory(prefix="cadrage-hand-") as folder,
        Filled(Path(folder), clip, 1, ((1080, 1920),)) as running,
        sync_playwright() as playwright,
        launch(playwright) as browser,
    ):
        page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=running.address, bypass_csp=True)
        page.goto("/")
        page.get_by_role("heading", name="Projects").wait_for()
        scripts = page.evaluate(SCRIPTS) / 1000
        opened = [_opened(page) for _ in range(5)]
        pressed = [_from_board(page) for _ in range(5)]
        page.goto(BENCH)
        page.get_by_test_id("composed").wait_for()
        page.wait_for_timeout(6000)  # what is found out about the clip is over
        page.evaluate(CHANGES)
        page.wait_for_timeout(500)
        presses = sorted(_press(page, WAITS[number % len(WAITS)]) for number in range(PRESSES))
        drag = _drag(page)
        names = ("Placement", "Movement", "Finish", "Frame", "Surround") * 3
        steps = [page.evaluate(STEP, name) for name in names]
    return HandFigures(
        (median(presses), presses[int(0.95 * len(presses))]),
        drag,
        median(steps),
        (median(pressed), median(opened)),
        scripts,
    )


def _opened(page: Page) -> float:
    page.goto(BENCH, wait_until="commit")
    at: float = page.wait_for_function(SHOWN).json_value()
    return at


def _from_board(page: Page) -> float:
    page.goto(BOARD)
    page.locator("[data-cell]").wait_for()
    page.wait_for_timeout(1500)
    taken: float = page.evaluate(OPEN)
    return taken


def _press(page: Page, then: int) -> float:
    taken: float = page.evaluate(PRESS)
    page.wait_for_timeout(then)
    return taken


def _drag(page: Page) -> float:
    """Pictures a second while a hand goes to and fro on a slider."""
    track = page.get_by_role("slider", name="Blur").locator("xpath=..").bounding_box()
    thumb = page.get_by_role("slider", name="Blur").bounding_box()
    assert track is not None
    assert thumb is not None
    x, y = thumb["x"] + thumb["width"] / 2, thumb["y"] + thumb["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    before = page.evaluate("() => window.seen.length")
    began = time.perf_counter()
    number = 0
    while (passed := (time.perf_counter() - began) * 1000) < DRAG_MS:
        number += 1
        page.mouse.move(x + 30 * (number % 40) / 40, y)
        time.sleep(max(0.0, (number * STEP_MS - passed) / 1000))
    shown: float = (page.evaluate("() => window.seen.length") - before) / (time.perf_counter() - began)
    page.mouse.up()
    return shown
