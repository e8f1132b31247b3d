"""A placement that varies: every frame is the one that a plan of that moment's placement would be."""

from fractions import Fraction as F

import numpy as np
import pytest

from cadrage.compose import Compositor
from cadrage.compose import shot_compositor as room
from cadrage.compose.framed import placed_in, stage_of
from cadrage.compose.layers import PictureAlone
from cadrage.footage import ClipReader, Material, library_of_files, probe, resolve
from cadrage.geometry import Placement
from cadrage.motion import ConstantTrack, Motion, key_of
from cadrage.pixels.planes import Planes
from cadrage.plan import Plan
from tests.clips import write_clip
from tests.golden_frames import FRAME, TIME, plans, scene

WAY = (Placement(), Placement(offset_x=F(31), tightness=F(3, 10)), Placement(offset_y=F(-9), tightness=1, angle=F(4)))
NOISE = 2
"""Codes of 8 bits: where a placement moves, noise of one code that hides steps stands in the frame, not in its bars."""


def stage(plan, info, placement):
    return stage_of(plan, resolve(info, plan.interpretation)).with_base(placement)


def walking(plan, info):
    """One placement after the other, a second each."""
    keys = [key_of(stage(plan, info, WAY[second % 3]), F(second), "hold") for second in range(6)]
    return plan.model_copy(update={"motion": Motion(keys=tuple(keys), inside=False)})


@pytest.fixture(scope="module")
def clip(tmp_path_factory):
    path = write_clip(
        tmp_path_factory.mktemp("walk") / "scene.mp4", size=(100, 160), frames=25, paint=scene, sound=None
    )
    info = probe(path)
    with ClipReader(path, info) as reader:
        return info, reader.frame_at(TIME).planes, library_of_files(Material(path, info))


@pytest.fixture(scope="module")
def folder(tmp_path_factory):
    return tmp_path_factory.mktemp("words")


def test_every_surround_and_finish_is_at_each_moment_as_if_it_stood_there(clip, folder):
    info, stored, library = clip
    for name, plan in plans(folder).items():
        walk = Compositor(walking(plan, info), stored.layout, info, library=library)
        assert walk.animated
        canvas = Planes.empty(walk.layout)
        for second in (0, 1, 2, 1, 0):
            time = TIME + second
            standing = plan.model_copy(update={"placement": WAY[second]})
            wanted = Compositor(standing, stored.layout, info, library=library).compose(stored, time=time)
            walk.compose(stored, canvas, time)
            for one, other in zip(canvas.arrays, wanted.arrays, strict=True):
                assert np.abs(one.astype(int) - other).max() <= NOISE, (name, second)


def test_what_is_covered_comes_with_each_frame(clip, folder):
    info, stored, library = clip
    plan = plans(folder)["surround plain"]
    layout = Compositor(plan, stored.layout, info, library=library).layout
    walk = PictureAlone(walking(plan, info), stored.layout, info, layout, library=library)
    shares = []
    for second in (0, 1, 2):
        standing = plan.model_copy(update={"placement": WAY[second]})
        alone = PictureAlone(standing, stored.layout, info, layout, library=library)
        found = walk.coverage_at(F(second))
        assert np.array_equal(found, alone.coverage_at(F(0)))
        shares.append(float(found.mean()))
    assert len(set(shares)) == 3


def test_what_was_worked_out_is_kept_while_a_placement_stands(clip, folder, monkeypatch):
    info, stored, library = clip
    made = []
    real = room._picture_painters
    monkeypatch.setattr(room, "_picture_painters", lambda sheet: made.append(1) or real(sheet))
    plan = plans(folder)["surround blurred"]
    walk = Compositor(walking(plan, info), stored.layout, info, library=library)
    for time in (F(0), F(1, 2), F(9, 10), F(1), F(3, 2), F(3)):
        walk.compose(stored, time=time)
    assert len(made) == 3


def test_a_placement_that_stands_is_one_track(clip):
    info, *_ = clip
    plan = Plan(frame=FRAME)
    placed = placed_in(plan, resolve(info, plan.interpretation))
    track = ConstantTrack(placed)
    assert track.constant
    assert track.at(F(0)) is track.at(F(1000))
    assert track.extent((F(0), F(9))) == placed.rect
