"""One suite over every kind of surround, and what each of them is."""

from dataclasses import replace
from fractions import Fraction as F
from itertools import pairwise

import numpy as np
import pytest

from cadrage.compose import Compositor, measure
from cadrage.footage import ClipReader, Material, library_of_files, probe
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.pixels.light import codes_of
from cadrage.plan import Plan
from cadrage.surrounds import (
    BACKGROUND_KINDS,
    SURROUND_KINDS,
    AnimatedPattern,
    Blurred,
    EdgeExtend,
    Gradient,
    Mirrored,
    Plain,
    offered,
)
from cadrage.surrounds.animated_pattern import PATTERNS
from tests.clips import moving_square, write_clip

FRAME = Frame(width=640, height=360)
WHOLE = (slice(None), slice(0, 218))  # the bar left of a whole 180×320 picture in 640×360


@pytest.fixture(scope="module")
def clip(tmp_path_factory):
    path = write_clip(tmp_path_factory.mktemp("s") / "up.mp4", size=(180, 320), frames=4, paint=moving_square(180, 320))
    info = probe(path)
    with ClipReader(path, info) as reader:
        return info, reader.frame_at(F(0)).planes, library_of_files(Material(path, info))


def drawn(clip, surround, time=F(0), frame=FRAME, depth=8, **plan):
    info, stored, library = clip
    made = Plan(frame=frame, surround=surround, **plan)
    eight = Compositor(made, stored.layout, info, library=library).layout
    layout = replace(eight, depth=depth)
    return Compositor(made, stored.layout, info, layout, library=library).compose(stored, time=time)


def bright(kind):
    """A kind at its brightest: whatever it consists of."""
    return SURROUND_KINDS[kind]().map_backgrounds(lambda ground: ground.model_copy(update={"brightness": 150.0}))


@pytest.mark.parametrize("kind", SURROUND_KINDS)
def test_every_kind_leaves_the_picture_alone_and_fills_the_rest(clip, kind):
    plain, made = drawn(clip, Plain(colour="#ff00ff")), drawn(clip, bright(kind))
    inside = slice(220, 420)
    for one, other in zip(plain.arrays, made.arrays, strict=True):
        part = slice(inside.start * one.shape[1] // 640, inside.stop * one.shape[1] // 640)
        assert (one[:, part] == other[:, part]).all()
    magenta = [round(code) for code in codes_of("#ff00ff", plain.layout.colour, 8)]
    assert not (made.arrays[0][WHOLE] == magenta[0]).all()


@pytest.mark.parametrize("kind", BACKGROUND_KINDS)
def test_every_kind_can_be_thinned_to_its_base_and_loses_its_colour(clip, kind):
    base = [round(code) for code in codes_of("#406080", drawn(clip, Plain()).layout.colour, 8)]
    gone = drawn(clip, SURROUND_KINDS[kind](opacity=0, base="#406080"))
    for plane, code in zip(gone.arrays, base, strict=True):
        bar = plane[:, : plane.shape[1] * 210 // 640].astype(int)
        assert np.abs(bar - code).max() <= 1
    grey = drawn(clip, SURROUND_KINDS[kind](saturation=0))
    for plane in grey.arrays[1:]:
        assert np.abs(plane[:, :105].astype(int) - 128).max() <= 1


@pytest.mark.parametrize("kind", SURROUND_KINDS)
def test_every_kind_travels_as_json_and_says_what_it_is(kind):
    made = SURROUND_KINDS[kind]()
    assert Plan.model_validate_json(Plan(frame=FRAME, surround=made).model_dump_json()).surround == made
    assert made.summary


@pytest.mark.parametrize("kind", SURROUND_KINDS)
def test_every_kind_is_the_same_in_ten_bits(clip, kind):
    eight, ten = drawn(clip, SURROUND_KINDS[kind]()), drawn(clip, SURROUND_KINDS[kind](), depth=10)
    difference = ten.arrays[0][WHOLE].astype(float) / 4 - eight.arrays[0][WHOLE]
    assert abs(difference.mean()) < 0.5
    assert np.abs(difference).max() < 2.5


def by_hand(model):
    return getattr(model, "by_hand", ())


def test_every_control_of_every_kind_is_a_field_of_it():
    for kind in offered():
        model = SURROUND_KINDS[kind.kind]
        assert {control.name for control in kind.controls} == set(model.model_fields) - {"kind", *by_hand(model)}
        given = {c.name: None if c.unit == "colour or none" else c.default for c in kind.controls}
        assert model(**given) == model()


@pytest.mark.parametrize("form", ["linear", "radial"])
def test_a_gradient_has_no_step_larger_than_a_code_and_runs_between_its_colours(clip, form):
    gradient = Gradient(form=form, first="#202020", last="#e0e0e0", second="#808080", angle=0)
    layout = drawn(clip, gradient, frame=Frame(width=1920, height=1080)).layout
    codes = gradient.codes(layout, 0, 1.0)
    assert np.abs(np.diff(codes, axis=1)).max() <= 1
    assert np.abs(np.diff(codes, axis=0)).max() <= 1
    ends = [codes_of(colour, layout.colour, 8)[0] for colour in ("#202020", "#e0e0e0")]
    assert (codes.min(), codes.max()) == pytest.approx(tuple(ends), abs=1.5)


def test_dithering_keeps_the_mean_and_hides_the_steps(clip):
    gradient = Gradient(first="#303030", last="#343434", angle=0)
    made = drawn(clip, gradient)
    bar = made.arrays[0][:, :218].astype(float)
    exact = gradient.codes(made.layout, 0, 1.0)[:, :218]
    assert np.abs(bar.mean(axis=0) - exact.mean(axis=0)).max() < 0.2
    assert all(len(np.unique(bar[:, column])) > 1 for column in range(0, 218, 20))


@pytest.mark.parametrize("angle", [0, 90, 180, 270])
def test_a_gradient_runs_the_way_it_is_turned(clip, angle):
    luma = drawn(clip, Gradient(first="#000000", last="#ffffff", angle=angle)).arrays[0].astype(int)
    edges = {0: luma[:, 0], 180: luma[:, -1], 90: luma[0, :200], 270: luma[-1, :200]}
    assert edges[angle].mean() < 20
    assert edges[(angle + 180) % 360].mean() > 230


def test_carried_edges_are_the_border_line_where_they_are_not_softened(clip):
    made = drawn(clip, EdgeExtend(softness=0, brightness=100)).arrays[0].astype(int)
    assert np.abs(made[:, :218] - made[:, 221:222]).mean() < 3
    assert (made[:, 0] == made[:, 100]).all()


def test_carried_edges_grow_softer_with_the_distance(clip):
    made = drawn(clip, EdgeExtend(softness=8, brightness=100)).arrays[0].astype(float)
    rough = [np.abs(np.diff(made[:, column])).mean() for column in (215, 140, 60, 2)]
    assert rough == sorted(rough, reverse=True)
    assert rough[0] > 1.3 * rough[-1]


def test_mirrored_is_the_picture_mirrored(clip):
    """Native size and a whole number of pixels: the columns beside the picture are its own, backwards."""
    frame = Frame(width=420, height=320)
    made = drawn(clip, Mirrored(brightness=100), frame=frame).arrays[0].astype(int)
    left, picture = made[:, :120], made[:, 120:300]
    assert np.abs(left[:, ::-1] - picture[:, :120]).max() <= 1
    assert np.abs(made[:, 300:] - picture[:, ::-1][:, :120]).max() <= 1


@pytest.mark.parametrize("pattern", PATTERNS)
def test_drift_goes_round_without_a_join(clip, pattern):
    """After a period it is what it was; the last step is no larger than the others; and it does move."""
    drift = AnimatedPattern(pattern=pattern, period=4)
    steps = [drawn(clip, drift, F(number, 10)).arrays[0][WHOLE].astype(int) for number in range(41)]
    assert (steps[0] == steps[40]).all()
    moved = [np.abs(one - other).mean() for one, other in pairwise(steps)]
    assert moved[-1] <= 1.5 * max(moved[:-1])
    assert np.abs(steps[0] - steps[20]).mean() > 0.5


def test_drift_has_many_forms_each_always_the_same(clip):
    one, same, other = (drawn(clip, AnimatedPattern(seed=seed)).arrays[0][WHOLE] for seed in (1, 1, 2))
    assert (one == same).all()
    assert np.abs(one.astype(int) - other).mean() > 1


def test_what_moves_by_itself_moves_over_a_still_picture(tmp_path):
    from PIL import Image

    from cadrage.compose import compose

    path = tmp_path / "still.png"
    Image.fromarray(np.full((320, 180, 3), 120, np.uint8)).save(path)
    info = probe(path)
    plan = Plan(frame=FRAME, surround=AnimatedPattern(period=4))
    first, later = (compose(plan, info, path, time).arrays[0][WHOLE] for time in (F(0), F(2)))
    assert np.abs(first.astype(int) - later).mean() > 0.5


def test_colours_that_are_none_are_refused():
    for wrong in ({"first": "red"}, {"second": "#12"}, {"base": ""}, {"tint": "#gggggg"}):
        with pytest.raises(ValueError, match="colour"):
            Gradient(**wrong)


def test_a_surround_that_nobody_sees_costs_no_word(clip):
    fill = Placement(tightness=F(1))
    assert measure(Plan(frame=FRAME, placement=fill, surround=Blurred()), clip[0]).summary.surround == "nothing to fill"
