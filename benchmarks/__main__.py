"""`make bench`: measures all and writes docs/performance.md."""

import platform
import sys
import tempfile
from datetime import UTC, datetime
from pathlib import Path

import av

from benchmarks.board import BoardFigures, board
from benchmarks.extending import ExtendingFigures, extending
from benchmarks.following import FollowingFigures, following
from benchmarks.kinds import IN_TEN_SECONDS, MOVING, STILL, KindFigure, kinds
from benchmarks.moving import MovingFigures, moving
from benchmarks.plan import make_clip
from benchmarks.playing import PlayingFigures, playing
from benchmarks.previews import Waits, previews
from benchmarks.runs import REPEATS, once, rendering
from benchmarks.segments import SegmentFigures, segments

PAGE = Path(__file__).resolve().parent.parent / "docs" / "performance.md"


def main() -> None:
    """Measure and write."""
    with tempfile.TemporaryDirectory(prefix="cadrage-bench-") as name:
        folder = Path(name)
        say("Drawing 10 s and 60 s of 1080p …")
        ten, sixty = make_clip(folder / "ten.mp4", 10), make_clip(folder / "sixty.mp4", 60)
        say(f"Rendering, {REPEATS} times each …")
        figures = rendering(ten, folder)
        say("Previews …")
        held, new = previews(ten)
        say("Each surround and finish …")
        floor = (figures["decode"]["cpu"] + figures["encode"]["cpu"]) / IN_TEN_SECONDS
        each = kinds(ten, floor)
        say("Memory over 60 s …")
        long = once("render", sixty, folder / "long.mp4")
        say("In parts …")
        cut = segments(sixty, make_clip(folder / "five.mp4", 5), folder)
        say("Playing …")
        plays = playing(ten)
        say("Moving …")
        moves = moving(ten)
        say("Following …")
        follows = following(ten, sixty, folder)
        say("Extending …")
        extends = extending(folder)
    say("A board of 60 clips and 4 frames …")
    text = (
        page(figures, held, new, long["memory"], board())
        + segments_page(cut)
        + moving_page(plays, moves)
        + following_page(follows)
        + extending_page(extends)
        + kinds_page(each)
    )
    PAGE.write_text(text)
    print(text)


def say(what: str) -> None:
    """Progress, beside the results."""
    print(what, file=sys.stderr, flush=True)


def page(figures: dict[str, dict[str, float]], held: Waits, new: Waits, memory: float, large: BoardFigures) -> str:
    """The page of results."""
    floor = figures["decode"]["cpu"] + figures["encode"]["cpu"]
    ratio = figures["render"]["cpu"] / floor
    process, ffmpeg = figures["process"], figures["ffmpeg"]
    made = [f"{name} {figures[name]['cpu']:.1f} s" for name in ("render", "decode", "encode")]
    today = datetime.now(UTC).date().isoformat()
    versions = f"Python {platform.python_version()}, PyAV {av.__version__}"
    against = [process[kind] / ffmpeg[kind] for kind in ("cpu", "wall")]
    memories = f"{figures['render']['memory']:.0f} MiB, {memory:.0f} MiB"
    return f"""# Performance

Measured on {today} by `make bench` on two shared cores ({versions}). Only the ratios mean
anything: both sides of each were measured in turn within one run, and the median of {REPEATS} is given. The clip is
drawn: 1920×1080 at 30 frames a second with film grain, whole in 1080×1920 over a blurred copy, H.264 at the default
settings.

| what | measured | aim |
|---|---|---|
| processor time of a render of 10 s over decoding it plus encoding the same frames | {ratio:.3f} | ≤ 1.10 |
| the same over ffmpeg's scale, gblur and overlay filters, processor time | {against[0]:.3f} | ≤ 0.95 |
| the same, waiting time | {against[1]:.3f} | ≤ 0.95 |
| preview 960 wide, picture held: median, 95th percentile | {held.median:.0f} ms, {held.most:.0f} ms | 60, 120 ms |
| preview 960 wide, at a new time: median, 95th percentile | {new.median:.0f} ms, {new.most:.0f} ms | 250 ms |
| most memory for 10 s and for 60 s | {memories} | within 10% |
| board of 60 clips and 4 frames, thumbnails on disk: usable after | {large.usable:.0f} ms | 1500 ms |
| the same: longest that a thumbnail in sight is blank while scrolling | {large.blank:.0f} ms | 500 ms |

Processor seconds behind the first row: {", ".join(made)}.
"""


def segments_page(cut: SegmentFigures) -> str:
    """The table of renders in parts."""
    return f"""
## Renders in parts

The same framing of 60 s, in one go and in {cut.parts} parts. Two workers share the two cores with each other, and one
process in one go already decodes, composes and encodes at once.

| what | measured | aim |
|---|---|---|
| processor time in parts over in one go, by one worker | {cut.overhead:.3f} | ≤ 1.05 |
| the same, waiting time | {cut.waiting:.3f} | ≤ 1.05 |
| waiting time of two workers over one process in one go | {cut.two_workers:.3f} | |
| four clips of 5 s into three frames, two workers, inspection and sheet included | {cut.queue:.1f} frames/s | |
"""


def extending_page(extends: ExtendingFigures) -> str:
    """The table of scenes that go on."""
    return f"""
## Extending

Rendering 4 s whole in 1080×1920 with the scene going on above and below, beside the same with a plain colour there.
Of the file as it is, most of what it costs more is encoding: two thirds of a frame with grain in place of one colour.

| what | measured | aim |
|---|---|---|
| a plate that stands over a plain surround, encoding the same | {extends.still.composing:.2f} | ≤ 1.15 |
| the same with a plate that moves with the camera | {extends.moving.composing:.2f} | ≤ 1.35 |
| a plate that stands, the file as it is | {extends.still.whole:.2f} | |
| one that moves, the file as it is | {extends.moving.whole:.2f} | |
"""


def moving_page(plays: PlayingFigures, moves: MovingFigures) -> str:
    """The table of what moves and of what plays."""
    return f"""
## Moving and playing

Composing the same pictures, half as tight as fills the frame and panning, or whole and pushed by 10%, beside those
that stand; medians of {REPEATS}. Playing is that of the bench in a browser without a screen on the same two cores.

| what | measured | aim |
|---|---|---|
| processor time of composing what pans over what stands | {moves.pan:.2f} | ≤ 1.25 |
| the same, what is pushed | {moves.push:.2f} | ≤ 1.6 |
| from Play until the first picture shows | {plays.first:.0f} ms | 500 ms |
| pictures shown in a second, of 30, at {plays.size} | {plays.per_second:.1f} | ≥ 29 |
| sound after its picture, by flashes and clicks | {plays.lag:.0f} ms | within 40 ms |
"""


def following_page(follows: FollowingFigures) -> str:
    """The table of windows that follow."""
    return f"""
## Following

A minute of the same clip without its grain, as H.264 of 1080p at 30 frames a second, is looked at on one core; and ten
seconds with it, of which decoding alone takes most.

| what | measured | aim |
|---|---|---|
| looking at what moves, decoding included, in times of real time | {follows.plain:.1f} | ≥ 3 |
| the same with grain | {follows.grained:.1f} | ≥ 3 |
| share of the first that is decoding | {follows.decoding:.0%} | |
| a way over 900 pictures | {follows.short:.0f} ms | 250 ms |
| a way over 3600 pictures | {follows.long:.0f} ms | 700 ms |
| a pin in a shot of 60 s, answered | {follows.pin:.2f} s | 1 s |
| a box drawn in a shot of 60 s, answered | {follows.box:.2f} s | 1 s |
| one look and ways for three frames, over one look | {follows.frames:.2f} | 1 |
"""


def kinds_page(each: list[KindFigure]) -> str:
    """The table of surrounds and finishes."""
    rows = [f"| {one.name} | {one.ratio:.3f} | ≤ {MOVING if one.animated else STILL:.2f} |" for one in each]
    return f"""
## Each surround and each finish

Processor time of composing a frame of the same clip, added to that of decoding and encoding one, over the latter
alone; the least of several runs. What is worked out once is spread over ten seconds. Finishes stand on a plain
surround. Drawing the picture itself is part of every row.

| what | measured | aim |
|---|---|---|
{chr(10).join(rows)}
"""


if __name__ == "__main__":
    main()
