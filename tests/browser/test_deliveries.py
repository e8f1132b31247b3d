"""Files ordered together, one stopped and tried again, handed over with their sheet."""

import json
import re
import subprocess
import zipfile

import pytest
from playwright.sync_api import Page, expect

from tests.browser.hands import begin_project, confirm_render, open_bench, send, steps
from tests.clips import write_clip

pytestmark = pytest.mark.timeout(240)


def ffprobe(path):
    command = ["ffprobe", "-v", "error", "-show_streams", "-count_packets", "-of", "json", str(path)]
    streams = json.loads(subprocess.run(command, capture_output=True, check=True).stdout)["streams"]
    return next(stream for stream in streams if stream["codec_type"] == "video")


def add_frame(page: Page, width, height):
    """A small frame, through the API as the page would ask for it."""
    project = page.url.rsplit("/", 1)[1]
    token = next(cookie["value"] for cookie in page.context.cookies() if cookie["name"] == "csrftoken")
    headers = {"X-CSRFToken": token, "Referer": page.url}
    frame = {"width": width, "height": height, "name": f"{width} wide"}
    assert page.request.post(f"/api/projects/{project}/frames", data=frame, headers=headers).ok


@pytest.mark.long
def test_files_are_ordered_stopped_tried_again_and_handed_over(page: Page, tmp_path):
    """Two clips into three frames; every file is what its frame asks for."""
    begin_project(page, "Handing over")
    sides = {"Wide": (1920, 1080), "320 wide": (320, 320), "180 wide": (180, 320)}
    for name in ("320 wide", "180 wide"):
        add_frame(page, *sides[name])
    page.reload()
    frames = {"Long": 60, "Short": 15}
    for name, count in frames.items():
        send(page, write_clip(tmp_path / f"{name}.mp4", size=(180, 320), frames=count, sound=None))
    page.get_by_role("button", name="Render all 6").click()
    confirm_render(page)
    cards = page.get_by_role("main").get_by_role("listitem")
    stopped = cards.filter(has_text="Long → Wide")
    expect(stopped.get_by_label("Progress")).to_be_visible(timeout=60_000)
    expect(page.get_by_role("region", name="All renders")).to_contain_text("rendering")
    stopped.get_by_role("button", name="Cancel").click()
    expect(stopped).to_contain_text("cancelled", timeout=60_000)
    stopped.get_by_role("button", name="Try again").click()
    expect(page.get_by_text("check passed")).to_have_count(6, timeout=120_000)

    with page.expect_popup() as opened:
        page.get_by_role("link", name="Delivery sheet").click()
    sheet = opened.value
    expect(sheet.get_by_role("heading", level=1)).to_have_text("Handing over: delivery sheet")
    expect(sheet.get_by_role("article")).to_have_count(6)
    expect(sheet.get_by_text("Files: 6; passed: 6")).to_be_visible()
    sheet.close()

    with page.expect_download() as coming:
        page.get_by_role("link", name="Download all").click()
    assert coming.value.suggested_filename == "Handing over.zip"
    coming.value.save_as(tmp_path / "all.zip")
    with zipfile.ZipFile(tmp_path / "all.zip") as made:
        names = sorted(made.namelist())
        made.extractall(tmp_path / "all")
    assert len(names) == 6
    for name in names:
        _, clip, frame = name.removesuffix(".mp4").split("_")
        found = ffprobe(tmp_path / "all" / name)
        assert int(found["nb_read_packets"]) == frames[clip]
        assert (found["width"], found["height"]) == sides[frame]


def test_a_range_is_marked_with_keys_and_bars_must_be_decided(page: Page, tmp_path):
    """What is delivered of a clip, and what a frame with an active picture holds, are said on the bench."""
    begin_project(page, "Marked")
    send(page, write_clip(tmp_path / "Clip.mp4", size=(320, 180), frames=50, sound=None))
    page.locator("tbody td").first.click()
    page.get_by_role("button", name=re.compile(r"Frame \d")).click()
    page.get_by_role("slider", name="Playhead").focus()
    for key in ("Home", "ArrowRight", "ArrowRight", "i"):
        page.keyboard.press(key)
    expect(page.get_by_role("region", name="Range")).to_contain_text("I 00:00:00:")
    for _ in range(5):
        page.keyboard.press("ArrowRight")
    page.keyboard.press("o")
    expect(page.get_by_test_id("range")).to_contain_text("00:00:00:06")

    page.get_by_label("Active picture", exact=True).select_option("2.39")
    expect(page.get_by_role("button", name="2 Frame 2.39")).to_be_visible()
    page.get_by_role("button", name="Render", exact=True).first.click()
    # What the file holds is chosen in the sheet before rendering, by both files as outlines.
    sheet = page.get_by_role("dialog", name="Before rendering")
    expect(sheet.get_by_test_id("notice bars_undecided")).to_be_visible()
    expect(sheet.get_by_test_id("notice part")).to_contain_text("0.24 s of 2 s")
    expect(sheet.get_by_role("button", name="Render 1 file")).to_be_disabled()
    sheet.get_by_text("No bars").click()
    expect(sheet.get_by_test_id("notice bars_undecided")).to_have_count(0)
    expect(sheet.get_by_test_id("notice size")).to_contain_text("1920×804 instead of 1920×1080")
    confirm_render(page)
    expect(sheet).to_have_count(0)
    report = page.get_by_role("region", name="Inspection")
    expect(report).to_be_visible(timeout=60_000)
    for group in ("Picture", "File"):
        report.get_by_text(group, exact=True).click()
    expect(report.get_by_role("row").filter(has_text="Size")).to_contain_text("1920×804")
    expect(report.get_by_role("row").filter(has_text=re.compile("^Frames6"))).to_be_visible()
    expect(report.get_by_role("row").filter(has_text="Picture position")).to_contain_text("Pass")

    page.keyboard.down("f")
    expect(page.get_by_alt_text("Expected")).to_be_visible()
    page.keyboard.up("f")
    expect(page.get_by_alt_text("Expected")).to_be_hidden()

    # The keys of the bench play the file, and its playhead goes along.
    film = page.get_by_test_id("result")
    page.keyboard.press("l")
    page.wait_for_function("document.querySelector('[data-testid=result]').currentTime > 0.1")
    page.keyboard.press("k")
    page.wait_for_function("document.querySelector('[data-testid=result]').paused")
    page.get_by_role("slider", name="Playhead").focus()
    page.keyboard.press("Home")
    page.wait_for_function("document.querySelector('[data-testid=result]').currentTime < 0.1")
    expect(film).to_be_visible()


@pytest.mark.long
def test_the_queue_is_put_in_order_laid_aside_and_cleared_by_rule(page: Page, tmp_path):
    begin_project(page, "Queue")
    for name, frames in (("One", 80), ("Two", 20), ("Three", 20)):
        send(page, write_clip(tmp_path / f"{name}.mp4", size=(320, 180), frames=frames, sound=None))
    page.get_by_role("button", name="Render all 3").click()
    confirm_render(page)
    cards = page.get_by_role("main").get_by_role("listitem")
    three = cards.filter(has_text="Three")
    three.get_by_role("button", name="Queue position").click()
    page.get_by_role("menuitem", name="First").click()
    page.wait_for_function(
        "() => { const text = document.querySelector('main ul').innerText;"
        " return text.indexOf('Three') < text.indexOf('Two'); }"
    )
    page.get_by_role("button", name="Pause all").click()
    expect(page.get_by_text("paused").first).to_be_visible()
    page.get_by_role("button", name="Resume all").click()
    expect(page.get_by_text("check passed")).to_have_count(3, timeout=120_000)

    page.locator("summary").filter(has_text="Keep files").click()
    page.get_by_label("Gigabytes of all files together").fill("0.000001")
    page.keyboard.press("Enter")
    expect(page.get_by_text("This takes 3 of 3 files away now")).to_be_visible()
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_text("file cleared by rule on").first).to_be_visible(timeout=20_000)
    expect(three.get_by_role("button", name="Render again")).to_be_visible()


def test_the_sheet_before_rendering_is_skipped_until_something_changes(page: Page, tmp_path):
    """A forgotten range is settled in the sheet; ticked, it stays away until a file would be written otherwise."""
    clip = write_clip(tmp_path / "Clip.mp4", size=(320, 180), frames=25, sound=None)
    open_bench(page, "Skipped", clip, "File")
    page.get_by_role("slider", name="Playhead").focus()
    for key in ("Home", "ArrowRight", "i"):
        page.keyboard.press(key)
    render = page.get_by_role("banner").get_by_role("button", name="Render")
    render.click()
    sheet = page.get_by_role("dialog", name="Before rendering")
    expect(sheet.get_by_test_id("notice part")).to_contain_text("0.96 s of 1 s")
    sheet.get_by_role("button", name="Render the whole clip").click()
    expect(sheet.get_by_test_id("notice part")).to_have_count(0)
    expect(sheet.get_by_test_id("notice range_ignored")).to_be_visible()
    sheet.get_by_role("button", name="Render the marked range").click()
    expect(sheet.get_by_test_id("notice part")).to_be_visible()
    sheet.get_by_label("Do not show again until something changes").check()
    confirm_render(page)
    check = page.get_by_label("Check", exact=True)
    expect(check.get_by_text("check passed")).to_be_visible(timeout=60_000)

    steps(page).get_by_text("Placement").click()
    page.get_by_role("button", name="Whole", exact=True).click()
    page.get_by_label("Position X, frame pixels").fill("8")
    page.get_by_label("Position X, frame pixels").press("Enter")
    render.click()  # the file is written as before: nothing is asked
    expect(check.get_by_text("check passed")).to_have_count(2, timeout=60_000)
    expect(sheet).to_have_count(0)

    steps(page).get_by_text("File", exact=True).click()
    page.get_by_label("Settings", exact=True).select_option("UHD master")
    render.click()
    expect(sheet).to_contain_text("MOV, ProRes 422 HQ")
