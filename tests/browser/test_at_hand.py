"""The page fits the hand: keys, fingers, what it remembers, and where files are let go."""

import base64
import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.hands import begin_project, clip_names, open_bench, open_tall, settled_pixels, steps, stored
from tests.browser.visitor import until

pytestmark = pytest.mark.timeout(240)


def current(page, step):
    return expect(steps(page).locator("[aria-current=step]")).to_contain_text(step)


def test_steps_have_keys_and_the_list_of_keys_is_that_of_the_screen(page: Page, tall):
    open_tall(page, "Keys", tall, "Placement")
    for key, step in (("5", "Surround"), ("1", "Source"), ("3", "Placement")):
        page.keyboard.press(key)
        current(page, step)
    page.get_by_role("button", name="Native size", exact=True).click()
    for key, native in ((None, True), ("Control+z", False), ("Control+y", True)):
        if key:
            page.keyboard.press(key)
        until(lambda native=native: (stored(page)["plan"]["placement"]["sizing"] == "native") == native, 10)
    page.keyboard.press("Shift+?")
    keys = page.get_by_role("dialog", name="Keyboard shortcuts")
    expect(keys.get_by_text("Step Surround")).to_be_visible()
    page.keyboard.press("5")  # in the dialog keys are its own
    page.keyboard.press("Escape")
    current(page, "Placement")
    page.goto(page.url.split("/framings")[0])
    page.get_by_role("grid").wait_for()
    page.keyboard.press("Shift+?")
    expect(keys.get_by_text("Open it on the bench")).to_be_visible()
    expect(keys.get_by_text("Step Surround")).to_have_count(0)


def test_moment_step_and_width_are_there_again(page: Page, tall):
    open_tall(page, "There again", tall, "Surround")
    page.keyboard.press("Home")
    expect(page).to_have_url(re.compile("at=0"))
    edge = page.get_by_role("separator", name="Panel width")
    before = int(edge.get_attribute("aria-valuenow"))
    edge.focus()
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("ArrowLeft")
    expect(edge).to_have_attribute("aria-valuenow", str(before + 32))
    page.reload()
    current(page, "Surround")
    expect(page.get_by_test_id("timecode")).to_have_value("00:00:00:00")
    expect(edge).to_have_attribute("aria-valuenow", str(before + 32))
    edge.dblclick(position={"x": 3, "y": 200})
    page.get_by_role("link", name="Line-up").click()
    expect(page.get_by_role("heading", name="Line-up")).to_be_visible()
    expect(page.get_by_test_id("timecode")).to_have_value("00:00:00:00")
    page.go_back()
    current(page, "Surround")
    expect(page.get_by_test_id("timecode")).to_have_value("00:00:00:00")
    expect(page).to_have_title(re.compile("^Tall · There again"))


def test_two_fingers_size_the_picture_about_themselves(page: Page, tall):
    open_tall(page, "Fingers", tall, "Placement")
    settled_pixels(page)
    well = page.get_by_role("application")
    box = well.bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    touch = page.context.new_cdp_session(page)

    def fingers(kind, *places):
        points = [{"x": across, "y": down, "id": number} for number, (across, down) in enumerate(places)]
        touch.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})

    before = stored(page)["plan"]["placement"]
    fingers("touchStart", (x - 40, y))
    fingers("touchStart", (x - 40, y), (x + 40, y))
    for apart in range(40, 82, 4):
        fingers("touchMove", (x - apart, y), (x + apart, y))
    fingers("touchEnd", (x - 80, y))
    fingers("touchEnd")
    until(lambda: stored(page)["plan"]["placement"]["sizing"] == "scale", 10)
    now = stored(page)["plan"]["placement"]
    assert float(now["scale"]) == pytest.approx(2, abs=0.05)  # it filled its frame of the same shape
    # The frame lies a little above the well's middle, which the fingers are about: the picture grows away from there.
    assert abs(float(now["offset_x"])) < 6
    assert abs(float(now["offset_y"])) < 60
    assert before["offset_x"] == "0"

    for _ in range(2):
        fingers("touchStart", (x, y))
        fingers("touchEnd")
    until(lambda: stored(page)["plan"]["placement"]["sizing"] == "tightness", 10)


def test_projects_are_found_renamed_doubled_put_away_and_brought_back(page: Page):
    begin_project(page, "Harbour reel")
    page.goto("/")
    row = page.get_by_role("listitem").filter(has_text="Harbour reel")
    more = page.get_by_role("button", name="Actions for Harbour reel", exact=True)
    more.click()
    page.get_by_role("menuitem", name="Rename").click()
    name = page.get_by_label("New name")
    expect(name).to_be_focused()
    page.keyboard.type("Quay reel")
    page.keyboard.press("Enter")
    row = page.get_by_role("listitem").filter(has_text="Quay reel")
    expect(row).to_have_count(1)

    def choose(what, of="Quay reel"):
        page.get_by_role("button", name=f"Actions for {of}", exact=True).click()
        page.get_by_role("menuitem", name=what).click()

    choose("Duplicate")
    expect(row).to_have_count(2)
    choose("Delete", "Quay reel copy")
    expect(row).to_have_count(1)
    page.get_by_test_id("done").get_by_role("button", name="Undo").click()
    expect(row).to_have_count(2)
    choose("Archive", "Quay reel copy")
    expect(row).to_have_count(1)
    page.get_by_text("Archive", exact=True).click()
    expect(row).to_have_count(2)
    choose("Delete", "Quay reel copy")
    expect(row).to_have_count(1)


def test_a_menu_gives_the_focus_back(page: Page, tall):
    open_bench(page, "Focus", tall, "Placement")
    page.goto(page.url.split("/framings")[0])
    opener = page.get_by_role("button", name="Actions for Tall")
    opener.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("menu")).to_be_visible()
    page.keyboard.press("Escape")
    expect(opener).to_be_focused()


LET_GO = """([name, type, data]) => {
    const files = new DataTransfer();
    files.items.add(new File([Uint8Array.from(atob(data), (one) => one.charCodeAt(0))], name, { type: "video/mp4" }));
    const given = { bubbles: true, cancelable: true };
    const event = type === "paste" ? new ClipboardEvent(type, { ...given, clipboardData: files })
        : new DragEvent(type, { ...given, dataTransfer: files });
    return !document.querySelector("header").dispatchEvent(event);
}"""


def let_go(page: Page, clip, kind="drop") -> bool:
    """Let a clip go on the page; whether the browser leaves it to the page."""
    return page.evaluate(LET_GO, [clip.name, kind, base64.b64encode(clip.read_bytes()).decode()])


def test_a_file_let_go_where_no_project_is_begins_one(page: Page, tall):
    page.goto("/formats")
    expect(page.get_by_role("heading", name="Formats", exact=True)).to_be_visible()
    assert let_go(page, tall)
    expect(page.get_by_role("heading", name="Tall", exact=True)).to_be_visible()
    expect(clip_names(page)).to_have_text(["Tall"])


def test_files_let_go_or_pasted_on_the_bench_come_into_its_project(page: Page, tall):
    open_tall(page, "Let go", tall, "Surround")
    project = page.url.split("/framings")[0]
    assert let_go(page, tall)
    expect(page.get_by_label("Uploads")).to_have_count(0)
    let_go(page, tall, "paste")
    api = project.replace("/projects/", "/api/projects/")
    until(lambda: page.wait_for_timeout(50) or len(page.request.get(api).json()["footage"]) == 3, 20)
    page.goto(project)
    expect(clip_names(page)).to_have_count(3)


def test_help_is_found_by_its_words(page: Page):
    page.goto("/help")
    page.get_by_label("Search the help").fill("outlines bars")
    found = page.get_by_role("navigation", name="Tasks").get_by_role("link")
    expect(found).to_have_count(1)
    found.click()
    expect(page.get_by_role("heading", name="Bars in the file, or not")).to_be_visible()
    expect(page.get_by_role("main").get_by_role("img")).to_be_visible()


LONG = pytest.mark.long


@pytest.mark.parametrize(
    "size", [(820, 1180), (320, 640), pytest.param((1024, 768), marks=LONG), pytest.param((390, 844), marks=LONG)]
)
def test_no_screen_cuts_the_bench_off(page: Page, tall, size):
    """320 columns are 1280 at 400%."""
    open_tall(page, f"Size {size[0]}", tall, "Surround")
    page.set_viewport_size({"width": size[0], "height": size[1]})
    expect(page.get_by_test_id("composed")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= size[0]
    for part in (
        page.get_by_role("banner").get_by_role("button", name="Render"),
        page.get_by_label("Blur, %"),
        page.get_by_role("button", name="Play", exact=True),
    ):
        part.scroll_into_view_if_needed()
        box = part.bounding_box()
        assert box["x"] >= 0
        assert box["x"] + box["width"] <= size[0] + 0.5


def test_what_the_build_names_by_its_content_is_kept_and_comes_small(page: Page):
    page.goto("/")
    script = page.locator("script[src]").first.get_attribute("src")
    answer = page.request.get(script, headers={"Accept-Encoding": "br"})
    assert "immutable" in answer.headers["cache-control"]
    assert answer.headers["content-encoding"] == "br"
    assert int(answer.headers["content-length"]) < 250_000
