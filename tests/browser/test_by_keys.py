"""The whole job by the keyboard alone, and how many keys it takes."""

import pytest
from playwright.sync_api import Page, expect

from tests.browser.hands import steps, stored
from tests.browser.visitor import becomes, until

pytestmark = pytest.mark.timeout(240)
MOST_KEYS = 60
"""For the whole job: from no project to a file that was measured and is about to be saved."""


class Keys:
    """A keyboard that counts."""

    def __init__(self, page: Page) -> None:
        self.page, self.pressed = page, 0

    def __call__(self, *keys: str) -> None:
        for key in keys:
            self.page.keyboard.press(key)
            self.pressed += 1

    def write(self, text: str) -> None:
        self(*text)

    def tab_to(self, what) -> None:
        """Go on with Tab until something has the focus."""
        for _ in range(40):
            if what.count() and what.evaluate("(one) => one === document.activeElement"):
                return
            self("Tab")
        pytest.fail("Tab did not come to it")


def chosen(page: Page, what: str, *names: str) -> list[str]:
    return [stored(page)["plan"][what][name] for name in names]


def test_the_whole_job_takes_few_keys_and_no_mouse(page: Page, tall):
    keys, choosers = Keys(page), []
    page.on("filechooser", lambda chooser: choosers.append(chooser))  # noqa: PLW0108 - a name of its own is set on it
    page.goto("/")
    expect(page.get_by_role("heading", name="Projects")).to_be_visible()
    keys("n")
    keys.write("Wall")
    keys("Enter")
    expect(page.get_by_role("heading", name="Wall", level=1)).to_be_visible()
    expect(page.get_by_role("main")).to_be_focused()

    expect(page.get_by_role("button", name="Add clips", exact=True)).to_be_visible()
    page.wait_for_load_state("networkidle")  # the page listens once it has drawn what it asked for
    keys("a")
    until(lambda: page.wait_for_timeout(20) or choosers, 20)
    choosers[0].set_files(tall)
    expect(page.locator("[data-cell]")).to_have_count(1)
    keys("c", "Enter")
    expect(steps(page)).to_be_visible()

    keys("3")
    keys.tab_to(page.get_by_role("slider", name="Fill amount"))
    for _ in range(5):
        keys("ArrowRight")
    keys("g", "ArrowRight", "Shift+ArrowDown")
    becomes(lambda: chosen(page, "placement", "tightness", "offset_y"), ["0.05", "10"], 20)

    keys("5")
    keys.tab_to(page.get_by_role("slider", name="Blur"))
    keys("ArrowLeft", "ArrowLeft")
    brightness = page.get_by_role("slider", name="Brightness")
    keys.tab_to(brightness)
    before = int(brightness.get_attribute("aria-valuenow"))  # what a quiet copy of this clip has
    keys("ArrowLeft", "ArrowLeft")
    becomes(lambda: chosen(page, "surround", "softness", "brightness"), ["3.8", str(before - 2)], 20)

    keys("Control+Enter")
    expect(page.get_by_role("button", name="Render 1 file")).to_be_focused()
    keys("Enter")
    expect(page.get_by_label("Check", exact=True).get_by_text("check passed")).to_be_visible(timeout=60_000)
    with page.expect_download():
        keys.tab_to(page.get_by_role("link", name="Download"))
        keys("Enter")
    assert keys.pressed <= MOST_KEYS, keys.pressed
    print(f"{keys.pressed} keys")
