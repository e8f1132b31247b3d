"""What everyday jobs take of the hand: clicks, keys, and whether anything had to be scrolled for."""

import re
import tempfile
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

from playwright.sync_api import Locator, Page, expect, sync_playwright

from tests.application import Application
from tests.chromium import launch
from tests.clips import write_clip

POINT, PRESS, KEY = 1.1, 0.2, 0.28
"""Seconds to point at something, to press and let go, and for a key of somebody who types a little: the keystroke-level
model of Card, Moran and Newell (1980), from memory; without the time to think."""
SEEN = """(element) => {
    const { left, top, width, height } = element.getBoundingClientRect();
    const hit = document.elementFromPoint(left + width / 2, top + height / 2);
    return !!hit && (element.contains(hit) || hit.contains(element));
}"""


@dataclass
class Hand:
    """A hand that counts what it does."""

    page: Page
    clicks: int = 0
    keys: int = 0
    scrolls: int = 0
    refused: int = 0

    def press(self, what: Locator) -> None:
        """Click something; where it is out of sight, scroll to it first."""
        self._see(what)
        what.click()
        self.clicks += 1

    def drag(self, what: Locator, across: float, down: float) -> None:
        """Take hold of something and move it by so many pixels."""
        self._see(what)
        box = what.bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + across, y + down, steps=8)
        self.page.mouse.up()
        self.clicks += 1

    def choose(self, what: Locator, value: str) -> None:
        """Choose from a list."""
        self._see(what)
        what.select_option(value)
        self.clicks += 2

    def key(self, *keys: str) -> None:
        """Press keys."""
        for key in keys:
            self.page.keyboard.press(key)
            self.keys += 1

    def _see(self, what: Locator) -> None:
        what.wait_for()
        if not what.evaluate(SEEN):
            what.scroll_into_view_if_needed()
            self.scrolls += 1

    @property
    def seconds(self) -> float:
        """By the keystroke-level model, without thinking."""
        return self.clicks * (POINT + PRESS) + self.keys * KEY


@dataclass(frozen=True, slots=True)
class JobFigures:
    """What one job took of the hand; `refused` orders were answered with a question on another page or an error."""

    name: str
    clicks: int
    keys: int
    scrolls: int
    refused: int
    seconds: float


Job = Callable[[Hand, Locator], None]


def _button(hand: Hand, name: str) -> Locator:
    return hand.page.get_by_role("button", name=name, exact=True)


def _open(hand: Hand, cell: Locator) -> None:
    hand.press(cell)
    hand.page.get_by_test_id("composed").wait_for()


def _render(hand: Hand) -> None:
    hand.press(hand.page.get_by_role("banner").get_by_role("button", name="Render", exact=True))
    _confirm(hand)


def _confirm(hand: Hand) -> None:
    """Render what the sheet shows that opens before rendering."""
    hand.press(hand.page.get_by_role("dialog").get_by_role("button", name="Render 1 file"))
    _ordered(hand)


def _ordered(hand: Hand) -> None:
    if hand.page.get_by_role("alert").count():
        hand.refused += 1
    expect(hand.page.get_by_label("Check", exact=True)).to_be_visible()


def over_blur(hand: Hand, cells: Locator) -> None:
    """An upright clip in a wide frame over a blurred copy, softer and darker than usual."""
    _open(hand, cells.nth(0))
    hand.key("5")
    hand.drag(hand.page.get_by_role("slider", name="Blur"), 20, 0)
    hand.drag(hand.page.get_by_role("slider", name="Brightness"), -20, 0)
    _render(hand)


def cropped(hand: Hand, cells: Locator) -> None:
    """A 4:3 clip that fills a wide frame, its picture moved down a little."""
    _open(hand, cells.nth(1))
    hand.press(_button(hand, "Fill"))
    hand.drag(hand.page.get_by_role("application"), 0, 24)
    _render(hand)


def eight_alike(hand: Hand, cells: Locator) -> None:
    """One look on eight clips, two of them corrected, all rendered."""
    page = hand.page
    hand.press(_button(hand, "Wide"))
    bar = page.get_by_label("Selected cells")
    hand.press(bar.get_by_role("button", name="Treat"))
    hand.press(page.get_by_role("menuitem").first)
    expect(page.get_by_test_id("done")).to_be_visible()
    _open(hand, cells.nth(2))
    for last in (False, True):
        hand.drag(page.get_by_role("application"), 0, 16)
        if not last:
            hand.key("PageDown")
            expect(page.get_by_role("navigation", name="Breadcrumb")).to_contain_text("Clip 4")
    hand.press(page.get_by_role("navigation", name="Breadcrumb").get_by_role("link").first)
    hand.press(bar.get_by_role("button", name=re.compile("^Render")))
    expect(page.get_by_role("heading", name="Renders")).to_be_visible()


def scope(hand: Hand, cells: Locator) -> None:
    """2.39 inside the frame, straightened by its horizon, with a slow pan."""
    page = hand.page
    _open(hand, cells.nth(2))
    hand.key("2")
    hand.choose(page.get_by_label("Active picture", exact=True), "2.39")
    hand.key("3")
    hand.press(_button(hand, "Level to horizon"))
    hand.drag(page.get_by_role("application"), 160, 6)
    hand.key("4")
    hand.choose(page.get_by_label("Move", exact=True), "left_right")
    _asked(hand)


def _asked(hand: Hand) -> None:
    """Order, and choose in the sheet before rendering that the file holds no bars."""
    hand.press(hand.page.get_by_role("banner").get_by_role("button", name="Render", exact=True))
    hand.press(hand.page.get_by_role("dialog").get_by_text("No bars"))
    hand.page.get_by_test_id("notice bars_undecided").wait_for(state="detached")
    _confirm(hand)


def without_bars(hand: Hand, cells: Locator) -> None:
    """A file without bars, of a frame with an active picture inside."""
    page = hand.page
    _open(hand, cells.nth(1))
    hand.key("2")
    hand.choose(page.get_by_label("Active picture", exact=True), "2.39")
    _asked(hand)


JOBS: tuple[tuple[str, Job], ...] = (
    ("upright over a blurred copy, adjusted", over_blur),
    ("4:3 cropped to wide", cropped),
    ("one look on eight clips, two corrected", eight_alike),
    ("2.39 with a slide, straightened", scope),
    ("a file without bars", without_bars),
)


def _clips(folder: Path) -> list[Path]:
    """An upright clip, a 4:3 one, and six wide ones."""
    sizes = [(180, 320), (320, 240), *[(320, 180)] * 6]
    return [
        write_clip(folder / f"Clip {number}.mp4", size=size, frames=20 + number, rate=Fraction(25), sound=None)
        for number, size in enumerate(sizes, 1)
    ]


def jobs() -> list[JobFigures]:
    """Every job on a project of its own, at 1280×800."""
    with tempfile.TemporaryDirectory(prefix="cadrage-jobs-") as name:
        clips = _clips(Path(name))
        with Application(Path(name)) as running, sync_playwright() as playwright, launch(playwright) as browser:
            page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=running.address)
            return [_counted(page, title, job, clips) for title, job in JOBS]


def _counted(page: Page, title: str, job: Job, clips: list[Path]) -> JobFigures:
    page.goto("/")
    page.get_by_label("Project name").fill(title)
    page.get_by_role("button", name="New project").click()
    page.get_by_label("Clips to add").set_input_files(clips)
    cells = page.locator("[data-cell]")
    expect(page.get_by_role("main")).to_contain_text(f"{len(clips)} clips", timeout=60_000)
    page.wait_for_timeout(3000)  # what is found out about the clips is over
    hand = Hand(page)
    job(hand, cells)
    return JobFigures(title, hand.clicks, hand.keys, hand.scrolls, hand.refused, hand.seconds)
