"""Whether a shot can go on beyond its sides: a few of the made clips; `make extending` measures them all."""

from fractions import Fraction as F

import pytest

from cadrage import analyses
from cadrage.analysis import AnalysisStore, NotFound
from cadrage.analysis.sides.verdict import clock
from cadrage.analysis.sides.warnings import even_bands, warnings_at
from cadrage.compose.advice import advised
from cadrage.footage import probe
from cadrage.surrounds import Extended
from tests.clips import write_clip
from tests.extending.cases import CASES
from tests.extending.photographs import photograph, sized
from tests.extending.verdicts import found_in, judged
from tests.following.drawing import place

BY_NAME = {case.name: case for case in CASES}


def test_there_are_enough_sides_and_each_kind_of_them():
    assert 2 * len(CASES) >= 80
    assert {case.kind for case in CASES} == {"clean", "noise", "crf 32", "flicker", "light", "cut", "crossed", "moving"}


LONG = pytest.mark.long


@pytest.mark.parametrize(
    "name", ["clean 2", pytest.param("flicker chelsea", marks=LONG), pytest.param("flash 0", marks=LONG)]
)
def test_a_side_that_nobody_crosses_fits_whatever_the_light_does(name):
    found = judged(BY_NAME[name])
    assert [verdict for _, _, verdict in found.verdicts] == ["fits", "fits"]
    assert found.step[0] <= 0.05
    assert found.drift[0] <= 0.2


@pytest.mark.parametrize("name", ["crossed brief", pytest.param("crossed small", marks=LONG)])
def test_a_side_that_is_crossed_never_fits_and_the_other_does(name):
    found = judged(BY_NAME[name])
    assert {is_crossed: verdict for _, is_crossed, verdict in found.verdicts}[False] == "fits"
    assert {is_crossed: verdict for _, is_crossed, verdict in found.verdicts}[True] != "fits"


@pytest.mark.long
def test_it_says_until_when_and_in_how_many_pictures(tmp_path):
    """Somebody is at the right edge from picture 85 of 100 on."""
    found = found_in(BY_NAME["crossed at the end"].write(tmp_path))
    side = found.shots[0].sides["right"]
    assert side.summary.startswith("someone crosses in ")
    assert "fits until 0:03" in side.summary
    assert float(side.crossed_percent) == pytest.approx(15, abs=2)
    assert (side.fits_from, float(side.fits_to)) == (0, pytest.approx(3.4, abs=0.1))
    taken = advised(Extended(left=None), found, F(1))
    assert (taken.camera, taken.start, taken.end) == ("still", side.fits_from, side.fits_to)
    assert advised(Extended(right=None), found, F(1)).end is None  # on the left all of it fits


def test_a_pan_is_told_with_how_much_real_pixels_fill(tmp_path):
    wide = sized("coffee", 620, 240)
    clip = write_clip(
        tmp_path / "pan.mp4", size=(200, 240), frames=60, paint=lambda n: wide[:, 6 * n : 6 * n + 200], sound=None
    )
    (shot,) = found_in(clip).shots
    assert shot.camera.move == "panning"
    assert shot.camera.step == pytest.approx(6 * 480 / 240, rel=0.03)
    assert shot.sides["left"].reason == "real_pixels"
    assert 40 < shot.sides["left"].filled_percent < 90
    assert shot.sides["top"].verdict == "unfit"
    assert advised(Extended(), found_in(clip), F(0)).camera == "moving"


@pytest.mark.long
def test_each_shot_is_judged_by_itself(tmp_path):
    found = found_in(BY_NAME["cut"].write(tmp_path))
    assert [float(shot.start) for shot in found.shots] == [0, 2]
    assert all(shot.sides["left"].verdict == "fits" for shot in found.shots)


def test_what_stands_at_the_edge_is_warned_of():
    near = photograph("astronaut")[60:260, 205:405]
    assert "face" in warnings_at(near)["left"]
    assert warnings_at(sized("gravel", 320, 240))["right"] == ()


def test_above_and_below_only_what_is_even_is_extended():
    assert even_bands(sized("gravel", 320, 240)[..., 1])["top"]
    assert not even_bands(place(3, 320, 240)[..., 1])["top"]


@pytest.mark.parametrize(("frames", "words"), [(1, "too few pictures"), (2, "too few pictures")])
def test_what_is_too_short_is_said(tmp_path, frames, words):
    clip = write_clip(tmp_path / "short.mp4", frames=frames, sound=None)
    outcome = analyses.find("sides", AnalysisStore(tmp_path / "found"), clip, clip.name, probe(clip))
    assert isinstance(outcome, NotFound)
    assert words in outcome.reason


def test_moments_are_told_as_on_a_clock():
    assert (clock(F(0)), clock(F(65, 2)), clock(F(601, 10))) == ("0:00", "0:32", "1:00")
