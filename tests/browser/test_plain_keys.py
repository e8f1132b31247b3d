"""Space plays and arrow keys step a frame, whatever was clicked before; what is typed fast arrives whole."""

import re
import sqlite3
from contextlib import closing

import pytest
from playwright.sync_api import Page, expect

from tests.application import DATABASE
from tests.browser.hands import begin_project, open_bench, open_tall, send, steps, stored, undoes
from tests.browser.visitor import Visitor, becomes, until

pytestmark = pytest.mark.timeout(180)


@pytest.fixture
def bench(page: Page, tall):
    open_bench(page, "Keys", tall, "Placement")
    expect(page.get_by_test_id("composed")).to_be_visible()
    return page


def frame(page):
    return int(page.get_by_role("slider", name="Playhead").get_attribute("aria-valuenow"))


def test_space_plays_after_a_click_and_presses_what_the_keyboard_reached(bench):
    fill = bench.get_by_role("button", name="Fill", exact=True)
    fill.click()
    bench.keyboard.press("Space")
    expect(bench.get_by_role("button", name="Stop")).to_be_visible()
    bench.keyboard.press("Space")
    expect(bench.get_by_role("button", name="Play", exact=True)).to_be_visible()
    mute = bench.get_by_role("button", name="Mute")
    bench.get_by_role("button", name="Play", exact=True).focus()
    bench.keyboard.press("Tab")
    expect(mute).to_be_focused()
    before = mute.get_attribute("aria-pressed")
    bench.keyboard.press("Space")
    expect(mute).not_to_have_attribute("aria-pressed", before)
    expect(bench.get_by_role("button", name="Play", exact=True)).to_be_visible()
    bench.keyboard.press("Space")
    expect(mute).to_have_attribute("aria-pressed", before)


def test_arrow_keys_step_a_frame_unless_something_else_walks_with_them(bench):
    steps(bench).get_by_text("Finish", exact=True).click()
    start = frame(bench)
    bench.keyboard.press("ArrowRight")
    becomes(lambda: frame(bench), start + 1, 5)
    bench.keyboard.press("Shift+ArrowRight")
    becomes(lambda: frame(bench), start + 11, 5)
    bench.keyboard.press("ArrowLeft")
    becomes(lambda: frame(bench), start + 10, 5)
    steps(bench).get_by_text("Placement", exact=True).click()
    bench.get_by_role("application").first.focus()
    bench.keyboard.press("ArrowRight")
    expect(bench.get_by_role("button", name="Undo")).to_be_enabled()
    assert frame(bench) == start + 10


def test_what_is_typed_fast_into_the_search_arrives_whole(page: Page, tall):
    begin_project(page, "Searched")
    send(page, tall)
    expect(page.locator("tbody th p.font-semibold")).to_have_count(1)
    field = page.get_by_role("searchbox", name="Search clips")
    field.press_sequentially("a tall tram by the sea", delay=1)
    expect(field).to_have_value("a tall tram by the sea")
    until(lambda: "search=a+tall+tram+by+the+sea" in page.url, 5)


def test_a_file_whose_check_failed_is_told_of_and_left_out(page: Page, application, tall):
    visitor = Visitor(page.request)
    project, framing = visitor.project_with(tall)
    visitor.post(f"/api/framings/{framing}/renders")
    until(lambda: visitor.get(f"/api/projects/{project}/renders")[0]["state"] == "done", 120)
    with closing(sqlite3.connect(application.folder / DATABASE)) as database, database:
        failed = "update studio_render set report_json = json_set(report_json, '$.right', json('false'))"
        database.execute(f"{failed} where framing_id = ?", [framing])
    page.goto(f"/projects/{project}")
    expect(page.locator("[data-cell]")).to_contain_text("check failed")
    page.get_by_role("button", name="Render or check failed").click()
    expect(page.locator("[data-cell]")).to_have_count(1)
    page.goto(f"/projects/{project}/renders")
    expect(page.get_by_role("link", name="Download it too")).to_be_visible()
    assert page.request.get(f"/api/projects/{project}/delivery/files").status == 422
    assert page.request.get(f"/api/projects/{project}/delivery/files?failed=true").status == 200


def test_undo_takes_back_what_was_done_last_wherever_that_was(bench):
    """A placement, the source, the range, and the frame; a reload in between; then back and forth again."""
    bench.get_by_role("button", name="Fill", exact=True).click()
    until(lambda: stored(bench)["plan"]["placement"]["tightness"] == "1", 10)
    steps(bench).get_by_text("Source", exact=True).click()
    range_field = bench.get_by_role("combobox", name="Range")
    if not range_field.is_visible():
        bench.locator("summary").filter(has_text="Colour").first.click()
    range_field.select_option(value="full")
    bench.get_by_role("main").click(position={"x": 5, "y": 5})
    bench.keyboard.press("ArrowRight")
    bench.keyboard.press("i")
    steps(bench).get_by_text("Frame", exact=True).click()
    bench.get_by_label("Active picture", exact=True).select_option("2.39")
    undo = bench.get_by_role("banner").get_by_role("button", name="Undo")
    done = ["Fill", "Code range", "In and out points", "Active picture"]
    expect(undo).to_have_attribute("title", re.compile(done[-1]))
    bench.reload()
    for label in reversed(done):
        expect(undo).to_have_attribute("title", re.compile(label))
        bench.keyboard.press("Control+z")
        until(lambda label=label: undoes(bench)[1] == label, 10)
    now = visited(bench)
    assert (now["stated"]["range"], now["range"]) == (None, None)
    plan = stored(bench)["plan"]
    assert (plan["placement"]["tightness"], plan["frame"]["active"]) == ("0", None)
    for _ in done:
        bench.get_by_role("banner").get_by_role("button", name="Redo").click()
    until(lambda: undoes(bench) == (done[-1], None), 10)
    assert stored(bench)["plan"]["frame"]["active"] is not None


def test_undoing_what_brought_the_framing_goes_back_to_the_board(page: Page, tall):
    open_tall(page, "Brought", tall, "Placement")
    page.keyboard.press("Control+z")
    expect(page.get_by_role("grid")).to_be_visible()
    expect(page.get_by_test_id("done")).to_contain_text("Add frame Tall")
    expect(page.locator("[data-cell]")).to_have_count(1)
    page.get_by_role("button", name="Redo").click()
    expect(page.locator("[data-cell]")).to_have_count(2)


def visited(page):
    """The clip of the project on the bench, as the server has it."""
    project = page.url.split("/projects/")[1].split("/")[0]
    return page.request.get(f"/api/projects/{project}").json()["footage"][0]
