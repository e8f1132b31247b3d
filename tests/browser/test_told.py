"""What concerns more than the cell at hand is said before it is done, or with the way back."""

import pytest
from playwright.sync_api import Page, expect

from tests.browser.hands import begin_project, open_bench, send, steps, stored
from tests.browser.visitor import Visitor
from tests.clips import write_clip

pytestmark = pytest.mark.timeout(240)
MOVE = {"do": "motion", "move": {"kind": "push", "percent": "20"}}


@pytest.fixture(scope="session")
def two(tmp_path_factory):
    folder = tmp_path_factory.mktemp("two")
    return [write_clip(folder / f"{name}.mp4", frames=25, sound=None) for name in ("Arch", "Bell")]


@pytest.fixture
def board(page: Page, two):
    begin_project(page, "Told")
    send(page, two)
    expect(page.locator("[data-cell]")).to_have_count(2)
    return page


def remove_from_menu(page: Page, clip: str):
    page.get_by_label(f"Actions for {clip}").click()
    page.get_by_role("menuitem", name="Remove").click()


def test_a_clip_that_another_uses_is_removed_only_when_that_is_confirmed(board: Page):
    visitor, project = Visitor(board.request), int(board.url.rpartition("/")[2])
    arch, bell = visitor.get(f"/api/projects/{project}")["cells"]
    framing = visitor.get(f"/api/framings/{bell['id']}")
    design = {part: framing["plan"][part] for part in ("placement", "motion", "finish", "shots")}
    design["surround"] = {"kind": "loop", "of": f"footage:{arch['footage']}"}
    steps = {"steps": [{"design": design, "label": "Loop"}], "version": framing["version"]}
    address = f"/api/framings/{bell['id']}/design"
    assert board.request.put(address, headers=visitor.headers, data=steps).ok
    remove_from_menu(board, "Arch")
    expect(board.get_by_test_id("uses").get_by_role("listitem")).to_have_count(1)
    expect(board.get_by_test_id("uses")).to_contain_text("Bell")
    board.get_by_role("button", name="Keep it").click()
    expect(board.locator("[data-cell]")).to_have_count(2)
    remove_from_menu(board, "Arch")
    board.get_by_role("button", name="Remove", exact=True).click()
    expect(board.locator("[data-cell]")).to_have_count(1)
    expect(board.locator("[data-cell]")).to_contain_text("uses Arch")
    board.get_by_test_id("done").get_by_role("button", name="Undo").click()
    expect(board.locator("[data-cell]")).to_have_count(2)
    expect(board.locator("[data-cell]").nth(1)).not_to_contain_text("uses Arch")


def test_a_treatment_that_takes_movement_away_says_so(page: Page, two):
    open_bench(page, "Treated", two[0], "Surround")
    visitor, framing = Visitor(page.request), stored(page)
    project = int(page.url.split("/")[4])
    visitor.post(f"/api/projects/{project}/cells", data={"framings": [framing["id"]], "action": MOVE})
    page.reload()
    expect(steps(page)).to_contain_text("push in")
    page.get_by_text("Treatments").click()
    page.get_by_role("button", name="Title card").click()
    note = page.get_by_role("status").filter(has_text="static")
    expect(note).to_be_visible()
    assert stored(page)["plan"]["motion"]["move"] is None
    note.get_by_role("button", name="Undo").click()
    expect(note).to_have_count(0)
    page.wait_for_function(
        "async (id) => (await (await fetch(`/api/framings/${id}`)).json()).plan.motion.move !== null",
        arg=framing["id"],
    )


def test_an_active_picture_says_how_many_clips_it_changes(board: Page):
    board.locator("[data-cell]").first.click()
    board.get_by_role("navigation", name="Steps").get_by_text("Frame", exact=True).click()
    board.get_by_label("Active picture", exact=True).select_option("2.39")
    note = board.get_by_role("status").filter(has_text="all 2 clips")
    expect(note).to_be_visible()
    note.get_by_role("button", name="Undo").click()
    expect(board.get_by_label("Active picture", exact=True)).to_have_value("")
    expect(note).to_have_count(0)
