"""`make screenshots`: one current picture of each main view, from the demonstration data."""

import tempfile
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from tests.application import Application
from tests.chromium import launch

FOLDER = Path(__file__).resolve().parent / "screenshots"
SIZE = {"width": 1280, "height": 800}


class Demonstration(Application):
    """The application with the demonstration project in it."""

    def prepare(self) -> None:
        """Draw and load, which takes half a minute."""
        self.manage("demo")


def main() -> None:
    """Make every picture."""
    FOLDER.mkdir(exist_ok=True)
    with (
        tempfile.TemporaryDirectory(prefix="cadrage-shots-") as folder,
        Demonstration(Path(folder)) as running,
        sync_playwright() as playwright,
        launch(playwright) as browser,
    ):
        take_all(browser.new_page(viewport=SIZE, base_url=running.address))


def take_all(page: Page) -> None:
    """Walk through the job, taking a picture at each view."""
    page.goto("/")
    page.get_by_text("Centenary wall").click()
    page.locator("td a").nth(8).wait_for()
    take(page, "board", 2500)
    page.get_by_role("button", name="Add frame").click()
    take(page, "add-frame", 600)
    page.keyboard.press("Escape")
    page.locator("td a").first.click()
    open_step(page, "Surround")
    take(page, "bench-surround", 1500)
    show_tape(page)
    page.locator("td a").first.click()
    open_step(page, "Placement")
    page.get_by_role("button", name="Fill").click()
    take(page, "bench-placement", 2000)
    page.keyboard.press("Control+z")
    page.get_by_role("banner").get_by_role("button", name="Render").click()
    page.get_by_text("checked, right").wait_for(timeout=120_000)
    take(page, "bench-check", 1500)
    page.goto(page.url.split("/framings")[0])
    page.locator("td a").nth(4).click()
    page.get_by_role("banner").get_by_role("button", name="Render").click()
    page.get_by_role("link", name="Renders").click()
    page.get_by_text("frames/s").wait_for(timeout=60_000)
    take(page, "renders", 300)
    page.get_by_role("button", name="Cancel").click()


def show_tape(page: Page) -> None:
    """The tape's pixel shapes, and the wide frame with an active picture; then back to the board."""
    board = page.url.split("/framings")[0]
    page.goto(board)
    page.locator("td a").nth(3).click()
    open_step(page, "Source")
    take(page, "bench-source", 1500)
    open_step(page, "Frame")
    page.get_by_label("Active picture", exact=True).select_option("2.39")
    take(page, "bench-frame", 2000)
    page.get_by_label("Active picture", exact=True).select_option("")
    page.wait_for_timeout(500)
    page.goto(board)


def open_step(page: Page, name: str) -> None:
    """Go to a step of the bench."""
    page.get_by_role("navigation", name="Steps").get_by_text(name, exact=True).click()


def take(page: Page, name: str, wait: int) -> None:
    """Take a picture once the page has come to rest."""
    page.wait_for_timeout(wait)
    page.screenshot(path=FOLDER / f"{name}.png")


if __name__ == "__main__":
    main()
