"""Scopes show the codes of the file, and mark codes outside the legal range."""

from fractions import Fraction

import cv2
import numpy as np
import pytest

from cadrage.compose import Previewer
from cadrage.compose.scopes import BLACK, LEGAL, PART, ROWS, WHITE, chroma_of, drawn, scope, scope_layout
from cadrage.footage import probe
from cadrage.formats import Frame
from cadrage.pixels.planes import Planes
from cadrage.plan import Plan
from tests.clips import write_clip

HD = Frame(width=1920, height=1080)
RP_219 = {
    (0.75, 0.75, 0): (674, 176, 543),
    (0, 0.75, 0.75): (581, 589, 176),
    (0, 0.75, 0): (534, 253, 207),
    (0.75, 0, 0.75): (251, 771, 817),
    (0.75, 0, 0): (204, 435, 848),
    (0, 0, 0.75): (111, 848, 481),
}
"""Codes of 10 bits of 75% bars in SMPTE RP 219 (Y', Cb, Cr), from memory."""


def filled(luma, blue=512, red=512):
    """A frame of one colour."""
    planes = Planes.empty(scope_layout(Plan(frame=HD)))
    for array, code in zip(planes.arrays, (luma, blue, red), strict=True):
        array[:] = code
    return planes


def picture_of(kind, planes):
    told, data = drawn(kind, planes)
    return told, cv2.cvtColor(cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_COLOR), cv2.COLOR_BGR2RGB)


def brightest_row(picture):
    return int(picture.astype(int).sum(axis=(1, 2)).argmax())


@pytest.mark.parametrize("code", [BLACK, 300, 721, WHITE])
def test_a_waveform_has_a_grey_at_its_code(code):
    told, picture = picture_of("waveform", filled(code))
    assert brightest_row(picture) == ROWS - 1 - code // 4
    assert told.outside_percent == 0


def test_a_ramp_rises_over_the_columns():
    planes = filled(0)
    columns = planes.arrays[0].shape[1]
    planes.arrays[0][:] = np.linspace(BLACK, WHITE, columns).astype(np.uint16)
    _, picture = picture_of("waveform", planes)
    lit = picture.astype(int).sum(axis=2)
    lit[[ROWS - 1 - BLACK // 4, ROWS - 1 - WHITE // 4]] = 0  # the marks of black and white
    rows = lit[:, 20:-20].argmax(axis=0)
    wanted = ROWS - 1 - np.linspace(BLACK, WHITE, columns)[20:-20] / 4
    assert np.abs(rows - wanted).max() <= 1.5


@pytest.mark.parametrize("rgb", RP_219)
def test_bars_lie_where_the_standard_has_them(rgb):
    luma, blue, red = RP_219[rgb]
    assert chroma_of(rgb, "bt709") == pytest.approx((blue, red), abs=1)
    planes = filled(luma, blue, red)
    _, picture = picture_of("vectorscope", planes)
    lit = picture.astype(int).sum(axis=2)
    down, across = np.unravel_index(lit.argmax(), lit.shape)
    assert (across, ROWS - 1 - down) == (blue // 4, red // 4)
    _, parade = picture_of("parade", planes)
    for number, part in enumerate(rgb):
        row = brightest_row(parade[:, number * PART : (number + 1) * PART])
        assert row == pytest.approx(ROWS - 1 - (BLACK + part * (WHITE - BLACK)) / 4, abs=1)


@pytest.mark.parametrize(("code", "share"), [(LEGAL[0] - 4, 100), (LEGAL[0], 0), (LEGAL[1], 0), (LEGAL[1] + 4, 100)])
def test_what_is_outside_the_legal_range_is_counted_and_coloured(code, share):
    told, picture = picture_of("waveform", filled(code))
    assert told.outside_percent == share
    r, g, b = (int(value) for value in picture[brightest_row(picture), 100])
    assert (r - b > 60) == bool(share)
    del g


def test_colours_that_no_screen_shows_are_outside_in_the_parade():
    """Luma within its range, and R'G'B' beyond it."""
    told, _ = picture_of("waveform", filled(900, 512, 900))
    assert told.outside_percent == 0
    told, _ = picture_of("parade", filled(900, 512, 900))
    assert told.outside_percent > 30


def test_a_framing_has_a_scope_of_the_colour_of_its_file(tmp_path):
    path = write_clip(tmp_path / "clip.mp4", size=(320, 180), frames=5, sound=None)
    info = probe(path)
    for frame in (HD, Frame(width=1920, height=1080, colour="pq")):
        plan = Plan(frame=frame)
        told, data = scope("parade", plan, path, info, Fraction(0), Previewer())
        assert told.kind == "parade"
        assert cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_COLOR).shape == (ROWS, 480, 3)
        assert scope_layout(plan).colour.matrix == ("bt2020" if frame.colour == "pq" else "bt709")
