"""`make screenshots`: one current picture of each main view, from the demonstration data."""

import re
import tempfile
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from tests.application import Application
from tests.chromium import launch

FOLDER = Path(__file__).resolve().parent / "screenshots"
SIZE = {"width": 1280, "height": 800}
SHEET_WIDTH = 1280
DEPOT, POINTS, CROSSING, STREET, RELAY, VISITORS, CENTENARY, PORTRAIT, FACADE, YARD, GATE, ROW, WAITING = range(13)
# Buttons of a render, while it is queued or running and when it is done.
RENDERING = re.compile("Cancel|Download")


STRIP_IS_THERE = """() => !document.querySelector("[data-testid=track]")
    || [...document.querySelectorAll("[data-testid=track] img")].some((one) => one.naturalWidth > 0)"""

PEOPLE = """
from django.contrib.auth.models import User
from server.studio.models import Allowance, Member, Project
User.objects.filter(username="museum").update(is_staff=True)
for name, gigabytes in (("archive desk", 200), ("front desk", None)):
    Allowance.objects.create(person=User.objects.create(username=name), gigabytes=gigabytes)
Member.objects.create(project=Project.objects.get(), person=User.objects.get(username="archive desk"), role="work")
"""


class Demonstration(Application):
    """The application with the demonstration project in it."""

    def prepare(self) -> None:
        """Draw and load, which takes a while."""
        self.manage("migrate", "--verbosity", "0")
        self.manage("demo")
        self.manage("shell", "--verbosity", "0", "-c", PEOPLE)


def main() -> None:
    """Make every picture."""
    FOLDER.mkdir(exist_ok=True)
    with (
        tempfile.TemporaryDirectory(prefix="cadrage-shots-") as folder,
        Demonstration(Path(folder), CADRAGE_PROXY="127.0.0.1") as running,
        sync_playwright() as playwright,
        launch(playwright) as browser,
    ):
        page = browser.new_page(viewport=SIZE, base_url=running.address, bypass_csp=True)
        page.goto("/")
        page.get_by_text("Centenary wall").click()
        page.get_by_text("black bars, top 138, bottom 138").wait_for(timeout=120_000)
        page.wait_for_function("!document.body.innerText.includes('Looking for bars')", timeout=120_000)
        page.wait_for_timeout(4000)
        for views in (
            of_the_board,
            of_sources,
            of_frames,
            of_placements,
            of_extending,
            of_movement,
            of_results,
            of_people,
        ):
            views(page, page.url)


def of_the_board(page: Page, board: str) -> None:
    """The board, many cells at once, formats."""
    take(page, "board", 1500)
    page.get_by_role("button", name="Totem", exact=True).click()
    page.get_by_role("button", name=re.compile("^Placement")).click()
    page.get_by_role("menuitem", name="Half fill").click()
    page.get_by_test_id("done").wait_for()
    take(page, "board-selection", 5000)
    page.get_by_test_id("done").get_by_role("button", name="Undo").click()
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Select none").click()
    page.goto("/formats")
    page.get_by_label("Square", exact=True).check()
    page.get_by_label("Ultrawide 1080").check()
    page.evaluate("scrollTo(0, 0)")
    take(page, "formats", 800)
    page.goto(board)


def of_sources(page: Page, board: str) -> None:
    """A tape's pixel shapes; a master with bars in its picture."""
    open_cell(page, POINTS)
    open_step(page, "Source")
    take(page, "bench-source", 2000)
    page.goto(board)
    open_cell(page, CENTENARY)
    open_step(page, "Source")
    page.get_by_role("button", name="Crop bars").click()
    take(page, "bench-bars", 2000)
    page.goto(board)


def of_frames(page: Page, board: str) -> None:
    """An active picture and guides."""
    open_cell(page, STREET)
    open_step(page, "Frame")
    active = page.get_by_label("Active picture", exact=True)
    active.select_option("2.39")
    page.get_by_label("Frame", exact=True).get_by_text("Guides", exact=True).click()
    for name in ("Title safe 90%, SMPTE ST 2046-1", "Thirds"):
        page.get_by_label(name).check()
    active.scroll_into_view_if_needed()
    take(page, "bench-frame", 2500)
    for name in ("Title safe 90%, SMPTE ST 2046-1", "Thirds"):
        page.get_by_label(name).uncheck()
    open_step(page, "File")
    page.get_by_label("Settings", exact=True).select_option("Wide HD upload")
    page.get_by_text("No bars", exact=True).click()
    page.get_by_label("Name of the settings").scroll_into_view_if_needed()
    take(page, "bench-file", 4000)
    page.get_by_label("Settings", exact=True).select_option("Upright short upload")
    open_step(page, "Frame")
    active.select_option("")
    page.wait_for_timeout(800)
    page.goto(board)


def of_placements(page: Page, board: str) -> None:
    """A surround, what filling loses, and the same on the source."""
    open_cell(page, DEPOT)
    open_step(page, "Surround")
    take(page, "bench-surround", 6000)
    open_step(page, "Finish")
    page.locator("summary").filter(has_text="Titles").click()
    page.get_by_role("button", name="Add a title").click()
    page.get_by_label("Words").fill("Brackwater, 1926")
    page.get_by_label("Words").blur()
    page.get_by_text("Drag it in the picture").scroll_into_view_if_needed()
    take(page, "bench-finish", 3500)
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    page.get_by_role("navigation", name="Steps").get_by_text("a title").wait_for(state="hidden")
    page.get_by_role("link", name="Line-up").click()
    take(page, "lineup", 4000)
    page.get_by_role("button", name="Back to the bench").click()
    open_step(page, "Placement")
    page.get_by_role("button", name="Fill", exact=True).click()
    take(page, "bench-placement", 2500)
    page.keyboard.press("Control+z")
    page.get_by_role("navigation", name="Steps").get_by_text("whole picture").wait_for()
    page.wait_for_timeout(500)
    page.goto(board)


def of_extending(page: Page, board: str) -> None:
    """An extended scene, with the options for its left side."""
    open_cell(page, YARD)
    open_step(page, "Surround")
    left = page.get_by_role("region", name="Left side")
    left.get_by_text("the camera stands and nobody crosses").wait_for(timeout=120_000)
    ways = left.get_by_role("button", name=re.compile("^left, way"))
    for number in range(4):
        ways.nth(number).locator("img").wait_for(timeout=120_000)
    page.get_by_text("Making it at full size").wait_for(state="hidden", timeout=120_000)
    page.get_by_role("region", name="Extending").scroll_into_view_if_needed()
    ways.nth(3).scroll_into_view_if_needed()
    take(page, "bench-extending", 3000)
    page.goto(board)


def of_movement(page: Page, board: str) -> None:
    """A shot of an edited clip that moves by keys; a window that follows; a finished frame, playing."""
    open_cell(page, PORTRAIT, 1)
    open_step(page, "Movement")
    page.get_by_role("button", name="Shot 4", exact=True).click()
    page.get_by_role("group", name="View").get_by_role("button", name="Source").click()
    page.get_by_test_id("path").wait_for()
    take(page, "bench-movement", 2500)
    page.goto(board)
    open_cell(page, CROSSING, 1)
    open_step(page, "Movement")
    page.get_by_role("region", name="Choose a subject").wait_for(timeout=120_000)
    page.get_by_role("group", name="View").get_by_role("button", name="Source").click()
    page.get_by_test_id("dimmed").wait_for()
    take(page, "bench-following", 2500)
    page.get_by_role("group", name="View").get_by_role("button", name="Frame").click()
    page.get_by_test_id("composed").wait_for()
    page.wait_for_timeout(2000)
    page.keyboard.press("Home")
    page.keyboard.press("l")
    page.wait_for_function("(document.querySelector('[data-testid=played] video')?.currentTime ?? 0) > 2")
    take(page, "bench-playing", 0)
    page.keyboard.press("k")
    page.goto(board)


def of_results(page: Page, board: str) -> None:
    """A finished file beside its report, and running renders."""
    open_cell(page, DEPOT)
    render(page)
    page.get_by_text("check passed").wait_for(timeout=120_000)
    take(page, "bench-check", 1500)
    for clip, frame in ((CROSSING, 1), (STREET, 0), (VISITORS, 2)):
        page.goto(board)
        open_cell(page, clip, frame)
        render(page)
        page.get_by_role("button", name=RENDERING).first.wait_for()
    page.get_by_role("link", name="Renders").click()
    page.get_by_text("frames/s").first.wait_for(timeout=60_000)
    page.locator("main li").nth(3).wait_for()
    take(page, "renders", 500)
    page.get_by_role("button", name="Cancel all").click()


def of_people(page: Page, board: str) -> None:
    """A project opened by a share link, and the administration page."""
    page.goto(board.partition("/renders")[0])
    page.get_by_role("button", name="Share").click()
    page.get_by_role("button", name="Make a link").click()
    address = page.get_by_label("Link", exact=True).input_value()
    browser = page.context.browser
    assert browser is not None
    elsewhere = browser.new_context(viewport=SIZE, extra_http_headers={"X-Forwarded-For": "192.0.2.9"})
    shown = elsewhere.new_page()
    shown.goto(address)
    shown.get_by_text("Select a picture to see the clip").wait_for()
    take(shown, "shared", 4000)
    elsewhere.close()
    page.goto("/house")
    page.get_by_role("table", name="Accounts").wait_for()
    page.get_by_label("Settings", exact=True).evaluate("one => one.remove()")  # they name folders of this machine
    take(page, "people", 800)


def open_cell(page: Page, clip: int, frame: int = 0) -> None:
    """Open a clip in a frame on the bench."""
    address = page.url.partition("?")[0]
    board = page.request.get(address.replace("/projects/", "/api/projects/")).json()
    where = (board["footage"][clip]["id"], board["frames"][frame]["id"])
    cell = next(cell["id"] for cell in board["cells"] if (cell["footage"], cell["frame"]) == where)
    page.goto(f"{address}/framings/{cell}")
    page.get_by_role("navigation", name="Steps").wait_for()


def open_step(page: Page, name: str) -> None:
    """Go to a step of the bench."""
    page.get_by_role("navigation", name="Steps").get_by_text(name, exact=True).click()


def render(page: Page) -> None:
    """Render the framing on the bench as the sheet before rendering shows it."""
    page.get_by_role("banner").get_by_role("button", name="Render").click()
    page.get_by_role("dialog").get_by_role("button", name="Render 1 file").click()


def take(page: Page, name: str, wait: int) -> None:
    """Take a picture once the page has come to rest, and the strip of a clip is there."""
    page.wait_for_timeout(wait)
    page.wait_for_function(STRIP_IS_THERE, timeout=60_000)
    page.screenshot(path=FOLDER / f"{name}.png")


ALL_VIEWS = (of_the_board, of_sources, of_frames, of_placements, of_extending, of_movement, of_results, of_people)

if __name__ == "__main__":
    main()
