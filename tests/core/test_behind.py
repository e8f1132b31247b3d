"""Another picture behind the clip: still, loop, per side, and a copy that is stretched or mirrored."""

from fractions import Fraction as F
from itertools import pairwise

import numpy as np
import pytest
from PIL import Image

from cadrage.compose import Compositor, compose
from cadrage.errors import BadRequest
from cadrage.footage import ClipReader, Library, Material, library_of_files, probe
from cadrage.formats import Frame
from cadrage.plan import Plan
from cadrage.surrounds import AnimatedPattern, Blurred, Gradient, Loop, Mirrored, Plain, Sides, Still
from cadrage.surrounds.loop import Round
from tests.clips import moving_square, write_clip

FRAME = Frame(width=640, height=360)
BAR = (slice(None), slice(0, 218))  # left of a whole 180×320 picture in 640×360


@pytest.fixture(scope="module")
def folder(tmp_path_factory):
    return tmp_path_factory.mktemp("behind")


@pytest.fixture(scope="module")
def clip(folder):
    return write_clip(folder / "up.mp4", size=(180, 320), frames=4, paint=moving_square(180, 320))


@pytest.fixture(scope="module")
def drifting(folder):
    """A bright column that moves slowly over a wide picture for two seconds: no join can hide."""

    def paint(number):
        picture = np.full((180, 320, 3), 60, np.uint8)
        picture[:, 10 + 2 * number : 90 + 2 * number] = 200
        return picture

    return write_clip(folder / "wide.mp4", size=(320, 180), frames=50, paint=paint, sound=None)


def drawn(clip, surround, times=(F(0),), frame=FRAME):
    info = probe(clip)
    library = library_of_files(Material(clip, info))
    with ClipReader(clip, info) as reader:
        stored = reader.frame_at(F(0)).planes
    made = Compositor(Plan(frame=frame, surround=surround), stored.layout, info, library=library)
    return [made.compose(stored, time=time) for time in times]


def luma(*given, **more):
    return drawn(*given, **more)[0].arrays[0].astype(int)


def quarters(path):
    """Four colours in the four quarters of a 160×90 picture."""
    picture = np.zeros((90, 160, 3), np.uint8)
    picture[:45, :80], picture[:45, 80:], picture[45:, :80], picture[45:, 80:] = 40, 90, 150, 220
    Image.fromarray(picture).save(path)
    return path


def test_a_still_that_covers_is_where_arithmetic_puts_it(clip, folder):
    """160×90 covers 640×360 at four times its size: the quarters meet at row 180, far from every edge they are flat."""
    made = luma(clip, Still(of=str(quarters(folder / "q.png")), brightness=100))
    codes = [round(16 + 219 * grey / 255) for grey in (40, 90, 150, 220)]
    for (row, column), code in zip(((60, 60), (60, 600), (300, 60), (300, 600)), codes, strict=True):
        assert abs(made[row, column] - code) <= 1
    steps = np.abs(np.diff(made[:, 60]))
    assert abs(int(steps.argmax()) - 179) <= 1


def test_a_still_is_whole_or_in_tiles(clip, folder):
    picture = str(quarters(folder / "q.png"))
    whole = luma(clip, Still(of=picture, fit="whole", size=50, brightness=100, base="#000000"))
    assert (whole[:80, :200] == 16).all()  # 320×180 in the middle: rows 90 to 270
    assert whole[120, 190] > 20
    tiled = luma(clip, Still(of=picture, fit="tiled", size=25, brightness=100))
    assert np.abs(tiled[:90, :200] - tiled[90:180, :200]).max() <= 1  # tiles of 160×90
    soft = luma(clip, Still(of=picture, fit="tiled", size=25, brightness=100, softness=2))
    assert np.abs(np.diff(soft[:, 60])).max() < np.abs(np.diff(tiled[:, 60])).max() / 3


def test_a_moment_of_another_clip_and_of_the_clip_itself(clip, drifting):
    early, late = (luma(clip, Still(of=str(drifting), at=at, brightness=100))[BAR] for at in (0, 1.9))
    assert np.abs(early - late).mean() > 20
    own = luma(clip, Still(brightness=100, softness=3))[BAR]
    copy = luma(clip, Blurred(size=100, brightness=100, softness=3))[BAR]
    assert np.abs(own - copy).max() <= 1


@pytest.mark.parametrize("speed", [100, 50])
def test_a_loop_has_no_join(clip, drifting, speed):
    """Over the place where it begins again no step is larger than elsewhere, and after a round it is what it was."""
    loop = Loop(of=str(drifting), crossfade=0.8, speed=speed, softness=0, brightness=100)
    lasts = F(6, 5) * 100 / speed
    times = [lasts + F(number, 25) for number in range(-12, 13)]
    seen = [planes.arrays[0][BAR].astype(int) for planes in drawn(clip, loop, times)]
    moved = [np.abs(one - other).mean() for one, other in pairwise(seen)]
    assert moved[12] <= 1.5 * max(moved[:11])
    assert max(moved) > 0.5
    once, again = drawn(clip, loop, (F(1, 2), F(1, 2) + lasts))
    assert (once.arrays[0][BAR] == again.arrays[0][BAR]).all()


def test_a_round_joins_where_it_left_off():
    place = Round(lasts=F(10), crossfade=F(2), speed=F(1))
    assert place.at(F(5)) == (5, 5, 0)
    assert place.at(F(0)) == (0, 8, 1)  # the beginning of a round shows what comes after 7.999…
    assert place.at(F(9)) == (1, 9, F(1, 2))


def test_what_cannot_go_round_is_refused(clip, folder):
    still = str(quarters(folder / "q.png"))
    one = write_clip(folder / "one.mp4", size=(320, 180), frames=1, sound=None)
    for source in (still, str(one)):
        with pytest.raises(BadRequest, match="more than one picture"):
            drawn(clip, Loop(of=source))


def test_what_is_not_there_is_said_plainly(clip):
    info = probe(clip)
    with pytest.raises(BadRequest, match="not to be had here"):
        compose(Plan(frame=FRAME, surround=Still(of="gone")), info, clip, F(0))


@pytest.mark.parametrize(
    ("one", "other"),
    [(Mirrored(), Gradient()), (Blurred(), Plain(colour="#708090")), (AnimatedPattern(), Still(softness=2))],
)
def test_each_side_equals_the_single_rendering(clip, one, other):
    both, left, right = (drawn(clip, made)[0] for made in (Sides(first=one, second=other), one, other))
    for plane in range(3):
        columns = both.arrays[plane].shape[1]
        end, begin = columns * 218 // 640, columns * 424 // 640
        assert (both.arrays[plane][:, :end] == left.arrays[plane][:, :end]).all()
        assert (both.arrays[plane][:, begin:] == right.arrays[plane][:, begin:]).all()


def test_sides_lie_above_and_below_where_that_is_empty(clip):
    tall = Frame(width=180, height=640)
    made = luma(clip, Sides(first=Plain(colour="#ffffff"), second=Plain(colour="#000000")), frame=tall)
    assert (made[:150] == 235).all()
    assert (made[490:] == 16).all()
    asked = Sides(way="left_right", first=Plain(colour="#ffffff"), second=Plain(colour="#000000"))
    made = luma(clip, asked, frame=tall)
    assert (made[:150, :88] == 235).all()
    assert (made[:150, 92:] == 16).all()


def test_a_stretched_copy_is_the_picture_drawn_to_the_frame(clip):
    """Unblurred, it is what resampling the picture to 640×360 gives; the picture itself stays as it was."""
    import cv2

    info = probe(clip)
    with ClipReader(clip, info) as reader:
        stored = reader.frame_at(F(0)).planes.arrays[0]
    made = luma(clip, Blurred(stretched=True, size=100, softness=0.6, brightness=100))
    plain = luma(clip, Plain())
    assert (made[:, 222:418] == plain[:, 222:418]).all()
    wanted = cv2.GaussianBlur(
        cv2.resize(stored, (640, 360), interpolation=cv2.INTER_CUBIC).astype(np.float32), (0, 0), 2.16
    )
    assert np.abs(made[BAR] - wanted[BAR]).mean() < 1


def test_a_mirrored_copy_is_the_copy_mirrored(clip):
    """The picture lies in the middle, so the left bar of one is the right bar of the other, backwards."""
    there, back = (luma(clip, Blurred(mirrored=mirrored, softness=1)) for mirrored in (False, True))
    assert np.abs(there[:, :216] - back[:, ::-1][:, :216]).max() <= 2
    assert np.abs(there[:, :216] - back[:, :216]).mean() > 0.5


def test_a_library_says_when_what_it_has_has_changed(folder):
    path = quarters(folder / "changing.png")
    library = Library(lambda _: Material(path))
    before = library.state_of("a")
    assert library.state_of("a") == before
    import os

    os.utime(path, (1, 1))
    assert library.state_of("a") != before
