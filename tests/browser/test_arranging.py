"""The board as its people arrange it: frames, clips, what is shown, and what is kept of that."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.hands import begin_project, clip_names, confirm_render, enter, open_tall, send, steps
from tests.clips import write_clip

pytestmark = pytest.mark.timeout(240)


@pytest.fixture(scope="session")
def reels(tmp_path_factory):
    """Three short clips."""
    folder = tmp_path_factory.mktemp("reels")
    names = ("Arch", "Bell", "Cab")
    return [write_clip(folder / f"{name}.mp4", frames=5 + at, sound=None) for at, name in enumerate(names)]


def heads(page: Page):
    return page.locator("thead th[scope=col] button.font-bold")


def choose(page: Page, what: str, of: str):
    """Choose from the menu of a clip, or of a frame."""
    page.get_by_label(f"Actions for {of}", exact=True).click()
    page.get_by_role("menuitem", name=what, exact=True).click()


def undo(page: Page):
    page.get_by_test_id("done").get_by_role("button", name="Undo").click()


def test_frames_are_renamed_resized_moved_and_removed_with_the_way_back(page: Page, tall):
    open_tall(page, "Frames", tall, "Placement")
    enter(page.get_by_label("Fill amount, %"), "120")
    expect(page.get_by_label("Format preset")).to_contain_text("Custom")
    page.get_by_role("navigation", name="Breadcrumb").get_by_role("link").click()
    choose(page, "Rename", of="the frame Tall")
    expect(page.get_by_label("New name")).to_be_focused()
    enter(page.get_by_label("New name"), "Totem")
    expect(heads(page)).to_have_text(["Wide", "Totem"])

    choose(page, "Resize", of="the frame Totem")
    enter(page.get_by_label("Height"), "180")
    expect(page.get_by_text("1:1 180×180")).to_be_visible()
    expect(page.get_by_label("Kept less").get_by_role("listitem")).to_contain_text("69.4% → 39.1%")
    undo(page)
    expect(page.get_by_text("9:16 180×320")).to_be_visible()

    choose(page, "Move left", of="the frame Totem")
    expect(heads(page)).to_have_text(["Totem", "Wide"])
    choose(page, "Remove", of="the frame Totem")
    expect(heads(page)).to_have_text(["Wide"])
    undo(page)
    expect(heads(page)).to_have_text(["Totem", "Wide"])


def is_stored(answer):
    """Whether an answer is to a change."""
    return answer.request.method != "GET"


def test_clips_are_put_in_order_by_menu_and_by_hand_and_found_by_words(page: Page, reels):
    begin_project(page, "Reels")
    send(page, reels)
    expect(clip_names(page)).to_have_text(["Arch", "Bell", "Cab"])
    with page.expect_response(is_stored):
        choose(page, "Move down", of="Arch")
    expect(clip_names(page)).to_have_text(["Bell", "Arch", "Cab"])
    expect(page.get_by_role("menu")).to_have_count(0)  # under which nothing can be dragged
    with page.expect_response(is_stored):
        page.get_by_label("Select the row of Cab").drag_to(page.get_by_role("row").filter(has_text="Bell"))
    expect(clip_names(page)).to_have_text(["Cab", "Bell", "Arch"])
    page.reload()
    expect(clip_names(page)).to_have_text(["Cab", "Bell", "Arch"])
    page.keyboard.press("/")
    page.keyboard.type("be")
    expect(clip_names(page)).to_have_text(["Bell"])
    page.keyboard.press("Escape")
    expect(clip_names(page)).to_have_count(3)


def test_what_is_selected_and_sorted_is_there_again(page: Page, reels):
    begin_project(page, "Again")
    send(page, reels)
    expect(clip_names(page)).to_have_count(3)
    page.get_by_label("Sort").select_option("name")
    page.get_by_label("Select Bell in Wide").click(force=True)
    bar = page.get_by_label("Selected cells")
    expect(bar).to_contain_text("1 cell selected")
    page.reload()
    expect(bar).to_contain_text("1 cell selected")
    page.locator("[data-cell]").first.click()
    expect(steps(page)).to_be_visible()
    page.get_by_role("navigation", name="Breadcrumb").get_by_role("link").click()
    expect(bar).to_contain_text("1 cell selected")
    expect(page.get_by_label("Sort")).to_have_value("name")


def test_a_cell_says_what_came_of_its_last_render(page: Page, reels):
    begin_project(page, "Rendered")
    send(page, reels[0])
    page.get_by_role("button", name="Render all 1").click()
    confirm_render(page)
    expect(page.get_by_role("main").get_by_text("check passed")).to_be_visible(timeout=60_000)
    page.get_by_role("navigation", name="Breadcrumb").get_by_role("link").first.click()
    cell = page.locator("[data-cell]")
    expect(cell).to_contain_text("rendered")
    cell.click()
    page.get_by_role("button", name="Half fill").click()
    page.get_by_role("navigation", name="Breadcrumb").get_by_role("link").click()
    expect(cell).to_contain_text("rendered, changed since")


def test_what_is_folded_open_is_so_again(page: Page, tall):
    open_tall(page, "Folds", tall, "Frame")
    page.get_by_text("Guides", exact=True).click()
    expect(page).to_have_url(re.compile("open=Guides"))
    page.reload()
    expect(page.get_by_role("group").filter(has_text="Guides")).to_have_attribute("open", "")


@pytest.mark.long
def test_a_first_project_begins_with_sample_clips(page: Page):
    page.goto("/")
    page.get_by_role("button", name="Try with sample clips").click()
    expect(page.get_by_text("Sample clips are being drawn")).to_be_visible()
    expect(clip_names(page)).to_have_count(3, timeout=120_000)
    expect(page.get_by_label("First steps")).to_contain_text("select a cell")


def test_long_names_push_no_button_off(page: Page, reels):
    """Names as long as they may be, also without a gap in them."""
    begin_project(page, "W" * 120)
    send(page, reels[0])
    expect(clip_names(page)).to_have_count(1)
    choose(page, "Rename", of="Arch")
    enter(page.get_by_label("New name"), "M" * 236 + ".mp4")
    choose(page, "Rename", of="the frame Wide")
    enter(page.get_by_label("New name"), "N" * 80)
    expect(heads(page)).to_have_text(["N" * 80])
    for name in ("Add clips", "Add frame", "Render all 1"):
        box = page.get_by_role("button", name=name, exact=True).bounding_box()
        assert box["x"] >= 0
        assert box["x"] + box["width"] <= 1280
    assert page.evaluate("document.documentElement.scrollWidth") <= 1280
    page.locator("[data-cell]").click()
    render = page.get_by_role("banner").get_by_role("button", name="Render", exact=True)
    box = render.bounding_box()
    assert box["x"] + box["width"] <= 1280
