"""Panels, pictures behind, titles and captions, as they are made on the bench."""

import re

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from tests.browser.hands import enter, open_bench, other_than, settled_pixels, steps

pytestmark = pytest.mark.timeout(240)


def test_a_panel_is_written_and_made_readable(page: Page, tall):
    open_bench(page, "Panel", tall, "Surround")
    page.get_by_role("button", name="Graphic", exact=True).first.click()
    expect(steps(page)).to_contain_text("graphic on blurred copy")
    blank = settled_pixels(page)
    panel = page.get_by_label("Surround", exact=True)
    panel.get_by_label("Title", exact=True).fill("The restored depot opens")
    written = settled_pixels(page, until=other_than(blank))
    width = blank.shape[1]
    assert np.abs(written - blank)[:, : int(width * 0.33)].mean() > 1
    assert np.abs(written - blank)[:, int(width * 0.37) : int(width * 0.63)].mean() < 0.5
    enter(panel.get_by_label("Colour, hexadecimal"), "#404040")
    words = panel.get_by_role("status").filter(has_text="Words:")
    expect(words).to_contain_text("under 4.5:1", timeout=15_000)
    panel.get_by_role("button", name="Make readable").click()
    expect(words).not_to_contain_text("under", timeout=20_000)
    expect(words).to_contain_text("contrast")


def test_a_letter_that_is_missing_is_told_and_what_was_written_stays(page: Page, tall):
    open_bench(page, "Letters", tall, "Surround")
    page.get_by_role("button", name="Graphic", exact=True).first.click()
    title = page.get_by_label("Title", exact=True)
    title.fill("Трамвай")
    title.blur()
    expect(page.get_by_role("alert").first).to_contain_text("Archivo has no")
    page.get_by_label("Font").select_option("Noto Sans")
    expect(page.get_by_role("alert")).to_have_count(0)
    expect(title).to_have_value("Трамвай")


def test_a_picture_of_ones_own_stands_behind_and_each_side_has_its_own(page: Page, tall, tmp_path):
    Image.new("RGB", (320, 180), (220, 30, 30)).save(tmp_path / "red.png")
    open_bench(page, "Behind", tall, "Surround")
    page.get_by_role("button", name="Still", exact=True).first.click()
    page.get_by_label("Picture or clip: add a picture").set_input_files(tmp_path / "red.png")
    expect(page.get_by_label("Picture or clip", exact=True)).to_have_value(re.compile("material:"))

    def mean_at_left(shown):
        return shown[:, : int(shown.shape[1] * 0.3)].reshape(-1, 3).mean(axis=0)

    blue, green, red = mean_at_left(settled_pixels(page, until=lambda shown: mean_at_left(shown)[2] > 120))
    assert red > 120
    assert max(blue, green) < 60
    page.get_by_role("button", name="Different sides", exact=True).first.click()
    page.locator("summary").filter(has_text="Right or below").click()
    panel = page.get_by_label("Surround", exact=True)
    panel.get_by_label("Kind").last.select_option("drift")
    expect(steps(page)).to_contain_text("blurred copy and pattern, clouds")


def test_a_title_is_dragged_and_snaps_and_captions_are_read(page: Page, tall, tmp_path):
    open_bench(page, "Titles", tall, "Finish")
    page.locator("summary").filter(has_text="Titles").click()
    page.get_by_role("button", name="Add a title").click()
    expect(steps(page)).to_contain_text("a title")
    handle = page.get_by_role("button", name="Title 1: Title")
    box = handle.bounding_box()
    middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.move(*middle)
    page.mouse.down()
    page.mouse.move(middle[0] - 60, middle[1] - 40, steps=4)
    page.mouse.move(middle[0] + 3, middle[1] - 60, steps=4)
    expect(page.get_by_text("centred across")).to_be_visible()
    page.mouse.up()
    expect(page.get_by_label("Across, %")).to_have_value("50")
    expect(page.get_by_label("Down, %")).not_to_have_value("85")
    handle.focus()
    page.keyboard.press("Shift+ArrowRight")
    expect(page.get_by_label("Across, %")).to_have_value("51")
    page.locator("summary").filter(has_text="Captions").click()
    for name, text in (
        ("bad.srt", "1\n00:00:09,000 --> 00:00:01,000\nBack\n"),
        ("good.srt", "1\n00:00:00,000 --> 00:00:09,000\nNine\n"),
    ):
        (tmp_path / name).write_text(text)
    picker = page.get_by_label("File: add captions, SRT or WebVTT")
    picker.set_input_files(tmp_path / "bad.srt")
    expect(page.get_by_role("alert")).to_contain_text("Line 2")
    picker.set_input_files(tmp_path / "good.srt")
    expect(steps(page)).to_contain_text("captions, a title")


def test_before_stands_beside_after(page: Page, tall):
    open_bench(page, "Before", tall, "Surround")
    page.get_by_role("button", name="Before/after").click()
    expect(page.get_by_test_id("before")).to_be_visible()
    edge = page.get_by_role("slider", name="Edge between before and after")
    edge.focus()
    page.keyboard.press("ArrowRight")
    expect(edge).to_have_attribute("aria-valuenow", "52")
    page.get_by_role("button", name="Before/after").click()
    expect(page.get_by_test_id("before")).to_have_count(0)
