"""Nothing that a hand has done is lost: on leaving, before Render and Undo, by another page, or by a server away."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.hands import (
    begin_project,
    enter,
    open_bench,
    render_framing,
    send,
    stay_when_asked,
    steps,
    undoes,
)
from tests.browser.visitor import until
from tests.clips import write_clip


@pytest.fixture(scope="session")
def pair(tmp_path_factory):
    folder = tmp_path_factory.mktemp("pair")
    return [write_clip(folder / f"{name}.mp4", size=(180, 320), frames=50, sound=None) for name in ("First", "Second")]


@pytest.fixture
def bench(page: Page, pair):
    """A clip on the bench at Placement."""
    open_bench(page, "Kept", pair[0], "Placement")
    expect(page.get_by_test_id("composed")).to_be_visible()
    return page


def moved(page):
    return page.get_by_label("Position X, frame pixels")


def framing(page):
    return re.search(r"framings/(\d+)", page.url)[1]


def stored(page, number):
    return page.evaluate("number => fetch(`/api/framings/${number}`).then(answer => answer.json())", number)


def looked(page):
    """Wait until nothing is being found out any more and the page has heard of it, which is within two seconds; what
    it asks for when somebody stays it has asked for by then.
    """
    board = re.sub(r"/framings.*", "", page.url).replace("/projects", "/api/projects")
    quiet = 0

    def rests():
        nonlocal quiet
        page.wait_for_timeout(250)
        busy = any(clip["analysing"] for clip in page.request.get(board).json()["footage"])
        quiet = 0 if busy else quiet + 1
        return quiet > 14

    until(rests, 60)


def placement(page, number):
    return stored(page, number)["plan"]["placement"]


def test_nudges_are_stored_when_the_page_goes_on_to_the_next_clip(page: Page, pair):
    bench = page
    begin_project(page, "Next")
    for clip in pair:
        send(page, clip)
        expect(page.get_by_role("row", name=clip.stem)).to_be_visible()
    page.locator("td a").first.click()
    number = framing(bench)
    bench.get_by_role("application").focus()
    for _ in range(5):
        bench.keyboard.press("ArrowRight")
    bench.get_by_role("button", name="Next clip").click()
    expect(bench).not_to_have_url(re.compile(f"framings/{number}"))
    until(lambda: placement(bench, number)["offset_x"] == "5", 10)
    assert undoes(bench) == ("Nudged", None)


@pytest.mark.long
def test_a_turn_of_the_wheel_is_what_is_rendered(bench):
    number = framing(bench)
    box = bench.get_by_role("application").bounding_box()
    bench.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    bench.mouse.wheel(0, -300)
    bench.get_by_role("group", name="View").get_by_role("button", name="Source").click()
    render_framing(bench)
    expect(steps(bench)).to_contain_text("Checkpass", timeout=60_000)
    tightness = placement(bench, number)["tightness"]
    assert tightness != "0"
    expect(bench.get_by_text(re.compile("out of date|not as it is now"))).to_have_count(0)


def test_what_was_just_done_is_what_undo_takes_back(bench):
    number = framing(bench)
    enter(bench.get_by_label("Fill amount, %"), "40")
    until(lambda: placement(bench, number)["tightness"] == "0.4", 10)
    bench.get_by_role("application").focus()
    bench.keyboard.press("ArrowRight")
    bench.keyboard.press("ArrowRight")
    bench.keyboard.press("Control+z")
    expect(moved(bench)).to_have_value("0")
    until(lambda: undoes(bench)[1] == "Nudged", 10)
    assert placement(bench, number)["tightness"] == "0.4"


def test_keys_move_a_slider_by_their_number_in_one_step(bench):
    number = framing(bench)
    slider = bench.get_by_role("slider", name="Fill amount")
    slider.focus()
    for _ in range(10):
        bench.keyboard.press("ArrowRight")
    expect(bench.get_by_label("Fill amount, %")).to_have_value("10")
    until(lambda: placement(bench, number)["tightness"] == "0.1", 10)
    bench.get_by_role("button", name="Undo").click()
    until(lambda: undoes(bench)[0] == "Add First.mp4", 10)
    assert placement(bench, number)["tightness"] == "0"


@pytest.mark.parametrize("what", ["the picture", "a slider"])
def test_escape_takes_a_drag_back(bench, what):
    number = framing(bench)
    before = stored(bench, number)
    grip = (
        bench.get_by_role("application") if what == "the picture" else bench.get_by_role("slider", name="Fill amount")
    )
    box = grip.bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    bench.mouse.move(x, y)
    bench.mouse.down()
    bench.mouse.move(x + 50, y + 4, steps=5)
    field = moved(bench) if what == "the picture" else bench.get_by_label("Fill amount, %")
    expect(field).not_to_have_value("0")
    bench.keyboard.press("Escape")
    expect(field).to_have_value("0")
    bench.mouse.move(x + 90, y + 4, steps=3)
    bench.mouse.up()
    bench.wait_for_timeout(700)  # longer than a hand rests
    expect(field).to_have_value("0")
    after = stored(bench, number)
    # Its surround may have become another meanwhile: a calmer one, once a worker has looked at the clip.
    assert (after["version"], after["plan"]["placement"]) == (before["version"], before["plan"]["placement"])


def test_of_two_pages_on_one_framing_neither_silently_takes_the_other_s_back(bench, context):
    number = framing(bench)
    looked(bench)
    other = context.new_page()
    other.goto(bench.url)
    steps(other).get_by_text("Placement", exact=True).click()
    enter(other.get_by_label("Scale, %"), "150")
    until(lambda: placement(other, number)["scale"] == "1.5", 10)
    enter(bench.get_by_label("Fill amount, %"), "70")
    note = bench.get_by_role("alert")
    expect(note).to_contain_text("changed elsewhere meanwhile: Scale")
    assert placement(bench, number)["scale"] == "1.5"
    bench.get_by_role("button", name="Keep mine").click()
    until(lambda: placement(bench, number)["tightness"] == "0.7", 10)
    expect(note).to_have_count(0)
    enter(other.get_by_label("Scale, %"), "120")
    other.get_by_role("button", name="Take theirs").click()
    expect(other.get_by_label("Fill amount, %")).to_have_value("70")
    assert placement(bench, number)["sizing"] == "tightness"
    other.close()


def test_while_the_server_is_away_changes_wait_and_are_then_sent(bench):
    number = framing(bench)
    bench.route("**/design", lambda route: route.abort())
    enter(bench.get_by_label("Fill amount, %"), "60")
    expect(bench.get_by_role("status").filter(has_text="sent once it is back")).to_be_visible()
    enter(moved(bench), "12")
    assert placement(bench, number)["tightness"] == "0"
    bench.unroute("**/design")
    until(lambda: placement(bench, number)["offset_x"] == "12", 20)
    assert placement(bench, number)["tightness"] == "0.6"
    expect(bench.get_by_text("sent once it is back")).to_have_count(0)


def test_what_the_page_goes_away_from_is_sent_as_it_goes(bench):
    number = framing(bench)
    bench.on("dialog", lambda dialog: dialog.accept())
    enter(bench.get_by_label("Fill amount, %"), "55")
    bench.goto("/")
    until(lambda: placement(bench, number)["tightness"] == "0.55", 10)


@pytest.mark.parametrize("arrives", [True, False])
def test_a_reload_in_the_middle_of_several_changes_loses_none_of_them(bench, arrives):
    """The first is on its way, and the page hears nothing of it, while two more wait for it."""
    number = framing(bench)
    bench.on("dialog", lambda dialog: dialog.accept())
    held = []
    bench.route("**/design", lambda route: held.append(route.fetch() if arrives else route))
    enter(bench.get_by_label("Fill amount, %"), "40")
    until(lambda: bench.wait_for_timeout(20) or held, 10)
    enter(moved(bench), "12")
    enter(bench.get_by_label("Position Y, frame pixels"), "7")
    expect(bench.get_by_role("button", name="Undo")).to_have_attribute("title", re.compile("Position"))
    bench.unroute_all(behavior="ignoreErrors")
    bench.reload()
    expect(bench.get_by_label("Fill amount, %")).to_have_value("40")
    until(lambda: placement(bench, number)["offset_y"] == "7", 20)
    now = placement(bench, number)
    assert (now["tightness"], now["offset_x"]) == ("0.4", "12")
    assert undoes(bench)[0] == "Position"
    bench.get_by_role("button", name="Undo").click()
    # The two that wait are one step where the hand was quick.
    until(lambda: placement(bench, number)["offset_y"] == "0", 20)
    expect(bench.get_by_role("alert")).to_have_count(0)


def test_playing_asks_for_one_stream_and_for_nothing_else(bench):
    steps(bench).get_by_text("Surround", exact=True).click()
    expect(bench.get_by_role("button", name="Pattern").locator("img")).to_be_visible()
    tiles = bench.get_by_label("Surround").locator("button img")
    until(lambda: tiles.count() == 11, 20)
    looked(bench)  # finished analyses change the tiles
    asked = []
    bench.on("request", lambda request: asked.append(request.url.rpartition("/")[2]))
    bench.keyboard.press("l")
    bench.get_by_test_id("played").locator("video").wait_for()
    bench.wait_for_function("document.querySelector('[data-testid=played] video').currentTime > 1")
    assert [name for name in asked if name not in ("changes", "renders", "queue")] == ["play"]
    bench.keyboard.press("k")
    # The viewer and the tiles come up with where it stopped.
    until(lambda: bench.wait_for_timeout(50) or asked.count("preview") > 2, 20)


def test_a_drag_asks_for_picture_and_numbers_together_and_an_edit_asks_for_no_board(bench):
    asked, answered, boards, alone = [], [], [], []

    def measures(request):
        return request.url.endswith("/preview") and request.post_data_json["measured"]

    def note(request):
        if measures(request):
            asked.append(len(asked) - len(answered))
            alone.append(request.post_data_json["width"] is None)
        if re.search(r"/api/projects/\d+$", request.url):
            boards.append(request.url)

    looked(bench)
    bench.on("request", note)
    bench.on("requestfinished", lambda request: answered.append(1) if measures(request) else None)
    bench.on("requestfailed", lambda request: answered.append(1) if measures(request) else None)  # cancelled
    box = bench.get_by_role("application").bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    bench.mouse.move(x, y)
    bench.mouse.down()
    bench.mouse.move(x + 180, y + 40, steps=60)
    bench.mouse.up()
    undo = bench.get_by_role("button", name="Undo")
    expect(undo).to_have_attribute("title", re.compile("Position"))
    until(lambda: undoes(bench)[0] == "Position", 10)
    assert max(asked) <= 3  # two run at once, and their ends are heard of late; 60 moves were made
    assert not any(alone)
    assert boards == []


def test_an_edit_shows_on_the_board_without_asking_for_it(page: Page, pair):
    open_bench(page, "Cell", pair[0], "Placement")
    page.get_by_role("button", name="Fill", exact=True).click()
    until(lambda: placement(page, framing(page))["tightness"] == "1", 10)
    page.get_by_role("link", name="Cell").click()
    expect(page.get_by_role("gridcell").filter(has_text="31.6% kept")).to_be_visible()


def test_two_undos_just_before_the_page_goes_elsewhere_are_both_done(bench):
    number = framing(bench)
    enter(bench.get_by_label("Fill amount, %"), "40")
    enter(moved(bench), "12")
    until(lambda: placement(bench, number)["offset_x"] == "12", 10)
    bench.get_by_role("application").focus()
    bench.keyboard.press("Control+z")
    bench.keyboard.press("Control+z")
    bench.get_by_role("link", name="Line-up").click()
    until(lambda: undoes(bench)[0] == "Add First.mp4", 10)
    now = placement(bench, number)
    assert (now["tightness"], now["offset_x"]) == ("0", "0")


def test_an_undo_on_its_way_is_asked_about_before_the_page_is_left(bench):
    number = framing(bench)
    enter(bench.get_by_label("Fill amount, %"), "40")
    until(lambda: placement(bench, number)["tightness"] == "0.4", 10)
    held = []
    bench.route("**/undo", lambda route: held.append(route))  # noqa: PLW0108 - it cannot take a bound method
    bench.get_by_role("button", name="Undo").click()
    until(lambda: bench.wait_for_timeout(20) or held, 10)
    stay_when_asked(bench)
    held[0].continue_()
    until(lambda: placement(bench, number)["tightness"] == "0", 10)
