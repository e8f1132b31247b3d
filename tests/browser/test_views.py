"""Two views of one placement, bars in the picture, guides, straightening."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.bar_cases import LETTERBOX, Case
from tests.browser.hands import enter, open_bench, other_than, settled_pixels, steps
from tests.browser.visitor import until
from tests.clips import write_clip
from tests.corpus.making import Maker
from tests.corpus.members import member as corpus_member

pytestmark = pytest.mark.timeout(240)


@pytest.fixture(scope="session")
def wide(tmp_path_factory):
    return write_clip(tmp_path_factory.mktemp("wide") / "Wide.mp4", size=(640, 360), frames=50, sound=None)


@pytest.fixture(scope="session")
def master(tmp_path_factory):
    """A letterboxed master: 46 lines of black above and below."""
    return Case("master", LETTERBOX).write(tmp_path_factory.mktemp("master"))


def number(page: Page, label: str) -> float:
    return float(page.get_by_label(label).input_value())


def drag(page: Page, locator, across: float, down: float):
    box = locator.bounding_box()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] / 2 + across, box["y"] + box["height"] / 2 + down, steps=5)
    page.mouse.up()


def test_moving_the_window_moves_the_picture_the_other_way(page: Page, wide):
    open_bench(page, "Windows", wide, "Placement")
    enter(page.get_by_label("Fill amount, %"), "200")
    expect(page.get_by_text("200% fill")).to_be_visible()
    page.get_by_role("group", name="View").get_by_role("button", name="Source").click()
    expect(page.get_by_text("window 320 × 180")).to_be_visible()
    drag(page, page.get_by_test_id("window"), 40, 0)
    undo = page.get_by_role("button", name="Undo")
    expect(undo).to_have_attribute("title", "Undo: Window moved")
    expect(page.get_by_label("Position X, frame pixels")).to_have_value(re.compile("^-"))
    assert number(page, "Position Y, frame pixels") == pytest.approx(0, abs=1)
    moved = number(page, "Position X, frame pixels")
    # Sizing from a corner keeps the middle, and its shape.
    drag(page, page.get_by_test_id("window-corner").nth(2), 60, 34)
    expect(undo).to_have_attribute("title", "Undo: Window sized")
    until(lambda: number(page, "Scale, %") < 600, 20)  # the numbers follow the hand

    def middle_kept():
        shares = number(page, "Position X, frame pixels") / moved, number(page, "Scale, %") / 600
        return shares[0] == pytest.approx(shares[1], rel=0.02)

    until(middle_kept, 20)
    page.get_by_role("group", name="View").get_by_role("button", name="Frame").click()
    expect(page.get_by_test_id("composed")).to_be_visible()


def test_bars_in_the_picture_are_found_taken_off_adjusted_and_left(page: Page, master):
    open_bench(page, "Bars", master, "Source")
    expect(page.get_by_text("black bars, top 46, bottom 46")).to_be_visible(timeout=20_000)
    page.get_by_role("button", name="Crop bars").click()
    expect(page.get_by_text("picture 640 × 268")).to_be_visible()
    edge = page.get_by_test_id("edge top").bounding_box()
    page.mouse.move(edge["x"] + 200, edge["y"] + edge["height"] / 2)
    page.mouse.down()
    page.mouse.move(edge["x"] + 200, edge["y"] + edge["height"] / 2 + 20, steps=4)
    page.mouse.up()
    expect(page.get_by_label("Bar top, in stored pixels")).not_to_have_value("46")
    enter(page.get_by_label("Bar top, in stored pixels"), "50")
    expect(page.get_by_text("picture 640 × 264")).to_be_visible()
    page.get_by_role("button", name="Keep bars").click()
    expect(page.get_by_text("picture 640 × 360")).to_be_visible()
    page.get_by_role("button", name="Apply to all 640×360 clips").click()
    expect(page.get_by_text("Preset for 640×360 clips.")).to_be_visible()


def test_a_line_along_the_horizon_straightens_and_covers(page: Page, wide):
    open_bench(page, "Horizon", wide, "Placement")
    page.get_by_role("button", name="Level to horizon").click()
    box = page.get_by_test_id("composed").bounding_box()
    page.mouse.move(box["x"] + 100, box["y"] + 100)
    page.mouse.down()
    page.mouse.move(box["x"] + 300, box["y"] + 110, steps=5)
    page.mouse.up()
    expect(page.get_by_label("Straighten, °")).to_have_value("-2.86")
    expect(steps(page)).to_contain_text("turned -2.86°")
    page.get_by_role("button", name="Scale to cover").click()
    expect(steps(page)).to_contain_text("just covers, turned -2.86°")
    expect(steps(page)).to_contain_text("nothing to fill")
    page.get_by_text("Mirror the picture").click()
    expect(steps(page)).to_contain_text("mirrored")


def test_guides_lie_over_the_frame_and_a_chart_is_saved(page: Page, wide):
    open_bench(page, "Guides", wide, "Frame")
    page.get_by_label("Frame", exact=True).get_by_text("Guides", exact=True).click()
    page.get_by_label("Title safe 90%, SMPTE ST 2046-1").check()
    page.get_by_label("Thirds").check()
    expect(page.get_by_test_id("guides").locator("g")).to_have_count(2)
    with page.expect_download() as download:
        page.get_by_role("link", name="SVG").click()
    assert download.value.suggested_filename == "Wide 1920x1080.svg"
    page.get_by_label("Title safe 90%, SMPTE ST 2046-1").uncheck()
    page.get_by_label("Thirds").uncheck()


def test_the_surround_goes_on_outside_the_active_picture(page: Page, wide):
    open_bench(page, "Outside", wide, "Frame")
    whole = settled_pixels(page)
    page.get_by_label("Active picture", exact=True).select_option("2.39")
    expect(page.get_by_text("drawn as 1920 × 804")).to_be_visible()
    bars = settled_pixels(page, until=other_than(whole))
    page.get_by_label("Outside").select_option("surround")
    filled = settled_pixels(page, until=other_than(bars))
    top = slice(0, int(bars.shape[0] * 0.1))
    assert bars[top].mean() < 3
    assert filled[top].mean() > 15
    page.get_by_label("Active picture", exact=True).select_option("")


def test_damage_is_told_and_a_press_away(page: Page, tmp_path):
    member = corpus_member("TS: every 150th packet lost")
    path = tmp_path / "reception.ts"
    member.make(Maker(tmp_path / "made"), path)
    open_bench(page, "Reception", path, "Source")
    noticed = page.get_by_role("region", name="Noticed")
    expect(noticed.get_by_role("heading")).to_have_text(re.compile("Damaged in [0-9]+ place"))
    line = noticed.get_by_role("button").first
    expect(line).to_have_text(re.compile("00:00:0[0-9]:[0-9]{2}"))
    begins = re.search("00:00:[0-9]{2}:[0-9]{2}", line.inner_text()).group()
    line.click()
    expect(page.get_by_test_id("timecode")).to_have_value(begins)
    page.get_by_role("link", name="Reception").click()
    expect(page.get_by_role("row").filter(has_text="reception")).to_contain_text("Damaged in")
