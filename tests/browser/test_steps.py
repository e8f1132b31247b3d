"""Steps of the bench, one by one."""

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from tests.browser.hands import (
    begin_project,
    confirm_render,
    enter,
    open_bench,
    other_than,
    render_framing,
    send,
    settled_pixels,
    stay_when_asked,
    steps,
    stored,
)
from tests.clips import write_clip

pytestmark = pytest.mark.timeout(240)


@pytest.fixture(scope="session")
def tape(tmp_path_factory):
    """A 4:3 tape whose pixels are said to be square, which they are not."""
    return write_clip(tmp_path_factory.mktemp("tape") / "Lamp test.mp4", size=(720, 576), frames=300)


def test_another_pixel_shape_is_chosen_from_pictures(page: Page, tape):
    open_bench(page, "Tapes", tape, "Source")
    expect(page.get_by_role("button", name="square, 5:4")).to_have_attribute("aria-pressed", "true")
    page.get_by_role("group", name="View").get_by_role("button", name="Frame").click()
    expect(page.get_by_text("1350", exact=True)).to_be_visible()
    page.get_by_role("button", name="12:11, 1.36").click()
    expect(page.get_by_text("1472.73", exact=True)).to_be_visible()
    page.reload()
    expect(page.get_by_role("button", name="12:11, 1.36")).to_have_attribute("aria-pressed", "true")
    page.get_by_text("Rotate and mirror").click()
    page.get_by_label("Rotate").select_option("90")
    expect(page.get_by_text("stored 576 × 720")).to_be_visible()


def test_an_active_picture_puts_bars_into_the_frame(page: Page, tape):
    open_bench(page, "Scope", tape, "Frame")
    before = settled_pixels(page)
    page.get_by_label("Active picture", exact=True).select_option("2.39")
    expect(page.get_by_text("1920 × 803.35, drawn as 1920 × 804")).to_be_visible()
    after = settled_pixels(page, until=other_than(before))
    bar = slice(0, int(after.shape[0] * 0.12))
    assert np.abs(after[bar]).mean() < 3
    assert before[bar].mean() > 20


def test_anchors_and_sizes(page: Page, tape):
    open_bench(page, "Anchors", tape, "Placement")
    page.get_by_role("button", name="Native size").click()
    expect(page.get_by_label("Scale, %")).to_have_value("100")
    page.get_by_role("button", name="top left").click()
    expect(page.get_by_label("Position X, frame pixels")).to_have_value("-600")
    expect(page.get_by_label("Position Y, frame pixels")).to_have_value("-252")
    page.get_by_role("button", name="Stretch").click()
    expect(page.get_by_text("Wrong shape: everything is 42.2% too wide.")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    enter(page.get_by_label("Scale, %"), "56")
    expect(page.get_by_text("scaled to 56%")).to_be_visible()


def test_typing_replaces_a_number_that_changed_under_the_hand(page: Page, tape):
    open_bench(page, "Typing", tape, "Placement")
    page.get_by_role("button", name="Native size").click()
    scale = page.get_by_label("Scale, %")
    expect(scale).to_have_value("100")
    undo = page.get_by_role("button", name="Undo")
    expect(undo).to_have_attribute("title", "Undo: Native size")
    scale.focus()
    undo.dispatch_event("click")
    expect(scale).not_to_have_value("100")
    page.keyboard.type("56")
    expect(scale).to_have_value("56")
    scale.press("Enter")
    expect(page.get_by_text("scaled to 56%")).to_be_visible()


@pytest.mark.long
def test_what_is_being_saved_is_neither_left_nor_overtaken(page: Page, tall):
    open_bench(page, "Slow line", tall, "Placement")
    held = []
    page.route("**/design", lambda route: held.append(route))  # noqa: PLW0108 - it cannot take a bound method
    page.get_by_role("button", name="Fill", exact=True).click()
    expect(steps(page)).to_contain_text("fills the frame")
    stay_when_asked(page)
    render = page.get_by_role("banner").get_by_role("button", name="Render")
    render.click()
    expect(render).to_be_disabled()
    page.wait_for_timeout(600)  # longer than the hand rests: it is stored, and not twice
    assert len(held) == 1
    held[0].continue_()
    confirm_render(page)
    expect(steps(page)).to_contain_text("Checkpass", timeout=60_000)
    expect(steps(page)).to_contain_text("fills the frame")


@pytest.mark.long
def test_a_render_is_cancelled_while_it_works(page: Page, tape):
    open_bench(page, "Second thoughts", tape, "Check")
    render_framing(page)
    expect(page.get_by_text("frames/s")).to_be_visible(timeout=30_000)
    page.get_by_role("button", name="Cancel").click()
    expect(page.get_by_label("Check").get_by_text("cancelled")).to_be_visible(timeout=15_000)
    expect(page.get_by_role("link", name="Download")).to_have_count(0)


def test_an_upload_is_stopped_on_the_way(page: Page, tmp_path):
    begin_project(page, "Too large")
    large = tmp_path / "large.mp4"
    with large.open("wb") as file:
        file.truncate(40 * 2**20)
    # A slow line, so that there is something to stop.
    line = page.context.new_cdp_session(page)
    line.send("Network.enable")
    slow = {"offline": False, "latency": 50, "downloadThroughput": -1, "uploadThroughput": 400_000}
    line.send("Network.emulateNetworkConditions", slow)
    send(page, large)
    expect(page.get_by_label("Uploads")).to_contain_text("sent")
    stay_when_asked(page)
    page.get_by_role("button", name="Cancel").click()
    expect(page.get_by_label("Uploads")).to_have_count(0)
    expect(page.get_by_text("Drop clips or a folder anywhere on this page")).to_be_visible()


def test_files_of_a_frame_are_written_as_its_settings_say(page: Page, tape):
    open_bench(page, "Files", tape, "File")
    page.get_by_label("Settings", exact=True).select_option("UHD master")
    expect(page.get_by_text("Example:")).to_contain_text("MOV, ProRes 422 HQ, 1920×1080")
    expect(page.get_by_label("Quality")).to_have_count(0)
    page.get_by_label("Format", exact=True).select_option("WebM, VP9")
    expect(page.get_by_text("Example:")).to_contain_text("WebM, VP9")
    expect(page.get_by_label("Sound").locator("option")).to_have_text(["Opus, 160 kb/s", "none"])
    page.get_by_label("Name of the settings").fill("For the web")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_label("Settings", exact=True).locator("option:checked")).to_have_text("For the web")


def test_an_active_picture_is_typed_as_percent_or_as_lines(page: Page, tape):
    open_bench(page, "Scope by percent", tape, "Frame")
    enter(page.get_by_label("Bar above and below, percent each"), "12")
    lines = page.get_by_label("Lines of the active picture")
    expect(lines).to_have_value("820.8")
    enter(lines, "800")
    expect(page.get_by_label("Aspect of the active picture")).to_have_value("2.4")
    assert stored(page)["plan"]["frame"]["active"] == "2.4"


def test_a_frame_gets_the_size_of_a_clip_or_its_sides_swapped(page: Page, tape):
    open_bench(page, "Same size", tape, "Frame")
    page.get_by_role("navigation", name="Breadcrumb").get_by_role("link").first.click()
    page.get_by_role("button", name="Actions for the frame Wide").click()
    page.get_by_role("menuitem", name="Resize").click()
    dialog = page.get_by_role("dialog", name="Resize Wide")
    dialog.get_by_label("Same as a clip").select_option(index=1)
    width, height = (dialog.get_by_label(side, exact=True).input_value() for side in ("Width", "Height"))
    assert (width, height) != ("1920", "1080")
    dialog.get_by_role("button", name="Swap the sides").click()
    expect(dialog.get_by_label("Width", exact=True)).to_have_value(height)
    expect(dialog.get_by_label("Height", exact=True)).to_have_value(width)
