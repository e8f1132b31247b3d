"""The whole of it in the page: a clip of two shots is cut, placed, keyed, played with sound, rendered and inspected."""

import re
from fractions import Fraction

import av
import cv2
import numpy as np
import pytest
from playwright.sync_api import Page, expect

from tests.browser.hands import open_tall, render_framing, settled_pixels, steps, stored
from tests.browser.visitor import until
from tests.clips import write_clip

pytestmark = pytest.mark.timeout(240)

RATE, FRAMES, CUT = 25, 100, 40
WIDTH, HEIGHT = 320, 180
TALL = (180, 320)
WATCHED = """(milliseconds) => new Promise((seen) => {
    const video = document.querySelector("[data-testid=played] video");
    const context = new AudioContext();
    const meter = context.createAnalyser();
    context.createMediaElementSource(video).connect(meter);
    const samples = new Float32Array(meter.fftSize);
    const times = [], levels = [];
    const began = performance.now();
    video.requestVideoFrameCallback(function each(now, { mediaTime }) {
        times.push(mediaTime);
        meter.getFloatTimeDomainData(samples);
        levels.push(Math.max(...samples.map(Math.abs)));
        if (performance.now() - began < milliseconds) video.requestVideoFrameCallback(each);
        else seen({ times, levels, height: video.videoHeight });
    });
})"""


def textured(seed, light):
    chance = np.random.default_rng(seed)
    small = chance.uniform(0, 1, (HEIGHT // 6, WIDTH // 6, 3)).astype(np.float32)
    return (cv2.resize(small, (WIDTH, HEIGHT), interpolation=cv2.INTER_CUBIC).clip(0, 1) * 120 + light).astype(np.uint8)


SHOTS = (textured(1, 20), textured(2, 110))


@pytest.fixture(scope="module")
def edited(tmp_path_factory):
    path = tmp_path_factory.mktemp("edited") / "Two shots.mp4"
    return write_clip(path, frames=FRAMES, paint=lambda number: SHOTS[number >= CUT])


@pytest.fixture
def bench(page: Page, edited):
    return open_tall(page, "Edited", edited, "Movement")


def shots_of(page):
    return stored(page)["plan"]["shots"]


def key_times(page):
    """Of the second shot's keys."""
    motion = shots_of(page)[1]["motion"]
    return [key["time"] for key in motion["keys"]] if motion else []


def place_shot(page, number):
    """Let a shot fill the frame."""
    page.get_by_role("button", name=f"Shot {number}", exact=True).click()
    steps(page).get_by_text("Placement", exact=True).click()
    page.get_by_role("button", name="Fill", exact=True).click()
    until(lambda: shots_of(page)[number - 1]["placement"] is not None, 10)


def drag_picture(page, across):
    box = page.get_by_test_id("composed").bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + across, y, steps=5)
    page.mouse.up()


def file_of(page, folder):
    """The pictures of the newest render's file, by another decoder."""
    base = re.match(r"https?://[^/]+", page.url)[0]
    project = re.search(r"projects/(\d+)", page.url)[1]
    render = page.request.get(f"{base}/api/projects/{project}/renders").json()[0]
    path = folder / "made.mp4"
    path.write_bytes(page.request.get(f"{base}/api/renders/{render['id']}/file").body())
    with av.open(str(path)) as container:
        return [frame.to_ndarray(format="rgb24") for frame in container.decode(video=0)]


def looked_at(picture, source):
    """Where on the source, across, the middle of a frame lies that fills it: by cross-correlation."""
    width, height = TALL
    small = cv2.resize(picture, (round(width * HEIGHT / height), HEIGHT), interpolation=cv2.INTER_AREA)
    like = cv2.matchTemplate(source, small, cv2.TM_CCOEFF_NORMED)[0]
    best = int(like.argmax())
    assert like[best] > 0.9
    return best + small.shape[1] / 2


def test_two_shots_are_placed_keyed_played_rendered_and_right(bench, tmp_path):
    bench.get_by_role("button", name="Find shots").click()
    expect(bench.get_by_role("button", name="Shot 2", exact=True)).to_be_visible(timeout=60_000)
    until(lambda: [Fraction(shot["start"]) for shot in shots_of(bench)] == [0, Fraction(CUT, RATE)], 20)
    for number in (1, 2):
        place_shot(bench, number)
    steps(bench).get_by_text("Movement", exact=True).click()
    bench.get_by_role("button", name="Add keyframe").click()
    until(lambda: shots_of(bench)[1]["motion"], 10)
    bench.keyboard.press("End")
    settled_pixels(bench)
    drag_picture(bench, -60)
    bench.get_by_role("button", name="New keyframe here").click()
    until(lambda: len(shots_of(bench)[1]["motion"]["keys"]) == 2, 10)
    expect(bench.get_by_role("button", name=re.compile("^Keyframe at"))).to_have_count(2)

    bench.keyboard.press("Home")
    bench.keyboard.press("l")
    bench.get_by_test_id("played").locator("video").wait_for()
    bench.wait_for_function("document.querySelector('[data-testid=played] video').currentTime > 0.2")
    seen = bench.evaluate(WATCHED, 2500)
    assert len(set(seen["times"])) > 15
    assert seen["times"] == sorted(seen["times"])
    assert max(seen["levels"]) > 0.05
    assert seen["height"] in (540, 270, 136)
    bench.keyboard.press("k")

    render_framing(bench)
    expect(bench.get_by_text("check passed")).to_be_visible(timeout=60_000)
    made = file_of(bench, tmp_path)
    assert len(made) == FRAMES
    first, last = (Fraction(key["x"]) for key in shots_of(bench)[1]["motion"]["keys"])
    assert last > first + Fraction(1, 20)
    for number in (0, CUT - 1):
        assert looked_at(made[number], SHOTS[0]) == pytest.approx(WIDTH / 2, abs=1)
    for number, x in ((CUT, first), (FRAMES - 1, last)):
        assert looked_at(made[number], SHOTS[1]) == pytest.approx(float(x + Fraction(1, 2)) * WIDTH, abs=1)
    way = [looked_at(made[number], SHOTS[1]) for number in range(CUT, FRAMES, 6)]
    assert way == sorted(way)


def test_cuts_and_keys_are_moved_copied_and_taken_away_in_their_lanes(bench):
    bench.get_by_role("button", name="Split here").click()
    cut = bench.get_by_role("slider", name="Cut before shot 2")
    until(lambda: [shot["start"] for shot in shots_of(bench)] == ["0", "2"], 10)
    cut.press("ArrowRight")
    until(lambda: shots_of(bench)[1]["start"] == "2.04", 10)
    box, lane = cut.bounding_box(), bench.locator("[data-lane=shots]").bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    bench.mouse.move(x, y)
    bench.mouse.down()
    bench.mouse.move(lane["x"] + lane["width"] * 25 / (FRAMES - 1), y, steps=5)
    bench.mouse.up()
    until(lambda: shots_of(bench)[1]["start"] == "1", 10)
    bench.get_by_role("button", name="Shot 2", exact=True).click()
    bench.get_by_role("button", name="Add keyframe").click()
    key = bench.get_by_test_id("lanes").get_by_role("button", name=re.compile("^Keyframe at"))
    key.press("Shift+ArrowRight")
    until(lambda: key_times(bench) == ["1.4"], 10)
    key.press("Alt+ArrowRight")
    until(lambda: key_times(bench) == ["1.4", "1.44"], 10)
    key.first.press("Delete")
    until(lambda: key_times(bench) == ["1.44"], 10)
    cut.press("Delete")
    until(lambda: shots_of(bench) == [], 10)


def test_a_value_changed_while_it_plays_goes_on_playing_where_it_was(bench):
    bench.keyboard.press("Home")
    bench.keyboard.press("l")
    video = "document.querySelector('[data-testid=played] video')"
    bench.get_by_test_id("played").locator("video").wait_for()
    bench.wait_for_function(f"{video}.currentTime > 0.3")
    with bench.expect_request("**/play") as again:
        steps(bench).get_by_text("Placement", exact=True).click()
        bench.get_by_role("button", name="Fill", exact=True).click()
    assert float(again.value.post_data_json["time"]) > 0.3
    before = bench.evaluate(f"{video}.currentTime")
    bench.wait_for_function(f"{video}.currentTime > {before} + 1")
    for choice in ("Whole", "Half fill", "Fill", "Whole", "Half fill", "Fill"):
        bench.get_by_role("button", name=choice, exact=True).click()
    before = bench.evaluate(f"{video}.currentTime")
    bench.wait_for_function(f"{video}.currentTime > {before} + 1")
    assert not bench.evaluate(f"{video}.paused")
    bench.get_by_role("button", name="Mute").click()
    assert bench.evaluate(f"{video}.muted")
    bench.get_by_role("button", name="Mute").click()
    bench.keyboard.press("f")
    expect(bench.get_by_label("Full screen", exact=True)).to_be_visible()
    bench.wait_for_function(f"!{video}.paused")
    bench.keyboard.press("f")
    bench.keyboard.press("k")
    expect(bench.get_by_test_id("played")).to_have_count(0)


def test_the_line_up_plays_its_ways_together(bench):
    bench.get_by_role("link", name="Line-up").click()
    expect(bench.get_by_alt_text("As it is")).to_be_visible()
    bench.get_by_role("button", name="Play").click()
    bench.get_by_test_id("played").locator("video").wait_for(state="attached")
    bench.wait_for_function("document.querySelector('[data-testid=played] video').currentTime > 0.2")
    ways = bench.locator("main li").count()
    expect(bench.locator("main li canvas")).to_have_count(ways)
    assert bench.locator("main li canvas").first.evaluate("(tile) => tile.width") > 20
    bench.get_by_role("button", name="Stop").click()
