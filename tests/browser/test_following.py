"""A window that follows, in the page: watched, another chosen, pinned, rendered; and the file lies on the way."""

import re
from fractions import Fraction

import cv2
import numpy as np
import pytest
from playwright.sync_api import Page, expect

from cadrage.plan import Plan
from tests.browser.hands import open_tall, render_framing, steps, stored
from tests.browser.test_playing import file_of
from tests.browser.visitor import until
from tests.clips import write_clip
from tests.following import drawing

pytestmark = pytest.mark.timeout(240)
WIDTH, HEIGHT, RATE, FRAMES = 640, 360, 25, 100
LARGE, SMALL = (200, 40, 40), (40, 60, 210)


def places(number):
    """Where the larger of two who walk is across, and where the smaller."""
    return 90 + 3.0 * number, 560 - 2.4 * number


def picture(number):
    image = drawing.place(6, WIDTH, HEIGHT).copy()
    large, small = places(number)
    drawing.put_walker(image, large, 205, 180, number, LARGE)
    drawing.put_walker(image, small, 250, 90, number, SMALL)
    return image


@pytest.fixture(scope="module")
def crossing(tmp_path_factory):
    path = tmp_path_factory.mktemp("crossing") / "Two who cross.mp4"
    return write_clip(path, size=(WIDTH, HEIGHT), frames=FRAMES, paint=picture)


def follow_of(page):
    return stored(page)["plan"]["motion"]["follow"]


def middle_at(page, number):
    """Where the middle of the window is on the source, across, by the plan."""
    (way,) = Plan.model_validate(stored(page)["plan"]).motion.follow.path
    return float((way.x.at(Fraction(number, RATE) - way.since) + Fraction(1, 2)) * WIDTH)


def looked_at(made, source):
    """Where on the source, across, the middle of a frame lies that fills it: by correlation, between samples."""
    small = cv2.resize(made, (round(made.shape[1] * HEIGHT / made.shape[0]), HEIGHT), interpolation=cv2.INTER_CUBIC)
    like = cv2.matchTemplate(source, small, cv2.TM_CCOEFF_NORMED)[0]
    best = int(like.argmax())
    assert like[best] > 0.9
    if 0 < best < len(like) - 1:
        before, peak, after = (float(value) for value in like[best - 1 : best + 2])
        return best + (before - after) / (2 * (before - 2 * peak + after)) + small.shape[1] / 2
    return best + small.shape[1] / 2


def test_followed_watched_corrected_and_rendered(page: Page, crossing, tmp_path):
    bench = open_tall(page, "Follows", crossing, "Movement")
    bench.get_by_role("button", name="Follow subject").click()
    whom = bench.get_by_role("region", name="Choose a subject")
    expect(whom.get_by_role("button")).not_to_have_count(0, timeout=60_000)
    until(lambda: follow_of(bench)["path"], 20)
    for number in (20, 50, 80):
        assert abs(middle_at(bench, number) - max(101, min(539, places(number)[0]))) < 60

    # It is watched over the whole picture, all outside the window dark.
    bench.get_by_role("group", name="View").get_by_role("button", name="Source").click()
    expect(bench.get_by_test_id("dimmed")).to_be_visible()
    bench.get_by_role("button", name="Dim outside").click()
    expect(bench.get_by_test_id("dimmed")).to_have_count(0)
    bench.get_by_role("button", name="Play").click()
    bench.get_by_test_id("played").locator("video").wait_for()
    bench.wait_for_function("document.querySelector('[data-testid=played] video').currentTime > 0.3")
    window = bench.get_by_test_id("window")
    before = window.get_attribute("d")
    until(lambda: window.get_attribute("d") != before, 10)
    bench.get_by_role("button", name="Stop", exact=True).click()

    # Not that one: the other.
    bench.keyboard.press("Home")
    one, other = (whom.get_by_role("button", name=re.compile(f"number {number}$")) for number in (1, 2))
    expect(one).to_be_visible()
    other.click()
    expect(other).to_have_attribute("aria-pressed", "true", timeout=20_000)
    until(lambda: len(follow_of(bench)["subjects"]) == 1, 10)
    for number in (20, 50, 80):
        assert abs(middle_at(bench, number) - max(101, min(539, places(number)[1]))) < 60

    # Here exactly here, by hand.
    bench.get_by_role("group", name="View").get_by_role("button", name="Frame").click()
    well = bench.get_by_role("application").bounding_box()
    x, y = well["x"] + well["width"] / 2, well["y"] + well["height"] / 2
    bench.mouse.move(x, y)
    bench.mouse.down()
    bench.mouse.move(x + 40, y, steps=4)
    bench.mouse.up()
    expect(bench.get_by_role("list", name="Pins").get_by_role("listitem")).to_have_count(1, timeout=20_000)
    expect(bench.get_by_role("button", name=re.compile("^Pin at"))).to_have_count(1)
    until(lambda: len(follow_of(bench)["pins"]) == 1, 10)
    pinned = float((Fraction(follow_of(bench)["pins"][0]["x"]) + Fraction(1, 2)) * WIDTH)
    assert middle_at(bench, 0) == pytest.approx(max(101.25, pinned), abs=0.01)
    expect(steps(bench).get_by_text("follows, medium")).to_be_visible()

    render_framing(bench)
    expect(bench.get_by_text("check passed")).to_be_visible(timeout=60_000)
    made = file_of(bench, tmp_path)
    assert len(made) == FRAMES
    for number in range(0, FRAMES, 9):
        assert looked_at(made[number], picture(number)) == pytest.approx(middle_at(bench, number), abs=1)


@pytest.mark.long
def test_a_box_is_drawn_round_something_and_many_cells_follow(page: Page, crossing):
    bench = open_tall(page, "Boxes", crossing, "Movement")
    bench.get_by_role("button", name="Follow subject").click()
    bench.get_by_role("button", name="Draw a box").click(timeout=60_000)
    place = bench.get_by_test_id("draw-box").bounding_box()
    across, down = place["width"] / WIDTH, place["height"] / HEIGHT
    number = FRAMES // 2
    middle = places(number)[1]
    bench.mouse.move(place["x"] + (middle - 25) * across, place["y"] + 205 * down)
    bench.mouse.down()
    bench.mouse.move(place["x"] + (middle + 25) * across, place["y"] + 296 * down, steps=4)
    bench.mouse.up()
    boxes = bench.get_by_role("list", name="Boxes").get_by_role("listitem")
    expect(boxes).to_have_count(1, timeout=20_000)
    until(lambda: follow_of(bench)["subjects"] and follow_of(bench)["path"], 10)
    for at in (20, 50, 80):
        assert abs(middle_at(bench, at) - max(101, min(539, places(at)[1]))) < 60
    bench.get_by_role("button", name="Undo").click()
    expect(boxes).to_have_count(0)

    bench.get_by_role("link", name="Boxes").click()
    bench.get_by_role("button", name="Tall", exact=True).click()
    bench.get_by_role("button", name="Follow ▴").click()
    bench.get_by_role("menuitem", name="Follow, calm").click()
    expect(bench.get_by_text("Follows, calm")).to_be_visible(timeout=30_000)
    first, last = (
        bench.get_by_alt_text("first frame, fills the frame in Tall"),
        bench.get_by_alt_text("last frame, fills the frame in Tall"),
    )
    expect(first).to_be_visible(timeout=30_000)
    expect(last).to_be_visible()
    assert np.isfinite(first.bounding_box()["width"])
