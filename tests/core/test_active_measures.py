"""Active pictures by aspect, lines and percent."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cadrage.errors import BadRequest
from cadrage.formats import FRAME_FORMATS, Frame
from cadrage.formats.active_measures import active_aspect, active_measures, read_active
from cadrage.formats.sources import FILM_RATIOS

HD = Frame(width=1920, height=1080)
DCI_4K = Frame(width=4096, height=2160)


@pytest.mark.parametrize(
    ("frame", "aspect", "percent", "lines"),
    [
        # Bars in percent of the height: common practice, computed by hand from 50 · (1 − (16/9) / aspect).
        (HD, "2.35", 12.17, 817.02),
        (HD, "2.39", 12.81, 803.35),
        (HD, "2.40", 12.96, 800.0),
        (HD, "1.85", 1.95, 1037.84),
        (DCI_4K, "2.35", 9.65, 1742.98),
        (DCI_4K, "2.39", 10.33, 1713.81),
        (DCI_4K, "2.40", 10.49, 1706.67),
    ],
)
def test_the_aspects_of_film_have_their_usual_percent_and_lines(frame, aspect, percent, lines):
    found = active_measures(frame.model_copy(update={"active": Fraction(aspect)}))
    assert found.bars == "above_below"
    assert float(found.percent) == pytest.approx(percent, abs=0.005)
    assert float(found.pixels) == pytest.approx(lines, abs=0.006)


def test_twelve_percent_is_not_scope():
    assert active_aspect(HD, "percent", Fraction(12), "above_below") == Fraction(400, 171)  # 2.339, not 2.39
    assert float(active_aspect(DCI_4K, "percent", Fraction(12), "above_below")) == pytest.approx(2.495, abs=0.0005)


@pytest.mark.parametrize("frame", [row.frame for row in FRAME_FORMATS], ids=lambda frame: frame.name)
@pytest.mark.parametrize("aspect", [ratio.aspect for ratio in FILM_RATIOS], ids=str)
def test_every_way_gives_the_same_picture_exactly(frame, aspect):
    found = active_measures(frame.model_copy(update={"active": aspect}))
    for by in ("aspect", "pixels", "percent"):
        assert active_aspect(frame, by, getattr(found, by), found.bars) == aspect


@given(percent=st.fractions(0, 49), wide=st.booleans())
def test_percent_and_back(percent, wide):
    bars = "above_below" if wide else "left_right"
    try:
        aspect = active_aspect(HD, "percent", percent, bars)
    except BadRequest:
        return  # narrower than an active picture may be
    found = active_measures(HD.model_copy(update={"active": aspect}))
    assert found.percent == percent
    assert found.bars == bars or percent == 0


def test_a_frame_without_an_active_picture_is_all_of_it():
    found = active_measures(HD)
    assert (found.aspect, found.pixels, found.percent) == (Fraction(16, 9), 1080, 0)


@pytest.mark.parametrize(
    ("text", "aspect"),
    [
        ("2.39", Fraction(239, 100)),
        ("16:9", Fraction(16, 9)),
        ("804 lines", Fraction(1920, 804)),
        ("1440 columns", Fraction(4, 3)),
        ("12%", Fraction(400, 171)),
        ("12.5 % left-right", Fraction(4, 3)),
    ],
)
def test_it_is_read_as_people_write_it(text, aspect):
    assert read_active(HD, text) == aspect


@pytest.mark.parametrize(
    "text", ["", "wide", "0 lines", "1081 lines", "50%", "-1%", "12% below", "804 rows", "0", "1:0"]
)
def test_what_is_no_active_picture_is_refused(text):
    with pytest.raises(BadRequest) as refused:
        read_active(HD, text)
    assert refused.value.remedy
