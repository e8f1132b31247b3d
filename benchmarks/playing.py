"""Playing on the bench: how soon, how many pictures, and whether the sound is where it belongs."""

import subprocess
import tempfile
from dataclasses import dataclass
from pathlib import Path
from statistics import median
from typing import Any

from playwright.sync_api import Page, sync_playwright

from benchmarks.filled import Filled
from benchmarks.runs import REPEATS
from tests.chromium import launch
from tests.corpus.drawing import write_clicks

SECONDS = 6
FLASHES, CLICKS_EVERY, FIRST_CLICK = 20, 5, 2  # pictures a second; one in five is white, from the third on
WATCH = """([milliseconds, closely]) => new Promise((seen) => {
    const play = [...document.querySelectorAll("footer button")].find((one) => one.innerText.startsWith("Play"));
    const began = performance.now(), shown = [], white = [], loud = [];
    play.click();
    requestAnimationFrame(function look() {
        const video = document.querySelector("[data-testid=played] video");
        if (!video) return requestAnimationFrame(look);
        const pen = document.createElement("canvas").getContext("2d", { willReadFrequently: true });
        const context = new AudioContext(), meter = context.createAnalyser();
        meter.fftSize = 256;
        if (closely) context.createMediaElementSource(video).connect(meter);
        const samples = new Float32Array(meter.fftSize);
        let quiet = true;
        const listen = setInterval(() => {
            if (!closely) return;
            meter.getFloatTimeDomainData(samples);
            const level = Math.max(...samples.map(Math.abs));
            if (quiet && level > 0.1) loud.push(performance.now());
            quiet = level < 0.05;
        }, 4);
        video.requestVideoFrameCallback(function each(now, { mediaTime, expectedDisplayTime }) {
            shown.push({ at: now - began, mediaTime });
            if (closely) pen.drawImage(video, 0, 0, 1, 1);
            if (closely && pen.getImageData(0, 0, 1, 1).data[0] > 180) white.push(expectedDisplayTime);
            if (now - began < milliseconds) return video.requestVideoFrameCallback(each);
            clearInterval(listen);
            const { videoWidth: width, videoHeight: height } = video;
            seen({ shown, white, loud, width, height });
        });
    });
})"""


@dataclass(frozen=True, slots=True)
class PlayingFigures:
    """What was seen and heard.

    Attributes:
        first: milliseconds from Play until the first picture shows.
        per_second: pictures shown in a second, of 30.
        size: of what was played.
        lag: milliseconds that sound comes after its picture.
    """

    first: float
    per_second: float
    size: str
    lag: float


def playing(clip: Path) -> PlayingFigures:
    """A clip into an upright frame; and flashes with clicks on them."""
    with tempfile.TemporaryDirectory(prefix="cadrage-playing-") as folder:
        runs = [watched(Path(folder) / f"clip {number}", clip) for number in range(REPEATS)]
        flashing = watched(Path(folder) / "flashes", flashes(Path(folder)), closely=True)
    first = median(run["shown"][0]["at"] for run in runs)
    lags = [min((heard - seen for heard in flashing["loud"]), key=abs) for seen in flashing["white"]]
    last = runs[-1]
    return PlayingFigures(
        first=first,
        per_second=median(_per_second(run["shown"]) for run in runs),
        size=f"{last['width']}×{last['height']}",
        lag=median(lags) if lags else float("nan"),
    )


def _per_second(shown: list[dict[str, float]]) -> float:
    since = [one for one in shown if one["at"] > shown[0]["at"] + 500]
    return (len(since) - 1) / (since[-1]["at"] - since[0]["at"]) * 1000


def watched(folder: Path, clip: Path, *, closely: bool = False) -> dict[str, Any]:
    """Play it on the bench of an application of its own, and watch; closely, what is white and what is loud as well."""
    with (
        Filled(folder, clip, 1, ((1080, 1920),)) as running,
        sync_playwright() as playwright,
        launch(playwright) as browser,
    ):
        page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=running.address)
        return _watch(page, closely)


def _watch(page: Page, closely: bool) -> dict[str, Any]:
    page.goto("/projects/1/framings/1")
    page.get_by_test_id("composed").wait_for()
    page.wait_for_timeout(2000)
    found: dict[str, Any] = page.evaluate(WATCH, [SECONDS * 1000, closely])
    return found


def flashes(folder: Path) -> Path:
    """White pictures in black ones, and a click with each."""
    sound = write_clicks(folder / "clicks.wav", 48_000, 2, 12)
    path = folder / "flashes.mp4"
    white = f"eq(mod(n\\,{CLICKS_EVERY})\\,{FIRST_CLICK})"
    picture = f"color=black:s=320x180:r={FLASHES}:d=12,geq=lum=if({white.replace('n', 'N')}\\,235\\,16):cb=128:cr=128"
    command = ["ffmpeg", "-v", "error", "-y", "-f", "lavfi", "-i", picture, "-i", str(sound)]
    subprocess.run([*command, "-c:v", "libx264", "-c:a", "aac", "-shortest", str(path)], check=True)
    return path
