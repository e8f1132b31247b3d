"""A placement that moves, in the page: a move, keys, what they cost over time, and the file that comes of it."""

import re

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from tests.browser.hands import enter, open_tall, other_than, render_framing, settled_pixels, steps, stored
from tests.browser.visitor import until
from tests.clips import write_clip

pytestmark = pytest.mark.timeout(240)


@pytest.fixture(scope="module")
def wide(tmp_path_factory):
    """Two seconds, lighter from left to right, so that where a window looks can be read from its lightness."""

    def paint(number):
        image = np.zeros((180, 320, 3), np.uint8)
        image[...] = np.linspace(30, 220, 320).astype(np.uint8)[None, :, None]
        image[60:120, 20 + number * 4 : 40 + number * 4, 0] = 230
        return image

    return write_clip(tmp_path_factory.mktemp("wide") / "Long street.mp4", frames=50, paint=paint)


@pytest.fixture
def bench(page: Page, wide):
    """The clip on the bench, filling an upright frame, at Movement."""
    open_tall(page, "Moves", wide, "Placement")
    page.get_by_role("button", name="Fill", exact=True).click()
    steps(page).get_by_text("Movement", exact=True).click()
    return page


def test_a_pan_goes_over_the_clip_and_is_rendered_as_it_is_shown(bench):
    bench.get_by_label("Move", exact=True).select_option(label="Pan left to right")
    expect(steps(bench).get_by_text("pan to the right")).to_be_visible()
    bench.keyboard.press("Home")
    left = settled_pixels(bench)
    bench.keyboard.press("End")
    right = settled_pixels(bench, other_than(left))
    assert right.mean() > left.mean() + 60
    over = bench.get_by_label("Over time")
    expect(over).to_contain_text("Picture kept 31.6%")
    expect(over).to_contain_text("Fast from")
    render_framing(bench)
    expect(bench.get_by_text("check passed")).to_be_visible(timeout=60_000)
    expect(bench.get_by_role("region", name="Inspection")).to_contain_text("180×320")


def test_a_push_is_set_by_number_and_turned_into_keys(bench):
    bench.get_by_label("Move", exact=True).select_option(label="Push in")
    enter(bench.get_by_label("Amount, %"), "20")
    expect(steps(bench).get_by_text("push in, 20%")).to_be_visible()
    bench.get_by_role("button", name="Convert to keyframes").click()
    keys = bench.get_by_role("list", name="Keys").get_by_role("listitem")
    expect(keys).to_have_count(2)
    until(lambda: len(stored(bench)["plan"]["motion"]["keys"]) == 2, 10)
    assert [key["tightness"] for key in stored(bench)["plan"]["motion"]["keys"]] == ["1", "1.2"]
    bench.get_by_role("button", name="Undo").click()
    expect(keys).to_have_count(0)
    until(lambda: stored(bench)["plan"]["motion"]["move"] is not None, 10)


def test_keys_are_set_where_one_is_moved_by_number_and_taken_away(bench):
    bench.keyboard.press("Home")
    bench.get_by_role("button", name="Add keyframe").click()
    keys = bench.get_by_role("list", name="Keys").get_by_role("listitem")
    expect(keys).to_have_count(1)
    bench.keyboard.press("End")
    bench.get_by_role("button", name="Add keyframe").click()
    expect(keys).to_have_count(2)
    before = settled_pixels(bench)
    enter(keys.nth(1).get_by_label(re.compile("^Across")), "30")
    lighter = settled_pixels(bench, other_than(before))
    assert lighter.mean() > before.mean() + 30
    until(lambda: [key["x"] for key in stored(bench)["plan"]["motion"]["keys"]] == ["0", "0.3"], 10)
    times = [key["time"] for key in stored(bench)["plan"]["motion"]["keys"]]
    assert times == ["0", "1.96"]
    keys.nth(1).get_by_role("button", name="Remove").click()
    expect(keys).to_have_count(1)
    expect(steps(bench).get_by_text("1 keyframe", exact=True)).to_be_visible()


def test_each_value_of_a_key_can_be_left_to_its_neighbours(bench):
    bench.keyboard.press("Home")
    bench.get_by_role("button", name="Add keyframe").click()
    until(lambda: len(stored(bench)["plan"]["motion"]["keys"]) == 1, 10)
    bench.get_by_role("button", name="Leave out the size at 00:00:00:00").click()
    until(lambda: stored(bench)["plan"]["motion"]["keys"][0]["tightness"] is None, 10)
    bench.get_by_role("button", name="Leave out the angle at 00:00:00:00").click()
    until(lambda: stored(bench)["plan"]["motion"]["keys"][0]["angle"] is None, 10)
    expect(bench.get_by_role("button", name=re.compile("^Leave out"))).to_have_count(0)
    assert stored(bench)["plan"]["motion"]["keys"][0]["x"] == "0"


def nudge_between_keys(bench):
    """Two keyframes, the moment between them, and a placement that is tried there, so that the page asks."""
    for moment in ("Home", "End"):
        bench.keyboard.press(moment)
        bench.get_by_role("button", name="Add keyframe").click()
    until(lambda: len(stored(bench)["plan"]["motion"]["keys"]) == 2, 10)
    bench.keyboard.press("Home")
    for _ in range(4):
        bench.keyboard.press("ArrowRight")
    bench.get_by_role("application").first.focus()
    bench.keyboard.press("Shift+ArrowLeft")
    expect(bench.get_by_role("region", name="Which keyframes to change")).to_be_visible()


def test_a_question_that_is_left_open_loses_no_keyframes(bench):
    nudge_between_keys(bench)
    bench.get_by_role("button", name="Split here").click()
    until(lambda: len(stored(bench)["plan"]["shots"]) == 2, 10)
    assert len(stored(bench)["plan"]["motion"]["keys"]) == 2
    expect(bench.get_by_role("region", name="Which keyframes to change")).to_have_count(0)
    bench.reload()
    expect(steps(bench).get_by_text("2 keyframes", exact=True)).to_be_visible()


@pytest.mark.parametrize("leave", ["another moment", "another step"])
def test_what_is_only_tried_is_dropped_with_what_it_belongs_to(bench, leave):
    nudge_between_keys(bench)
    if leave == "another step":
        steps(bench).get_by_text("Surround", exact=True).click()
    else:
        bench.get_by_role("slider", name="Playhead").focus()
        bench.keyboard.press("End")
    expect(bench.get_by_role("region", name="Which keyframes to change")).to_have_count(0)
    assert len(stored(bench)["plan"]["motion"]["keys"]) == 2
