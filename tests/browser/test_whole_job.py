"""The whole job in a real browser, against the real application."""

import json
import re
import subprocess

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from tests.browser.hands import (
    begin_by_hand,
    begin_project,
    confirm_render,
    enter,
    render_framing,
    send,
    settled_pixels,
    steps,
)
from tests.clips import write_clip

pytestmark = pytest.mark.timeout(240)


@pytest.fixture(scope="session")
def upright(tmp_path_factory):
    """Two seconds of an upright clip, stored lying with a flag."""

    def paint(number):
        image = np.zeros((180, 320, 3), np.uint8)
        image[..., 1] = np.linspace(40, 180, 320).astype(np.uint8)
        image[60:120, 20 + number * 4 : 80 + number * 4, 0] = 220
        return image

    folder = tmp_path_factory.mktemp("upright")
    return write_clip(folder / "Depot yard.mp4", frames=50, paint=paint, rotation=90)


MOST_PRESSES = 8
COUNT_PRESSES = "window.presses = 0; addEventListener('pointerdown', () => window.presses++, true)"


def test_a_first_visit_reaches_its_first_file_in_few_presses(page: Page, upright):
    page.goto("/")
    page.evaluate(COUNT_PRESSES)
    page.get_by_label("Project name").click()
    page.keyboard.type("First file")
    page.get_by_role("button", name="New project").click()
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Add clips", exact=True).click()
    chooser.value.set_files(upright)
    expect(page.get_by_text("100% kept")).to_be_visible()
    page.get_by_role("button", name="Render all").click()
    confirm_render(page)
    with page.expect_download(timeout=150_000) as download:
        page.get_by_role("link", name="Download Depot yard").click(timeout=120_000)
    assert download.value.suggested_filename.endswith(".mp4")
    assert page.evaluate("window.presses") <= MOST_PRESSES


def test_the_whole_job(page: Page, upright, tmp_path):
    begin_by_hand(page, "Depot")
    expect(page.get_by_text("Drop clips or a folder anywhere on this page")).to_be_visible()
    send(page, upright)
    expect(page.get_by_text("320×180 turned 90°, 25 fps")).to_be_visible()
    expect(page.get_by_text("100% kept")).to_be_visible()

    page.locator("td a").first.click()
    expect(page.get_by_text("picture 180 × 320 at 3.375×")).to_be_visible()
    whole = settled_pixels(page)

    # By eye: choose Plain, and the bars change while the picture does not.
    steps(page).get_by_text("Surround").click()
    page.get_by_role("button", name="Plain").click()
    expect(steps(page).get_by_text("plain #000000")).to_be_visible()
    plain = settled_pixels(page)
    width = whole.shape[1]
    bar, picture = slice(0, int(width * 0.3)), slice(int(width * 0.36), int(width * 0.64))
    assert np.abs(plain[:, bar]).mean() < 3
    assert np.abs(whole[:, bar] - plain[:, bar]).mean() > 10
    assert np.abs(whole[:, picture] - plain[:, picture]).mean() < 2
    page.get_by_role("button", name="Blurred copy").click()

    # By number: plain arithmetic in a number field.
    enter(page.get_by_label("Blur, %"), "12/4")
    steps(page).get_by_text("Placement").click()
    enter(page.get_by_label("Fill amount, %"), "40")
    expect(page.get_by_text("40% fill")).to_be_visible()
    expect(page.get_by_label("What it costs")).to_contain_text("% of the picture cropped")

    # The history survives a reload.
    expect(page.get_by_role("button", name="Undo")).to_have_attribute("title", "Undo: Fill amount")
    page.reload()
    expect(page.get_by_text("40% fill")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(steps(page).get_by_text("whole picture")).to_be_visible()
    page.get_by_role("button", name="Redo").click()
    expect(page.get_by_text("40% fill")).to_be_visible()

    render_framing(page)
    expect(page.get_by_text("check passed")).to_be_visible(timeout=90_000)
    expect(page.get_by_role("region", name="Inspection")).to_contain_text("1920×1080")

    # The result plays here, and can be sought.
    video = page.get_by_test_id("result")
    video.evaluate("video => { video.muted = true; return video.play(); }")
    page.wait_for_function("document.querySelector('video').currentTime > 0.3")
    video.evaluate("video => { video.pause(); video.currentTime = 1.5; }")
    page.wait_for_function("!document.querySelector('video').seeking")

    with page.expect_download() as download:
        page.get_by_role("link", name="Download").click()
    assert download.value.suggested_filename == "Depot_Depot yard_Wide.mp4"
    target = tmp_path / "downloaded.mp4"
    download.value.save_as(target)
    command = ["ffprobe", "-v", "error", "-show_streams", "-of", "json", str(target)]
    streams = json.loads(subprocess.run(command, capture_output=True, check=True).stdout)["streams"]
    picture, sound = streams
    assert (picture["width"], picture["height"], picture["nb_frames"]) == (1920, 1080, "50")
    assert (picture["avg_frame_rate"], picture["sample_aspect_ratio"], picture["color_space"]) == (
        "25/1",
        "1:1",
        "bt709",
    )
    assert (picture["codec_name"], sound["codec_name"]) == ("h264", "aac")


def test_what_is_no_clip_says_so_on_the_board(page: Page, tmp_path):
    begin_project(page, "Letters")
    letter = tmp_path / "letter.mp4"
    letter.write_text("Dear editor,\n")
    send(page, letter)
    expect(page.get_by_role("alert")).to_contain_text("letter.mp4: This is no footage that can be read")
    page.get_by_role("button", name="Close").click()
    expect(page.get_by_role("alert")).to_have_count(0)


def test_frames_and_handling_by_hand(page: Page, upright):
    begin_project(page, "By hand")
    send(page, upright)
    page.get_by_role("button", name="Add frame").click()
    page.get_by_label("Name of the frame").fill("Small")
    page.get_by_label("Width").fill("640")
    page.get_by_label("Width").press("Tab")
    page.get_by_label("Height").fill("720/2")
    page.get_by_label("Height").press("Tab")
    page.get_by_role("button", name="Add this size").click()
    expect(page.get_by_text("16:9 640×360")).to_be_visible()
    page.locator("td a").nth(1).click()
    well = page.get_by_role("application")
    expect(page.get_by_text("Small 640 × 360")).to_be_visible()

    # Dragging moves, saves one step, and snaps to the centre where it is near.
    box = well.bounding_box()
    middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.move(*middle)
    page.mouse.down()
    page.mouse.move(middle[0] + 60, middle[1] + 3, steps=6)
    expect(page.get_by_text("centred down")).to_be_visible()
    page.mouse.up()
    moved = page.get_by_label("Position X, frame pixels")
    expect(moved).not_to_have_value("0")
    expect(page.get_by_label("Position Y, frame pixels")).to_have_value("0")

    # Nudging: one pixel, ten with Shift.
    before = float(moved.input_value())
    well.focus()
    page.keyboard.press("ArrowRight")
    page.keyboard.press("Shift+ArrowRight")
    expect(moved).to_have_value(re.compile(str(int(before) + 11)[:2]))
    assert float(moved.input_value()) == pytest.approx(before + 11, abs=0.02)
    page.wait_for_timeout(700)
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    expect(moved).to_have_value("0")

    # The wheel enlarges.
    page.mouse.move(*middle)
    page.mouse.wheel(0, -400)
    expect(page.get_by_label("Fill amount, %")).not_to_have_value("0")

    # The trade's keys.
    first = page.get_by_test_id("timecode").input_value()
    page.keyboard.press("l")
    expect(page.get_by_test_id("timecode")).not_to_have_value(first)
    page.keyboard.press("k")
    page.keyboard.press("Home")
    expect(page.get_by_test_id("timecode")).to_have_value("00:00:00:00")
    for typed, shown in (("3", "00:00:00:03"), ("+1", "00:00:00:04")):
        enter(page.get_by_test_id("timecode"), typed)
        expect(page.get_by_test_id("timecode")).to_have_value(shown)


def test_nothing_scrolls_sideways_and_no_label_is_cut(page: Page, upright):
    begin_project(page, "Fits")
    send(page, upright)
    expect(page.locator("td a")).to_be_visible()
    addresses = [page.url, page.url + "/renders"]
    page.locator("td a").first.click()
    expect(page.get_by_test_id("composed")).to_be_visible()
    bench = page.url.split("?")[0]
    addresses += [f"{bench}?step={step}" for step in ("source", "frame", "placement", "surround", "check")]
    for address in addresses:
        page.goto(address)
        page.wait_for_timeout(400)
        wide = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
        assert wide == 0, address
        cut = page.evaluate(
            """() => [...document.querySelectorAll('button, label, dd, dt, h1, h2, td, th')]
                .filter((element) => element.scrollWidth > element.clientWidth + 1
                    && getComputedStyle(element).display !== 'inline')
                .map((element) => element.textContent)"""
        )
        assert cut == [], address
