"""Whole pictures repeated and dropped, none blended."""

from fractions import Fraction as F

import numpy as np
import pytest

from cadrage.footage import ClipReader, probe
from cadrage.formats import Frame
from cadrage.plan import Plan
from cadrage.render import Order, inspect_file, render
from tests.clips import write_clip

FILM = F(24000, 1001)


def numbered(number):
    """A picture that carries its own number, as sixteen shades that survive coding."""
    image = np.empty((64, 96, 3), np.uint8)
    image[:, :48], image[:, 48:] = 16 * (number % 16), 16 * (number // 16 % 16)
    return image


def numbers(path):
    with ClipReader(path, probe(path)) as reader:
        lumas = [frame.planes.arrays[0] for frame in reader.frames()]

    def shade(part):
        return round((part.mean() - 16) / 219 * 255 / 16)

    return [shade(luma[:, 4:44]) + 16 * shade(luma[:, 52:92]) for luma in lumas]


@pytest.mark.parametrize(("own", "wanted"), [(F(24), F(25)), (F(25), F(24)), (FILM, F(25)), (F(30), F(30000, 1001))])
def test_each_frame_is_the_picture_on_screen_at_its_moment(tmp_path, own, wanted):
    path = write_clip(tmp_path / "in.mp4", size=(96, 64), frames=75, rate=own, paint=numbered, sound=None)
    facts, target = probe(path), tmp_path / "out.mp4"
    plan = Plan(frame=Frame(width=96, height=64, rate=wanted))
    render(plan, path, target, facts)
    shown = numbers(target)
    assert shown == [int(F(number) / wanted * own) for number in range(len(shown))]
    assert len(shown) == -(-(75 / own * wanted) // 1)
    report = inspect_file(target, Order(plan, path, facts))
    assert report.right, report


def test_a_varying_rate_becomes_constant(tmp_path):
    stamps = [0, 40, 80, 120, 400, 440, 480, 520]
    path = write_clip(
        tmp_path / "in.mkv", size=(96, 64), frames=8, rate=F(25), paint=numbered, stamps=stamps, sound=None
    )
    target = tmp_path / "out.mp4"
    render(Plan(frame=Frame(width=96, height=64, rate=F(25))), path, target, probe(path))
    assert not probe(target).rate_varies
    assert numbers(target) == [0, 1, 2, 3, 3, 3, 3, 3, 3, 3, 4, 5, 6, 7]
