"""Scenes that go on beyond the picture: what is invented, what is merged, how it is joined."""

from fractions import Fraction as F

import cv2
import numpy as np
import pytest

from cadrage.compose import Compositor
from cadrage.compose.extending import plate_in, plates_asked
from cadrage.compose.extension_shares import shares_at
from cadrage.errors import BadRequest, Cancelled
from cadrage.extend import camera
from cadrage.extend.completion import Variant, completed
from cadrage.extend.merging import Observation, merged, stored
from cadrage.extend.plate import ELSEWHEN, INVENTED
from cadrage.extend.request import AskedSide, Dab, PlateSide, SceneRequest
from cadrage.extend.scene import scene_of
from cadrage.extend.seeing import Seeing
from cadrage.extend.sides import extended
from cadrage.footage import ClipReader, Interpretation, probe, resolve
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.motion import Key, Motion, Pan
from cadrage.plan import Plan, ReusableStyle
from cadrage.surrounds import Extended, Plain
from tests.clips import write_clip
from tests.extending import joins
from tests.extending.photographs import sized
from tests.following.drawing import place

SIDE = AskedSide(way="completed", variant=0, melt=F(0), reach=60)


def ycc(image: np.ndarray) -> np.ndarray:
    return cv2.cvtColor(image, cv2.COLOR_RGB2YCrCb).astype(np.float32)


@pytest.fixture(scope="module")
def picture():
    return ycc(sized("rocket", 96, 160))


def test_a_number_always_gives_the_same_and_another_number_something_else(picture):
    one, again, other = (completed(picture, 70, Variant(number)) for number in (2, 2, 3))
    assert np.array_equal(one, again)
    assert np.abs(one - other).mean() > 1
    assert one.shape == (160, 70, 3)
    assert one.min() >= 0
    assert one.max() <= 255


def test_what_goes_on_begins_exactly_where_the_picture_ends(picture):
    made = completed(picture, 40, Variant(0))
    assert np.abs(made[:, 0] - picture[:, -1]).max() < 0.5


def test_a_draft_shows_what_will_be_made():
    picture = ycc(sized("coffee", 240, 400))
    whole, draft = completed(picture, 200, Variant(1)), completed(picture, 200, Variant(1), shrink=2)
    small = cv2.resize(whole, (draft.shape[1], draft.shape[0]), interpolation=cv2.INTER_AREA)
    assert np.corrcoef(small[..., 0].ravel(), draft[..., 0].ravel())[0, 1] > 0.93


def test_what_may_not_be_copied_is_not():
    picture = ycc(place(3, 96, 160).copy())
    mark = np.zeros((160, 96), bool)
    mark[60:100, 40:70] = True
    picture[mark] = (80, 250, 90)  # a red that nothing else has
    for number in range(4):
        made = completed(picture, 80, Variant(number), cv2.dilate(mark.astype(np.uint8), np.ones((5, 5))) > 0)
        assert (made[..., 1] > 225).mean() < 0.001


def test_sides_are_each_other_s_mirror_image_and_do_not_depend_on_one_another(picture):
    nothing = np.zeros(picture.shape[:2], bool)
    right, left, top = extended(picture, {"right": SIDE}, nothing)
    assert (left, top) == (0, 0)
    flipped = np.ascontiguousarray(picture[:, ::-1])
    other, left, _ = extended(flipped, {"left": SIDE}, nothing)
    assert left == 60
    assert np.array_equal(other[:, ::-1], right)
    both, _, _ = extended(picture, {"left": SIDE, "right": SIDE}, nothing)
    assert np.array_equal(both[:, 60:], right)


def test_all_four_sides_make_a_larger_picture(picture):
    sides = {side: SIDE.model_copy(update={"way": "mirrored"}) for side in ("left", "right", "top", "bottom")}
    made, left, top = extended(picture, sides, np.zeros(picture.shape[:2], bool))
    assert made.shape == (160 + 120, 96 + 120, 3)
    assert np.array_equal(made[top : top + 160, left : left + 96], picture)


def test_making_sides_stops_when_it_is_told_to(picture):
    def stop(_: float) -> None:
        raise Cancelled("Enough.", remedy="")

    large = cv2.resize(picture, (600, 1000))
    with pytest.raises(Cancelled):
        extended(large, {"left": SIDE, "right": SIDE}, np.zeros(large.shape[:2], bool), report=stop)


def observed(image: np.ndarray, gain: float = 1.0) -> Observation:
    return Observation(stored(ycc(image)), camera.STILL, gain)


def test_merging_leaves_out_who_passes_and_measures_the_noise():
    random, ground = np.random.default_rng(1), place(7, 200, 120)
    seen = []
    for number in range(15):
        image = ground.astype(np.float32) + random.normal(0, 4, (120, 200, 1))
        image = np.clip(image, 0, 255).astype(np.uint8)
        image[10:30, number * 12 : number * 12 + 20] = (240, 240, 240)  # passes once
        at = 60 if number % 2 else 90
        image[50:90, at : at + 40] = (240, 30, 30)  # to and fro
        seen.append(observed(image))
    made = merged(seen, 200, 120, lambda _: None)
    assert np.abs(made.picture - ycc(ground))[:45, :, 0].mean() < 1.5
    assert made.grain.sigma == pytest.approx(4, rel=0.25)
    assert made.restless[55:85, 64:126].mean() > 0.85
    assert made.restless[:40].mean() < 0.05


@pytest.mark.parametrize("light", [1.0, 0.8])
def test_a_shift_is_told_to_a_twentieth_of_a_pixel_also_in_other_light(light):
    wide = place(5, 520, 320)
    before = wide[20:300, 20:500]
    after = cv2.warpAffine(wide, np.float32([[1, 0, -2.5], [0, 1, 1.25]]), (520, 320), flags=cv2.INTER_LANCZOS4)
    one, other = (
        cv2.cvtColor(image, cv2.COLOR_RGB2GRAY)
        for image in (before, (16 + (after[20:300, 20:500] - 16.0) * light).clip(0, 255).astype(np.uint8))
    )
    found = camera.register(one, other)
    assert found.sure > 0.5
    assert found.matrix[:, 2] == pytest.approx([-2.5, 1.25], abs=0.05)


def test_of_an_even_picture_nothing_is_told():
    even = np.full((200, 300), 90, np.uint8)
    assert camera.register(even, even).sure == 0


@pytest.mark.long
def test_the_join_of_a_flickering_clip_cannot_be_measured():
    """Half a code at 4% of exposure; and no step at the edge above the picture's own."""
    found = joins.measured("brick", 0.04)
    assert found.light <= 0.5
    assert found.step <= 1.1


@pytest.mark.long
def test_a_plate_moves_with_the_camera():
    assert joins.moving_error(3.0) <= 0.15


@pytest.fixture(scope="module")
def clip(tmp_path_factory):
    folder = tmp_path_factory.mktemp("extending")
    ground = sized("coffee", 180, 320)

    def paint(number: int) -> np.ndarray:
        image = ground.copy()
        cv2.circle(image, (90 + 2 * number, 200), 18, (30, 60, 210), -1)
        return image

    return write_clip(folder / "upright.mp4", size=(180, 320), frames=20, paint=paint, sound=None)


WIDE = Frame(width=640, height=320)


def frames_of(plan, clip, tmp_path, most=3):
    info, library = joins.ready(clip, tmp_path / "plates", plan)
    made = []
    with ClipReader(clip, info) as reader:
        for stored_frame in reader.frames():
            compositor = Compositor(plan, stored_frame.planes.layout, info, library=library)
            made.append(compositor.compose(stored_frame.planes, time=stored_frame.time))
            if len(made) == most:
                break
    return made, info, library


def test_the_picture_s_own_pixels_stay_as_they_are_without_a_surround(clip, tmp_path):
    plan = Plan(frame=WIDE, surround=Extended())
    (made, *_), info, library = frames_of(plan, clip, tmp_path)
    (plain, *_), _, _ = frames_of(plan.model_copy(update={"surround": Plain()}), clip, tmp_path)
    inside = (slice(None), slice(230 + 12, 410 - 12))
    assert np.array_equal(made.arrays[0][inside], plain.arrays[0][inside])
    shares = shares_at(plan, info, library, F(0))
    assert float(shares.real) == pytest.approx(28.1, abs=0.5)
    assert float(shares.invented) == pytest.approx(71.9, abs=0.5)
    assert shares.elsewhen == 0


def test_mirrored_it_is_the_mirror_image(clip, tmp_path):
    plan = Plan(frame=WIDE, surround=Extended(match_grain=False))
    (one, *_), _, _ = frames_of(plan, clip, tmp_path)
    turned = plan.model_copy(update={"placement": Placement(mirror=True)})
    # The sides are those of the frame: what was left is right, in the same way.
    (other, *_), _, _ = frames_of(turned, clip, tmp_path)
    difference = np.abs(one.arrays[0].astype(int) - other.arrays[0][:, ::-1])
    assert np.median(difference) <= 2
    assert np.percentile(difference[:, 200:440], 90) <= 4


def test_a_side_that_is_left_alone_and_what_no_plate_reaches_fall_back(clip, tmp_path):
    near = PlateSide(reach=F(40))
    surround = Extended(left=near, right=None, beyond=Plain(colour="#ffffff"))
    plan = Plan(frame=WIDE, surround=surround)
    (made, *_), info, library = frames_of(plan, clip, tmp_path)
    luma = made.arrays[0]
    assert (luma[:, 420:] > 230).all()
    assert (luma[:, :140] > 230).all()
    assert (luma[:, 170:220] < 230).mean() > 0.6
    (asked,) = plates_asked(plan, info)
    assert asked.short == ("left",)
    assert float(shares_at(plan, info, library, F(0)).beyond) > 50


def test_a_move_reaches_as_far_as_it_ever_shows(clip):
    """A small picture that goes from one side of the frame to the other."""
    small = Placement(sizing="scale", scale=F(4, 5))
    still = Plan(frame=Frame(width=180, height=320), placement=small, surround=Extended())
    moved = still.model_copy(update={"motion": Motion(move=Pan(beyond=True))})
    info = probe(clip)
    reaches = [
        {side: one.reach for side, one in plates_asked(plan, info)[0].asked.sides.items()} for plan in (still, moved)
    ]
    assert all(reaches[1][side] > 1.5 * reaches[0][side] for side in ("left", "right"))


@pytest.mark.parametrize("angle", [F(0), F(5)])
def test_a_window_travels_over_picture_and_plate(clip, tmp_path, angle):
    keys = (Key(time=F(0), x=F(-2, 5), y=F(0), tightness=F(1)), Key(time=F(3, 5), x=F(2, 5), y=F(0), tightness=F(1)))
    plan = Plan(
        frame=Frame(width=320, height=320),
        placement=Placement(angle=angle, tightness=F(1)),
        motion=Motion(keys=keys, inside=False),
        surround=Extended(beyond=Plain(colour="#ff00ff")),
    )
    made, _, _ = frames_of(plan, clip, tmp_path, most=15)
    assert not np.array_equal(made[0].arrays[0], made[-1].arrays[0])
    for frame in made:
        magenta = (frame.arrays[1] > 190) & (frame.arrays[2] > 190)
        assert magenta.mean() < 0.04  # the corners of a turned one at most


def test_a_pan_is_filled_with_real_pixels(tmp_path):
    wide = sized("brick", 420, 240)
    clip = write_clip(
        tmp_path / "pan.mp4", size=(160, 240), frames=40, paint=lambda n: wide[:, 6 * n : 6 * n + 160], sound=None
    )
    plan = Plan(frame=Frame(width=320, height=240), surround=Extended(camera="moving"))
    info, library = joins.ready(clip, tmp_path / "plates", plan)
    (asked,) = plates_asked(plan, info)
    plate = plate_in(library, asked.asked, resolve(info, plan.interpretation))
    assert plate.about.moving
    assert set(np.unique(plate.origin)) == {ELSEWHEN, INVENTED}
    middle = shares_at(plan, info, library, F(4, 5))
    assert float(middle.elsewhen) > 45
    assert float(middle.invented) < 5


def test_a_plate_has_the_clip_s_own_depth(tmp_path):
    ground = place(9, 120, 200)
    clip = write_clip(
        tmp_path / "deep.mov",
        size=(120, 200),
        frames=6,
        paint=lambda _: ground,
        codec="prores_ks",
        pixel_format="yuv422p10le",
        sound=None,
        options={},
    )
    plan = Plan(frame=Frame(width=400, height=200), surround=Extended())
    info, library = joins.ready(clip, tmp_path / "plates", plan)
    (asked,) = plates_asked(plan, info)
    plate = plate_in(library, asked.asked, resolve(info, plan.interpretation))
    assert plate.planes.layout.depth == 10
    assert plate.planes.arrays[0].max() > 255


def test_what_cannot_be_laid_together_is_said(tmp_path):
    clip = write_clip(
        tmp_path / "black.mp4",
        size=(120, 200),
        frames=12,
        paint=lambda _: np.zeros((200, 120, 3), np.uint8),
        sound=None,
    )
    plan = Plan(frame=Frame(width=400, height=200), surround=Extended(camera="moving"))
    with pytest.raises(BadRequest, match="camera's movement cannot be told"):
        joins.ready(clip, tmp_path / "plates", plan)
    still = plan.model_copy(update={"surround": Extended()})
    (made, *_), _, _ = frames_of(still, clip, tmp_path)
    assert made.arrays[0].max() <= 18


def test_a_camera_is_not_followed_for_ever(clip):
    seeing = Seeing(clip, probe(clip), Interpretation())
    asked = SceneRequest(start=F(0), end=F(3600), camera="moving", width=90, height=160)
    with pytest.raises(BadRequest, match="180 seconds"):
        scene_of(asked, seeing)


def test_a_still_goes_on_as_well(tmp_path):
    path = tmp_path / "still.png"
    cv2.imwrite(str(path), sized("coffee", 90, 160)[..., ::-1])
    plan = Plan(frame=Frame(width=320, height=160), surround=Extended())
    info, library = joins.ready(path, tmp_path / "plates", plan)
    assert float(shares_at(plan, info, library, F(0)).invented) > 60


def test_for_other_clips_what_belongs_to_one_is_left_out():
    dab = Dab(x=F(1, 2), y=F(1, 2), radius=F(1, 20))
    own = Extended(start=F(1), end=F(3), excluded=(dab,), left=PlateSide(variant=3), overlap=F(5))
    plan = Plan(frame=WIDE, surround=own)
    given = ReusableStyle.parts_of(plan)["surround"]
    assert given == Extended(left=PlateSide(variant=3), overlap=F(5))
