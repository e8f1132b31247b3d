"""The board: many clips at once."""

import io
import re

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from tests.browser.hands import begin_project, clip_names, enter, send
from tests.clips import write_clip

pytestmark = pytest.mark.timeout(240)


@pytest.fixture(scope="session")
def pile(tmp_path_factory):
    """Two clips of one format, one of another."""
    folder = tmp_path_factory.mktemp("pile")
    return [
        write_clip(folder / "Arch.mp4", frames=5, sound=None),
        write_clip(folder / "Bell.mp4", size=(180, 320), frames=5, sound=None),
        write_clip(folder / "Cab.mp4", frames=6, sound=None),
    ]


@pytest.fixture
def board(page: Page, pile):
    """A board of three clips in two frames."""
    begin_project(page, "Pile")
    send(page, pile)
    page.get_by_role("button", name="Add frame").click()
    page.get_by_role("button", name=re.compile("^Upright 1080×1920")).click()
    expect(cells(page)).to_have_count(6)
    return page


def cells(page: Page):
    return page.locator("[data-cell]")


def test_many_cells_are_chosen_changed_and_taken_back(board: Page):
    bar = board.get_by_label("Selected cells")
    expect(bar).to_have_count(0)
    board.get_by_role("button", name="Upright", exact=True).click()
    expect(bar).to_contain_text("3 cells selected")
    bar.get_by_role("button", name="Placement").click()
    board.get_by_role("menuitem", name="Half fill").click()
    expect(board.get_by_test_id("done")).to_contain_text("Placed 3 cells: half fill.")
    expect(cells(board).nth(1)).to_contain_text("50% fill")
    expect(cells(board).nth(0)).not_to_contain_text("50% fill")
    board.get_by_test_id("done").get_by_role("button", name="Undo").click()
    expect(board.get_by_text("50% fill")).to_have_count(0)


def test_a_look_is_copied_and_pasted_in_part(board: Page):
    cells(board).nth(1).click()
    board.get_by_role("navigation", name="Steps").get_by_text("Surround").click()
    board.get_by_role("button", name="Plain").click()
    board.get_by_role("navigation", name="Steps").get_by_text("Placement").click()
    enter(board.get_by_label("Fill amount, %"), "30")
    expect(board.get_by_text("30% fill")).to_be_visible()
    board.get_by_role("navigation", name="Breadcrumb").get_by_role("link").click()
    cells(board).nth(1).click(modifiers=["Control"])
    board.get_by_role("button", name="Copy").click()
    cells(board).nth(1).click(modifiers=["Control"])
    for number in (2, 5):
        cells(board).nth(number).click(modifiers=["Control"])
    expect(board.get_by_label("Selected cells")).to_contain_text("2 cells selected")
    board.get_by_role("button", name="Paste").click()
    board.get_by_role("menuitem", name="Surround only").click()
    for number in (2, 5):
        expect(cells(board).nth(number)).to_contain_text(re.compile("plain #000000", re.IGNORECASE))
        expect(cells(board).nth(number)).not_to_contain_text("30% fill")


def test_a_rule_holds_for_the_other_clip_of_its_format(board: Page):
    cells(board).nth(1).click()
    enter(board.get_by_label("Fill amount, %"), "25")
    expect(board.get_by_label("Format preset")).to_contain_text("Custom")
    board.get_by_role("button", name="Save as preset").click()
    expect(board.get_by_label("Format preset")).to_contain_text("Preset: 320×180 into Upright")
    # Next clip is of another format, the one after it of the same; the step stays.
    board.get_by_role("button", name="Next clip").click()
    expect(board.get_by_role("navigation", name="Breadcrumb")).to_contain_text("Bell")
    expect(board.get_by_role("navigation", name="Steps")).not_to_contain_text("25% fill")
    board.get_by_role("button", name="Next clip").click()
    expect(board.get_by_role("navigation", name="Breadcrumb")).to_contain_text("Cab")
    expect(board.get_by_role("navigation", name="Steps")).to_contain_text("25% fill")
    expect(board).to_have_url(re.compile("step=placement"))
    board.get_by_role("button", name="Delete preset").click()
    expect(board.get_by_role("navigation", name="Steps")).not_to_contain_text("25% fill")


def test_the_keyboard_walks_chooses_and_opens(board: Page):
    cells(board).nth(0).focus()
    board.keyboard.press("ArrowDown")
    board.keyboard.press("ArrowRight")
    expect(cells(board).nth(3)).to_be_focused()
    board.keyboard.press("Space")
    board.keyboard.press("Shift+ArrowDown")
    expect(board.get_by_label("Selected cells")).to_contain_text("2 cells selected")
    board.keyboard.press("Escape")
    expect(board.get_by_label("Selected cells")).to_have_count(0)
    board.keyboard.press("Enter")
    expect(board.get_by_test_id("composed")).to_be_visible()


def test_clips_are_sorted_filtered_renamed_removed_and_brought_back(board: Page):
    board.get_by_label("Sort").select_option("shape")
    expect(clip_names(board)).to_have_text(["Arch", "Cab", "Bell"])
    board.get_by_role("button", name=re.compile("^Scaled over 200%")).click()
    expect(cells(board)).to_have_count(6)
    board.get_by_role("button", name="All clips").click()
    board.get_by_label("Actions for Arch").click()
    board.get_by_role("menuitem", name="Rename").click()
    enter(board.get_by_label("New name"), "Zebra.mp4")
    expect(board.get_by_text("Zebra", exact=True)).to_be_visible()
    board.get_by_label("Actions for Bell").click()
    board.get_by_role("menuitem", name="Remove").click()
    expect(cells(board)).to_have_count(4)
    board.get_by_test_id("done").get_by_role("button", name="Undo").click()
    expect(cells(board)).to_have_count(6)


def test_the_same_file_twice_says_so_and_numbered_stills_become_a_sequence(board: Page, pile, tmp_path):
    send(board, pile[0])
    expect(board.get_by_text("The same file as Arch.")).to_be_visible()
    files = []
    for number in range(4):
        data = io.BytesIO()
        Image.fromarray(np.full((72, 96, 3), 40 + 40 * number, np.uint8)).save(data, "PNG")
        files.append({"name": f"wheel.{number:03d}.png", "mimeType": "image/png", "buffer": data.getvalue()})
    board.get_by_label("Clips to add").set_input_files(files)
    expect(board.get_by_text("96×72, 25 fps, 4 stills")).to_be_visible()


def test_formats_are_drawn_and_ones_own_is_saved(page: Page):
    page.goto("/formats")
    drawing = page.get_by_role("img", name="The chosen formats")
    expect(drawing.locator("rect")).to_have_count(3)
    page.get_by_label("Square", exact=True).check()
    expect(drawing.locator("rect")).to_have_count(4)
    page.get_by_role("button", name="Turned upright").click()
    expect(page.get_by_label("Width of the format")).to_have_value("768")
    page.get_by_label("Name of the format").fill("Tall wall")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("cell", name="Tall wall")).to_be_visible()
    page.get_by_role("button", name="Remove").click()
    expect(page.get_by_role("cell", name="Tall wall")).to_have_count(0)
