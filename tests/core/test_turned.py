"""Rotate and mirror and cut pictures, in pixels."""

from fractions import Fraction as F

import numpy as np
import pytest

from cadrage.compose import Compositor, compose, measure
from cadrage.footage import ClipReader, Edges, Interpretation, probe
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.plan import Plan
from cadrage.surrounds import Blurred, Plain
from tests.clips import write_clip

SQUARE = Frame(width=360, height=360)


def dot(x, y):
    """A soft light spot at a place of a 320×180 picture."""
    rows, columns = np.mgrid[:180, :320]
    shape = np.exp(-((columns + 0.5 - x) ** 2 + (rows + 0.5 - y) ** 2) / (2 * 4.0**2))
    return np.repeat((20 + 200 * shape).astype(np.uint8)[..., None], 3, axis=2)


def centre_of(luma):
    light = np.maximum(luma.astype(float) - 60, 0)
    rows, columns = np.mgrid[: luma.shape[0], : luma.shape[1]]
    return (light * (columns + 0.5)).sum() / light.sum(), (light * (rows + 0.5)).sum() / light.sum()


@pytest.fixture(scope="module")
def spot(tmp_path_factory):
    path = write_clip(tmp_path_factory.mktemp("spot") / "spot.mp4", frames=2, paint=lambda _: dot(230, 60))
    return path, probe(path)


def drawn(plan, clip):
    return compose(plan, clip[1], clip[0], F(0))


@pytest.mark.parametrize("angle", [0, 1, -7, 30, 45])
@pytest.mark.parametrize("mirror", [False, True])
def test_a_point_lands_where_the_geometry_says(spot, angle, mirror):
    placement = Placement(angle=F(angle), offset_x=F("3.25"), offset_y=F(-5), mirror=mirror)
    plan = Plan(frame=SQUARE, placement=placement, surround=Plain())
    placed = measure(plan, spot[1])
    left, right = np.array([[c.x, c.y] for c in placed.corners[:2]])
    lower = np.array([placed.corners[3].x, placed.corners[3].y])
    x = (320 - 230 if mirror else 230) / 320
    wanted = left + (right - left) * x + (lower - left) * (60 / 180)
    assert centre_of(drawn(plan, spot).arrays[0]) == pytest.approx(tuple(wanted), abs=0.06)


def test_a_straight_picture_and_one_turned_by_nearly_nothing_are_the_same(spot):
    plan = Plan(frame=SQUARE, placement=Placement(tightness=F(1)), surround=Plain())
    turned = plan.model_copy(update={"placement": Placement(tightness=F(1), angle=F(1, 1000))})
    one, other = drawn(plan, spot), drawn(turned, spot)
    for first, second in zip(one.arrays, other.arrays, strict=True):
        assert np.abs(first.astype(int) - second).mean() < 0.3


def test_a_turned_picture_that_covers_shows_nothing_of_its_surround(spot):
    cover = Placement(sizing="cover", angle=F(9), offset_x=F(11))
    red, green = (
        drawn(Plan(frame=SQUARE, placement=cover, surround=Plain(colour=colour)), spot).arrays
        for colour in ("#ff0000", "#00ff00")
    )
    assert all((one == other).all() for one, other in zip(red, green, strict=True))


def test_the_edge_of_a_turned_picture_is_smooth(tmp_path):
    path = write_clip(tmp_path / "white.mp4", frames=2, paint=lambda _: np.full((180, 320, 3), 255, np.uint8))
    plan = Plan(frame=SQUARE, placement=Placement(angle=F(10)), surround=Plain())
    luma = drawn(plan, (path, probe(path))).arrays[0]
    between = ((luma > 30) & (luma < 220)).sum(axis=0)
    assert ((between >= 1) & (between <= 3)).mean() > 0.85
    area = (luma.astype(float) - 16).sum() / 219
    assert area == pytest.approx(float(measure(plan, probe(path)).cost.covered_percent) / 100 * 360 * 360, rel=0.003)


def test_bars_that_are_taken_off_never_show_again(tmp_path):
    """Not in the picture, not in its blurred copy, not by a kernel reaching over the edge."""

    def boxed(_):
        frame = np.full((180, 320, 3), 200, np.uint8)
        frame[:23] = frame[-21:] = 0
        return frame

    path = write_clip(tmp_path / "boxed.mp4", frames=2, paint=boxed, sound=None)
    reading = Interpretation(burned_in_bars=Edges(top=F(23), bottom=F(21)))
    for placement in (Placement(), Placement(tightness=F(1)), Placement(angle=F(4), sizing="cover")):
        plan = Plan(frame=SQUARE, interpretation=reading, placement=placement, surround=Blurred(brightness=100))
        luma = drawn(plan, (path, probe(path))).arrays[0]
        assert luma.min() >= luma.max() - 1


def test_an_odd_cut_keeps_chroma_in_its_place(tmp_path):
    """A colour edge at an odd column stays within a quarter of a pixel of the luma edge, cut or not."""

    def halves(_):
        frame = np.full((180, 320, 3), (200, 40, 40), np.uint8)
        frame[:, 160:] = (40, 40, 200)
        return frame

    path = write_clip(tmp_path / "halves.mp4", frames=2, paint=halves, sound=None)
    info = probe(path)

    def edge(reading):
        plan = Plan(frame=Frame(width=640, height=360), interpretation=reading, placement=Placement(sizing="native"))
        placed = measure(plan, info)
        with ClipReader(path, info) as reader:
            stored = reader.frame_at(F(0)).planes
        row = Compositor(plan, stored.layout, info).compose(stored).arrays[1][90].astype(float)
        low, high = row[100:220].min(), row[100:220].max()
        crossing = np.flatnonzero(row[100:220] > (low + high) / 2)[0] + 100
        before, after = row[crossing - 1], row[crossing]
        at = (crossing - 0.5 + ((low + high) / 2 - before) / (after - before)) * 2
        return at - float(placed.box.x) - 160 + float(placed.picture.x)

    assert edge(Interpretation(burned_in_bars=Edges(left=F(5)))) == pytest.approx(edge(Interpretation()), abs=0.25)


def test_the_surround_may_go_on_outside_the_active_picture(spot):
    frame = SQUARE.model_copy(update={"active": F("2.39"), "outside": "surround"})
    cover = Placement(tightness=F(2))
    luma = drawn(Plan(frame=frame, placement=cover, surround=Plain(colour="#808080")), spot).arrays[0]
    assert (luma[:100] == luma[0, 0]).all()
    assert luma[0, 0] > 100
