"""A scene that goes on beyond its picture, in the page: judged, a way chosen, played, rendered; and a still, finished
elsewhere, taken back.
"""

import re

import cv2
import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from tests.browser.hands import (
    begin_project,
    open_bench,
    render_framing,
    send,
    settled_pixels,
    steps,
    stored,
)
from tests.browser.test_deliveries import add_frame
from tests.browser.test_playing import file_of
from tests.browser.visitor import until
from tests.clips import write_clip
from tests.extending.photographs import sized

pytestmark = pytest.mark.timeout(300)
WIDTH, HEIGHT, FRAMES = 270, 480, 30
WIDE = (640, 360)
LEFT, RIGHT = (640 - 202) // 2, (640 + 202) // 2
"""Of the picture in a frame of that size."""


def picture(number):
    image = sized("coffee", WIDTH, HEIGHT).copy()
    cv2.circle(image, (135 + round(30 * np.sin(number / 6)), 320), 26, (40, 60, 210), -1)
    return image


@pytest.fixture(scope="module")
def yard(tmp_path_factory):
    path = tmp_path_factory.mktemp("yard") / "The yard.mp4"
    return write_clip(path, size=(WIDTH, HEIGHT), frames=FRAMES, paint=picture, options={"crf": "6", "g": "10"})


def surround_of(page):
    return stored(page)["plan"]["surround"]


@pytest.mark.long
def test_judged_chosen_played_and_rendered(page: Page, yard, tmp_path):
    begin_project(page, "Extends")
    add_frame(page, *WIDE)
    page.reload()
    send(page, yard)
    page.locator("td a").nth(1).click()
    steps(page).get_by_text("Surround", exact=True).click()
    surround = page.get_by_role("region", name="Surround")
    surround.get_by_role("button", name="Extended").click()
    left, right = (page.get_by_role("region", name=f"{side} side") for side in ("Left", "Right"))
    for side in (left, right):
        expect(side.get_by_text("fits", exact=True)).to_be_visible(timeout=60_000)
        expect(side.get_by_text("the camera stands and nobody crosses")).to_be_visible()

    # Four ways of each, as real pictures; another is chosen.
    ways = left.get_by_role("button", name=re.compile("^left, way"))
    expect(ways).to_have_count(4, timeout=60_000)
    expect(ways.locator("img")).to_have_count(4, timeout=90_000)
    ways.nth(2).click()
    until(lambda: surround_of(page)["left"]["variant"] == 2, 20)
    expect(ways.nth(2)).to_have_attribute("aria-pressed", "true")
    part = part_of(page)
    _looked_at_and_played(page, part, ways)
    _rendered(page, tmp_path)


def part_of(page):
    return page.get_by_role("region", name="Extending")


def _looked_at_and_played(page, part, ways):
    # At full size it is there soon, and says what of it is invented, which can be tinted.
    expect(part.get_by_text("Making it at full size")).to_have_count(0, timeout=90_000)
    expect(part.get_by_text("invented", exact=True)).to_be_visible(timeout=60_000)
    page.get_by_role("button", name="Highlight invented pixels").click()
    expect(page.get_by_test_id("tint")).to_be_visible()
    page.keyboard.press("t")
    expect(page.get_by_test_id("tint")).to_have_count(0)
    shown = settled_pixels(page)
    assert shown[:, : shown.shape[1] // 4].std() > 25  # the scene, not a blur or a plain colour

    # It is judged moving: one key, the hand on a way that was just chosen.
    ways.nth(1).click()
    until(lambda: surround_of(page)["left"]["variant"] == 1, 20)
    page.keyboard.press(" ")
    page.get_by_test_id("played").locator("video").wait_for()
    page.wait_for_function("document.querySelector('[data-testid=played] video').currentTime > 0.3")
    if page.get_by_role("button", name=re.compile("^Stop")).count():
        page.keyboard.press(" ")
    expect(part.get_by_text("Making it at full size")).to_have_count(0, timeout=90_000)


def _rendered(page, tmp_path):
    render_framing(page)
    expect(page.get_by_text("check passed")).to_be_visible(timeout=120_000)
    made = file_of(page, tmp_path)
    assert len(made) == FRAMES
    for number in range(0, FRAMES, 9):
        inner = slice(LEFT + 14, RIGHT - 14)
        seen = cv2.resize(picture(number), (202, 360), interpolation=cv2.INTER_AREA)[:, 14:-14]
        difference = np.abs(
            made[number][:, inner][:, : seen.shape[1]].astype(int) - seen[:, : inner.stop - inner.start]
        )
        assert np.median(difference) <= 4
        # Beside it the scene stands, as it does in every picture.
        assert np.abs(made[number][:, : LEFT - 20].astype(int) - made[0][:, : LEFT - 20]).mean() < 3


@pytest.mark.long
def test_a_still_goes_out_is_finished_elsewhere_and_comes_back(page: Page, yard, tmp_path):
    open_bench(page, "Stills", yard, "Surround")
    page.get_by_role("region", name="Surround").get_by_role("button", name="Extended").click()
    part = part_of(page)
    expect(part.get_by_text("invented", exact=True)).to_be_visible(timeout=90_000)
    page.get_by_text("Picture from outside").click()
    with page.expect_download() as download:
        page.get_by_role("button", name="Save the still").click()
    still = tmp_path / "still.png"
    download.value.save_as(still)
    image = Image.open(still)
    assert (image.size, image.mode) == ((1920, 1080), "RGBA")
    painted = Image.new("RGB", image.size, (40, 150, 70))
    painted.paste(image, mask=image.getchannel("A").point(lambda value: 255 if value else 0))
    painted.save(tmp_path / "painted.png")
    page.get_by_label("Picture to import").set_input_files(tmp_path / "painted.png")
    expect(page.get_by_text("Imported: it lay just where the still was")).to_be_visible(timeout=60_000)
    until(lambda: surround_of(page)["outside"] is not None, 20)
    expect(part.get_by_text("Making it at full size")).to_have_count(0, timeout=90_000)

    def green(shown):
        blue, middle, red = shown[40:-40, 20:200].mean(axis=(0, 1))
        return middle > blue + 30 and middle > red + 30

    settled_pixels(page, green)
    assert green(settled_pixels(page))
    page.get_by_role("button", name="Undo").click()
    until(lambda: surround_of(page)["outside"] is None, 20)
