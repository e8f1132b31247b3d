from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest

from cadrage.compose import Compositor, Previewer, compose, measure
from cadrage.compose.moment import moment_of
from cadrage.errors import MissingSource
from cadrage.footage import ClipReader, DecodedFrame, Interpretation, MediaInfo, probe
from cadrage.footage.store import FrameStore
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.pixels.light import codes_of
from cadrage.pixels.planes import Planes
from cadrage.plan import Plan
from cadrage.surrounds import Blurred, Plain
from tests.clips import write_clip

WIDE = Frame(width=640, height=360)


@pytest.fixture(scope="module")
def upright(tmp_path_factory: pytest.TempPathFactory) -> tuple[Path, MediaInfo]:
    path = write_clip(tmp_path_factory.mktemp("upright") / "upright.mp4", size=(180, 320), frames=10)
    return path, probe(path)


def composed(plan: Plan, clip: tuple[Path, MediaInfo], time: Fraction = Fraction(0), size=None) -> Planes:
    return compose(plan, clip[1], clip[0], time, size)


def test_the_surround_is_exactly_the_colour_beside_the_picture(upright):
    planes = composed(Plan(frame=WIDE, surround=Plain(colour="#203040")), upright)
    wanted = [round(code) for code in codes_of("#203040", planes.layout.colour, 8)]
    # Whole, 180×320 is 202½ wide in 640×360: from 218¾ to 421¼.
    assert (planes.arrays[0][:, :218] == wanted[0]).all()
    assert (planes.arrays[0][:, 422:] == wanted[0]).all()
    assert (planes.arrays[1][:, :109] == wanted[1]).all()


def test_a_half_covered_column_is_mixed_by_its_share(tmp_path):
    def light(_):
        return np.full((320, 180, 3), 255, np.uint8)

    path = write_clip(tmp_path / "white.mp4", size=(180, 320), frames=2, paint=light)
    planes = composed(Plan(frame=WIDE, surround=Plain()), (path, probe(path)))
    column = planes.arrays[0][:, 218]
    # A quarter of column 218 is picture: 16 + 219 / 4.
    assert column == pytest.approx(16 + 219 * 0.25, abs=1)
    assert (planes.arrays[0][:, 219] == 235).all()


def test_the_surround_changes_only_what_the_picture_leaves(upright):
    dim = composed(Plan(frame=WIDE, surround=Blurred(brightness=20)), upright)
    bright = composed(Plan(frame=WIDE, surround=Blurred(brightness=120)), upright)
    assert (dim.arrays[0][:, 219:421] == bright.arrays[0][:, 219:421]).all()
    assert (dim.arrays[0][:, :218].astype(int) < bright.arrays[0][:, :218]).mean() > 0.95


@pytest.mark.parametrize("brightness", [0, 100])
def test_brightness_goes_from_the_base_to_the_copy(upright, brightness):
    planes = composed(Plan(frame=WIDE, surround=Blurred(brightness=brightness, base="#406080")), upright)
    base = round(codes_of("#406080", planes.layout.colour, 8)[0])
    assert (planes.arrays[0][:, :200] == base).all() == (brightness == 0)


def test_a_smaller_canvas_shows_the_same(upright):
    """A plan means the same at every size: the frame drawn at half size is the frame, reduced."""
    plan = Plan(frame=WIDE, placement=Placement(tightness=Fraction(2, 5), offset_x=Fraction(31)))
    whole = composed(plan, upright).arrays[0].astype(float)
    half = composed(plan, upright, size=(320, 180)).arrays[0]
    reduced = whole.reshape(180, 2, 320, 2).mean(axis=(1, 3))
    assert np.abs(reduced - half).mean() < 0.6


@pytest.mark.parametrize("pixel_format", ["yuv420p10le", "yuv422p", "yuv444p", "yuv422p10le"])
def test_every_depth_and_chroma_format_gives_the_same_picture(tmp_path, upright, pixel_format):
    path = write_clip(tmp_path / "other.mp4", size=(180, 320), frames=2, pixel_format=pixel_format)
    plan = Plan(frame=WIDE, surround=Blurred())
    one, other = composed(plan, upright), composed(plan, (path, probe(path)))
    for plane in range(3):
        difference = np.abs(one.arrays[plane].astype(int) - other.arrays[plane])
        assert difference.mean() < 0.6


def test_ten_bit_canvas_keeps_ten_bits(tmp_path):
    path = write_clip(tmp_path / "ten.mp4", size=(180, 320), frames=2, pixel_format="yuv420p10le")
    info = probe(path)
    with ClipReader(path, info) as reader:
        stored = reader.frame_at(Fraction(0)).planes
    eight = Compositor(Plan(frame=WIDE), stored.layout, info).layout
    planes = Compositor(Plan(frame=WIDE), stored.layout, info, replace(eight, depth=10)).compose(stored)
    assert planes.arrays[0].dtype == np.uint16
    assert len(np.unique(planes.arrays[0][:, 219:421] % 4)) == 4


def test_the_rotation_flag_is_obeyed(tmp_path, upright):
    def lying(number):
        from tests.clips import moving_square

        return np.ascontiguousarray(np.rot90(moving_square(180, 320)(number)))

    path = write_clip(tmp_path / "lying.mp4", size=(320, 180), frames=2, paint=lying, rotation=90)
    one, other = composed(Plan(frame=WIDE), upright), composed(Plan(frame=WIDE), (path, probe(path)))
    assert np.abs(one.arrays[0].astype(int) - other.arrays[0]).mean() < 0.5


@pytest.mark.parametrize("frame", [Frame(width=333, height=217), Frame(width=101, height=607)])
def test_odd_frames_are_drawn_whole(upright, frame):
    planes = composed(Plan(frame=frame), upright)
    assert [array.shape for array in planes.arrays] == [
        (frame.height, frame.width),
        (-(-frame.height // 2), -(-frame.width // 2)),
        (-(-frame.height // 2), -(-frame.width // 2)),
    ]


def test_a_picture_moved_out_of_the_frame_leaves_the_surround(upright):
    plan = Plan(frame=WIDE, placement=Placement(offset_x=Fraction(5000)), surround=Plain(colour="#ffffff"))
    assert (composed(plan, upright).arrays[0] == 235).all()


def test_measure_says_what_is_kept(upright):
    fill = measure(Plan(frame=WIDE, placement=Placement(tightness=Fraction(1))), upright[1])
    assert fill.summary.lost == "68.4% of the picture cropped"
    assert fill.summary.surround == "nothing to fill"
    whole = measure(Plan(frame=WIDE), upright[1])
    assert whole.summary.lost == "nothing cropped"
    assert (whole.bars.left, whole.bars.top) == (Fraction(875, 4), 0)
    assert whole.summary.source == "9:16 upright"


def test_previews_come_from_held_frames(upright):
    previewer = Previewer(FrameStore(limit=200_000))
    plan = Plan(frame=WIDE)
    first = previewer.image(plan, *upright, Fraction(1, 5), 320)
    assert previewer.image(plan, *upright, Fraction(1, 5), 320) == first
    for number in range(10):
        previewer.image(plan, *upright, Fraction(number, 25), 320)
    assert previewer.store.held <= 200_000


def test_a_preview_of_a_missing_clip_says_so(tmp_path, upright):
    with pytest.raises(MissingSource):
        Previewer().image(Plan(frame=WIDE), tmp_path / "gone.mp4", upright[1], Fraction(0), 320)


def test_many_threads_look_at_many_clips(tmp_path):
    """More clips than are held open, from several threads at once: every picture is the right one."""
    from concurrent.futures import ThreadPoolExecutor

    from cadrage.footage.store import OPEN_CLIPS

    def shade(level):
        return lambda _: np.full((64, 96, 3), level, np.uint8)

    levels = [20 + 25 * number for number in range(OPEN_CLIPS + 3)]
    clips = []
    for level in levels:
        path = write_clip(tmp_path / f"{level}.mp4", size=(96, 64), frames=12, paint=shade(level), sound=None)
        clips.append((path, probe(path), level))
    store = FrameStore(limit=100_000)

    def look(number):
        path, info, level = clips[number % len(clips)]
        luma = store.frame(path, info, Interpretation(), Fraction(number % 12, 25)).planes.arrays[0].mean()
        return abs(luma - (16 + level / 255 * 219))

    with ThreadPoolExecutor(6) as pool:
        assert max(pool.map(look, range(150))) < 2
    assert len(store._clips) <= OPEN_CLIPS


SCOPE = Frame(width=640, height=360, active=Fraction("2.39"), bar_colour="#ff0000")


def test_bars_outside_the_active_picture_are_exactly_their_colour(upright):
    """640 / 2.39 = 267.78, drawn as 268: bars of 46."""
    planes = composed(Plan(frame=SCOPE, placement=Placement(tightness=Fraction(3))), upright)
    red = [round(code) for code in codes_of("#ff0000", planes.layout.colour, 8)]
    for plane, edge in enumerate((46, 23, 23)):
        array = planes.arrays[plane]
        assert (array[:edge] == red[plane]).all()
        assert (array[-edge:] == red[plane]).all()
        assert not (array[edge] == red[plane]).all()


def test_the_surround_fills_the_active_picture_only(upright):
    planes = composed(Plan(frame=SCOPE, surround=Plain(colour="#ffffff")), upright)
    luma = planes.arrays[0]
    assert (luma[46:-46, :200] == 235).all()
    assert (luma[:46, :200] == round(codes_of("#ff0000", planes.layout.colour, 8)[0])).all()


def test_cost_counts_what_the_bars_hide(upright):
    found = measure(Plan(frame=SCOPE, placement=Placement(tightness=Fraction(1))), upright[1])
    assert found.cost.covered_percent == 100
    assert found.summary.frame == "2.39 in 16:9 640×360"
    whole = measure(Plan(frame=SCOPE), upright[1])
    assert whole.summary.lost == "nothing cropped"
    assert whole.seen.height == whole.active.height


@pytest.mark.parametrize(("kind", "moment"), [("clip", 4), ("sequence", 4), ("still", 5)])
def test_a_picture_that_lasts_is_not_thereby_a_still(upright, kind, moment):
    """Of a sequence of one picture in two seconds, each is one frame of the file, and so is what moves behind it."""
    info = upright[1].model_copy(update={"kind": kind})
    shown = DecodedFrame(Fraction(4), Fraction(6), None)
    assert moment_of(info, shown, Fraction(5)) == moment
