"""Surrounds, finishes, treatments and the line-up, as they are chosen."""

import re

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from tests.browser.hands import enter, open_bench, settled_pixels, steps

pytestmark = pytest.mark.timeout(240)

KINDS = [
    *("Plain", "Gradient", "Carried edges", "Still", "Mirrored"),
    *("Loop", "Drift", "Different sides", "Graphic", "Blurred copy"),
]


@pytest.mark.long
def test_every_kind_changes_the_bars_and_not_the_picture(page: Page, tall):
    open_bench(page, "Kinds", tall, "Surround")
    before = settled_pixels(page)
    width = before.shape[1]
    bar, picture = slice(0, int(width * 0.3)), slice(int(width * 0.37), int(width * 0.63))
    for kind in KINDS:
        page.get_by_role("button", name=kind, exact=True).first.click()
        after = settled_pixels(page, until=lambda now, last=before: np.abs(now[:, bar] - last[:, bar]).mean() > 2)
        assert np.abs(after[:, bar] - before[:, bar]).mean() > 2, kind
        assert np.abs(after[:, picture] - before[:, picture]).mean() < 1.5, kind
        before = after


def test_finishes_are_put_on_and_off(page: Page, tall):
    open_bench(page, "Finishes", tall, "Finish")
    for name in ("Shadow", "Vignette"):
        page.get_by_role("button", name=name, exact=True).click()
    expect(steps(page)).to_contain_text("shadow, vignette")
    page.get_by_role("button", name="Shadow", exact=True).click()
    expect(steps(page)).not_to_contain_text("shadow")
    enter(page.get_by_label("Amount, %").first, "0")
    expect(steps(page)).to_contain_text(re.compile("Finishnone"))


def test_a_treatment_is_saved_and_put_on_a_dozen_cells(page: Page, tall):
    open_bench(page, "Dozen", tall, "Surround")
    page.get_by_role("button", name="Plain", exact=True).first.click()
    expect(steps(page)).to_contain_text("plain #000000")
    page.get_by_text("Treatments").click()
    page.get_by_label("Name of the treatment").fill("Black card")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_role("button", name="Black card")).to_be_visible()
    page.get_by_role("navigation", name="Breadcrumb").get_by_role("link").click()
    for name in ("Square 1080×1080", "4:5 1080×1350", "Ultrawide 1080 2560×1080"):
        page.get_by_role("button", name="Add frame").click()
        page.get_by_role("button", name=re.compile(f"^{re.escape(name)}")).click()
        expect(page.get_by_role("dialog")).to_have_count(0)
    page.get_by_label("Clips to add").set_input_files([tall, tall])
    cells = page.locator("[data-cell]")
    expect(cells).to_have_count(12)
    cells.first.focus()
    page.keyboard.press("Control+a")
    page.get_by_role("button", name="Treat").click()
    page.get_by_role("menuitem", name="Black card").click()
    expect(page.get_by_test_id("done")).to_contain_text("Black card on 12 cells.")
    expect(page.locator("[data-cell] > .font-semibold", has_text="plain #000000")).to_have_count(12)
    page.get_by_test_id("done").get_by_role("button", name="Undo").click()
    expect(page.locator("[data-cell] > .font-semibold", has_text="plain #000000")).to_have_count(1)


def test_a_way_is_chosen_from_the_line_up(page: Page, tall):
    open_bench(page, "Ways", tall, "Placement")
    page.get_by_role("link", name="Line-up").click()
    ways = page.get_by_role("main").get_by_role("listitem")
    way = lambda name: ways.filter(has=page.get_by_role("img", name=name, exact=True))  # noqa: E731
    expect(way("Whole, plain")).to_be_visible()
    expect(way("Fill")).to_contain_text("68.4% of the picture cropped")
    for name in ("Fill", "Whole, plain"):
        way(name).get_by_role("button", name="Compare").click()
    edge = page.get_by_role("slider", name="Edge between the two")
    edge.focus()
    page.keyboard.press("ArrowLeft")
    expect(edge).to_have_attribute("aria-valuenow", "48")
    page.get_by_role("button", name="Back to all").click()
    page.get_by_role("button", name="Add a treatment").click()
    page.get_by_role("menuitem", name="Gallery card").click()
    expect(ways.filter(has_text="Gallery card").get_by_role("img")).to_be_visible()
    ways.filter(has_text="Whole, plain").get_by_role("button", name="Choose").click()
    expect(steps(page)).to_contain_text("plain #202428")
    page.get_by_role("button", name="Undo").click()
    expect(steps(page)).to_contain_text("blurred copy")


def test_a_loud_surround_is_quietened(page: Page, tall):
    open_bench(page, "Quiet", tall, "Surround")
    page.get_by_role("button", name="Mirrored", exact=True).first.click()
    enter(page.get_by_label("Brightness, %"), "150")
    panel = page.get_by_label("Surround", exact=True)
    expect(panel.get_by_role("status")).not_to_contain_text(re.compile("low|Measuring"))
    panel.get_by_role("button", name="Tone down").click()
    expect(page.get_by_label("Brightness, %")).not_to_have_value("150", timeout=20_000)
