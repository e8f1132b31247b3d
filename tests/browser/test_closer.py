"""Looking closer: scopes of the composed frame, the viewer and the timeline zoomed, the sound seen."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.hands import enter, open_bench
from tests.browser.visitor import until
from tests.clips import write_clip

pytestmark = pytest.mark.timeout(180)


@pytest.fixture(scope="module")
def sounding(tmp_path_factory):
    return write_clip(tmp_path_factory.mktemp("sounding") / "Sounding.mp4", size=(320, 180), frames=100)


@pytest.fixture
def bench(page: Page, sounding):
    open_bench(page, "Closer", sounding, "Placement")
    expect(page.get_by_test_id("composed")).to_be_visible()
    return page


def test_scopes_follow_the_picture(bench):
    bench.keyboard.press("w")
    scopes = bench.get_by_role("region", name="Scopes")
    picture = scopes.get_by_test_id("scope")
    expect(picture).to_be_visible()
    expect(scopes).to_contain_text(re.compile(r"[\d.]+%"))

    def shown():
        return hash(picture.get_attribute("src"))

    before = shown()
    enter(bench.get_by_label("Position X, frame pixels"), "300")
    until(lambda: shown() != before, 20)
    before = shown()
    scopes.get_by_role("radio", name="Vectorscope").click()
    until(lambda: shown() != before, 20)
    bench.keyboard.press("w")
    expect(scopes).to_have_count(0)


def test_the_viewer_zooms_and_shows_another_part(bench):
    view = bench.get_by_role("group", name="View")
    composed = bench.get_by_test_id("composed")
    view.get_by_role("button", name="Zoom in").click()
    expect(view.get_by_role("button", name="100%")).to_have_attribute("aria-pressed", "true")
    width = composed.bounding_box()["width"]
    view.get_by_role("button", name="Zoom in").click()
    expect(view.get_by_role("button", name="200%")).to_have_attribute("aria-pressed", "true")
    box = composed.bounding_box()
    assert box["width"] == pytest.approx(2 * width, abs=1)
    bench.get_by_role("application").focus()
    bench.keyboard.press("ArrowRight")
    bench.wait_for_function(
        "x => document.querySelector('[data-testid=composed]').getBoundingClientRect().x < x", arg=box["x"]
    )
    view.get_by_role("button", name="Frame").click()
    expect(view.get_by_role("button", name="100%")).to_have_attribute("aria-pressed", "false")


def test_the_timeline_zooms_and_keeps_the_playhead_in_sight(bench):
    track = bench.get_by_test_id("track")
    window = track.bounding_box()
    bench.keyboard.press("+")
    bench.keyboard.press("+")
    bench.wait_for_function(
        "() => [document.querySelector('[data-testid=track]')].some((it) => it.scrollWidth > 3.9 * it.clientWidth)"
    )
    playhead = bench.get_by_role("slider", name="Playhead")
    for key in ("End", "Home"):
        bench.get_by_role("main").click(position={"x": 5, "y": 5})
        bench.keyboard.press(key)
        expect(playhead).to_have_attribute("aria-valuenow", {"End": "99", "Home": "0"}[key])
        mark = bench.get_by_test_id("playhead").bounding_box()
        assert window["x"] - 4 <= mark["x"] <= window["x"] + window["width"] + 4
    bench.keyboard.press("-")
    bench.keyboard.press("-")
    expect(track.get_by_role("slider", name="Playhead")).to_have_css("width", f"{window['width']:g}px")


def test_the_sound_is_drawn_and_its_level_is_shown_while_it_plays(bench):
    waveform = bench.get_by_test_id("track").locator("canvas")
    expect(waveform).to_have_count(1)
    bench.wait_for_function("""() => {
        const pen = document.querySelector("[data-testid=track] canvas").getContext("2d");
        return pen.getImageData(0, 0, 960, 24).data.some(Boolean);
    }""")
    meter = bench.get_by_role("meter", name="Sound level")
    expect(meter).to_have_attribute("value", "0")
    bench.keyboard.press("Space")
    expect(meter).not_to_have_attribute("value", "0")
    bench.keyboard.press("k")
