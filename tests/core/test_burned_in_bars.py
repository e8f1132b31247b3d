"""Bars that are part of the picture: right on every made case, none where there is none."""

from fractions import Fraction

import cv2
import numpy as np
import pytest

from cadrage.analysis.burned_in_bars import find_bars
from cadrage.footage import probe
from tests.bar_cases import CASES, HEIGHT, LETTERBOX, PILLARBOX, WIDTH, Case
from tests.clips import write_clip
from tests.sampling import a_part_of

EXACT, WITH_NOISE = 1, 2


def sides(edges):
    return tuple(int(side) for side in (edges.left, edges.right, edges.top, edges.bottom))


@pytest.mark.parametrize("case", a_part_of(CASES, 4))
def test_every_side_is_found_and_none_is_invented(case, tmp_path):
    path = case.write(tmp_path)
    found = find_bars(path, probe(path))
    assert found.kind == ("bars" if any(case.bars) else "none"), found.summary
    reach = WITH_NOISE if case.noise else EXACT
    assert all(abs(side - wanted) <= reach for side, wanted in zip(sides(found.edges), case.bars, strict=True))


def test_there_are_many_cases():
    assert len(CASES) >= 40
    assert sum(not any(case.bars) for case in CASES) >= 8


def mixed(tmp_path, *parts: Case, noise=0):
    frames = [frame for part in parts for frame in part.frames()]
    return write_clip(
        tmp_path / "mixed.mp4",
        size=(WIDTH, HEIGHT),
        frames=len(frames),
        rate=Fraction(24),
        paint=lambda number: frames[number],
        sound=None,
        options={"crf": "18", "preset": "superfast"},
    )


def test_where_the_bars_change(tmp_path):
    path = mixed(tmp_path, Case("wide"), Case("old", PILLARBOX, "astronaut"), Case("scope", LETTERBOX, "chelsea"))
    found = find_bars(path, probe(path))
    assert found.kind == "changing"
    assert [sides(stretch.edges) for stretch in found.stretches] == [(0, 0, 0, 0), PILLARBOX, LETTERBOX]
    assert [stretch.start for stretch in found.stretches] == [0, 2, 4]


def test_colours_of_bars_are_told(tmp_path):
    def colour(level):
        path = Case("bars", LETTERBOX, level=level).write(tmp_path)
        return find_bars(path, probe(path)).colour

    assert colour((0, 0, 0)) == "black"
    assert colour((255, 255, 255)) == "white"
    assert colour((110, 110, 110)) == "grey or coloured"


def blurred_wings(frame, _):
    wide = cv2.GaussianBlur(cv2.resize(frame, (WIDTH, 1138))[389 : 389 + HEIGHT], (0, 0), 14)
    wide[:, 218 : WIDTH - 218] = frame[:, 218 : WIDTH - 218]
    return wide


def test_blurred_wings_are_no_bars_but_look_like_a_surround(tmp_path):
    path = Case("wings", photo="astronaut", over=blurred_wings).write(tmp_path)
    found = find_bars(path, probe(path))
    assert found.kind == "surround"
    assert sides(found.edges) == pytest.approx((218, 218, 0, 0), abs=2)


def test_a_clip_that_is_black_throughout_tells_nothing(tmp_path):
    path = write_clip(tmp_path / "black.mp4", paint=lambda _: np.zeros((180, 320, 3), np.uint8))
    assert find_bars(path, probe(path)).kind == "dark"
