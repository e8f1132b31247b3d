"""Files ordered together, one stopped and tried again, handed over with their sheet."""

import json
import subprocess
import zipfile

import pytest
from playwright.sync_api import Page, expect

from tests.browser.test_whole_job import begin_project, send
from tests.clips import write_clip

pytestmark = pytest.mark.timeout(240)


def ffprobe(path):
    command = ["ffprobe", "-v", "error", "-show_streams", "-count_packets", "-of", "json", str(path)]
    streams = json.loads(subprocess.run(command, capture_output=True, check=True).stdout)["streams"]
    return next(stream for stream in streams if stream["codec_type"] == "video")


def test_files_are_ordered_stopped_tried_again_and_handed_over(page: Page, tmp_path):
    begin_project(page, "Handing over")
    long = write_clip(tmp_path / "Long.mp4", size=(180, 320), frames=150, sound=None)
    short = write_clip(tmp_path / "Short.mp4", size=(320, 180), frames=20, sound=None)
    send(page, long)
    send(page, short)
    page.get_by_role("button", name="Render all 2").click()
    cards = page.get_by_role("main").get_by_role("listitem")
    stopped = cards.filter(has_text="Long")
    stopped.get_by_role("button", name="Cancel").click()
    expect(stopped).to_contain_text("cancelled", timeout=60_000)
    stopped.get_by_role("button", name="Try again").click()
    expect(page.get_by_text("checked, right")).to_have_count(2, timeout=120_000)

    with page.expect_popup() as opened:
        page.get_by_role("link", name="Delivery sheet").click()
    sheet = opened.value
    expect(sheet.get_by_role("heading", level=1)).to_have_text("Handing over: delivery sheet")
    expect(sheet.get_by_role("article")).to_have_count(2)
    expect(sheet.get_by_text("Files: 2; measured and right: 2")).to_be_visible()
    sheet.close()

    with page.expect_download() as coming:
        page.get_by_role("link", name="Download all").click()
    assert coming.value.suggested_filename == "Handing over.zip"
    coming.value.save_as(tmp_path / "all.zip")
    with zipfile.ZipFile(tmp_path / "all.zip") as made:
        names = sorted(made.namelist())
        made.extractall(tmp_path / "all")
    assert [name.split("_")[1] for name in names] == ["Long", "Short"]
    frames = [int(ffprobe(tmp_path / "all" / name)["nb_read_packets"]) for name in names]
    assert frames == [150, 20]
    assert {ffprobe(tmp_path / "all" / name)["width"] for name in names} == {1920}
