"""A placement that varies: every frame is the one that a plan of that moment's placement would be."""

import gc
import weakref
from fractions import Fraction as F

import numpy as np
import pytest

from cadrage.compose import Compositor
from cadrage.compose import shot_compositor as room
from cadrage.compose.framed import placed_in, stage_of
from cadrage.compose.layers import PictureAlone, layer_plan
from cadrage.compose.shots import track_of
from cadrage.finish import Captions, Finish
from cadrage.finish.specification import Shadow
from cadrage.footage import ClipReader, Material, library_of_files, probe, resolve
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.inspection import inspect_file
from cadrage.motion import ConstantTrack, Key, Motion, Pan, Push, key_of
from cadrage.output import Settings
from cadrage.pixels.planes import Planes
from cadrage.plan import Plan, Range, Shot
from cadrage.render import RenderRequest, render
from cadrage.render.segments import finish
from cadrage.render.workspace import RenderWorkspace
from cadrage.surrounds import Graphic, Plain
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


def test_what_is_done_composing_is_gone_at_once(clip, folder):
    """A circle of references would keep its arrays until the collector comes, which counts objects, not bytes."""
    info, stored, library = clip
    gc.collect()
    gc.freeze()  # what is there already is not looked at each time
    gc.disable()
    try:
        for name, plan in plans(folder).items():
            for one in (plan, walking(plan, info)):
                compositor = Compositor(one, stored.layout, info, library=library)
                compositor.compose(stored, time=TIME)
                gone = weakref.ref(compositor)
                del compositor
                assert gone() is None, name
                left = [held for held in circles() if type(held).__module__.startswith(("cadrage.", "numpy"))]
                assert not left, (name, left[:3])
    finally:
        gc.enable()
        gc.unfreeze()


def circles():
    """What only the collector of circles finds."""
    gc.set_debug(gc.DEBUG_SAVEALL)
    try:
        gc.collect()
        return list(gc.garbage)
    finally:
        gc.set_debug(0)
        gc.garbage.clear()


@pytest.mark.parametrize("what", ["panel", "captions"])
def test_words_beside_a_picture_that_moves_stand_where_it_never_comes(tmp_path, what):
    grey = np.full((90, 160, 3), 90, np.uint8)
    path = write_clip(tmp_path / "grey.mp4", size=(160, 90), frames=50, paint=lambda _: grey, sound=None)
    said = tmp_path / "said.srt"
    said.write_text("1\n00:00:00,000 --> 00:00:02,000\nAll aboard\n")
    info = probe(path)
    library = library_of_files(Material(path, info))
    down = Motion(keys=(Key(time=F(0), x=F(0), y=F(0)), Key(time=F(49, 25), x=F(0), y=F(-1, 2))), inside=False)
    words = {
        "panel": {"surround": Graphic(heading="Seven", size=5, colour="#ffffff", ground=Plain(), place="below")},
        "captions": {
            "surround": Plain(),
            "finish": Finish(captions=Captions(of=str(said), size=F(5), plate=0, colour="#ffffff")),
        },
    }
    plan = Plan(frame=Frame(width=270, height=480), motion=down, **words[what])
    seen = []
    with ClipReader(path, info) as reader:
        for number in (0, 20, 49):
            stored = reader.frame_at(F(number, 25))
            compositor = Compositor(plan, stored.planes.layout, info, library=library)
            seen.append(compositor.compose(stored.planes, time=stored.time).luma8)
    ink = [luma > 180 for luma in seen]
    assert ink[0].sum() > 50
    assert np.array_equal(ink[0], ink[1])
    assert np.array_equal(ink[0], ink[2])
    lowest = [np.flatnonzero(((luma > 60) & (luma < 120)).sum(axis=1) > 200).max() for luma in seen]
    assert lowest[0] < lowest[1] < lowest[2] < np.flatnonzero(ink[0].any(axis=1)).min()


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


SHOTS = (
    Shot(start=0),
    Shot(start=F(2, 5), placement=Placement(tightness=1), motion=Motion(move=Pan(beyond=True))),
    Shot(start=F(4, 5), surround=Plain(colour="#406080"), finish=Finish(shadow=Shadow(opacity=60))),
)


def test_each_shot_is_composed_as_a_plan_of_its_own(clip):
    """With the placement, the surround and the finish that are its own, and those of the whole clip for the rest."""
    info, stored, library = clip
    plan = Plan(frame=FRAME, surround=Plain(colour="#000000"), shots=SHOTS)
    whole = Compositor(plan, stored.layout, info, library=library)
    assert whole.animated
    for time, own in ((F(0), {}), (F(1, 2), dict(SHOTS[1].own)), (F(9, 10), dict(SHOTS[2].own)), (F(1, 5), {})):
        alone = plan.model_copy(update={"shots": (), **own, "range": Range(start=F(2, 5), end=F(4, 5))})
        wanted = Compositor(alone, stored.layout, info, library=library).compose(stored, time=time)
        found = whole.compose(stored, time=time)
        assert all(np.array_equal(one, other) for one, other in zip(found.arrays, wanted.arrays, strict=True)), time


def test_layers_of_shots_are_layers_of_each(clip):
    info, stored, library = clip
    plan = Plan(frame=FRAME, shots=SHOTS)
    alone = layer_plan(plan, "picture_alone")
    assert all(shot.surround is None or shot.surround.kind == "carried" for shot in alone.shots)
    assert all(shot.finish is None or shot.finish.shadow == Shadow() for shot in alone.shots)
    layout = Compositor(plan, stored.layout, info, library=library).layout
    made = PictureAlone(plan, stored.layout, info, layout, library=library)
    assert made.coverage_at(F(0)).mean() < made.coverage_at(F(3, 5)).mean()


def test_a_moving_render_in_parts_is_the_one_in_one_go(tmp_path):
    """Each part is drawn by itself, and they join without a step."""
    path = write_clip(tmp_path / "in.mp4", size=(160, 100), frames=50, paint=scene, sound=None)
    info = probe(path)
    keys = (Key(time=0, x=F(-1, 5), y=0), Key(time=F(7, 5), x=F(1, 5), y=0, tightness=2), Key(time=2, tightness=1))
    plan = Plan(
        frame=Frame(width=100, height=160), placement=Placement(tightness=1), motion=Motion(keys=keys), shots=SHOTS[:1]
    )
    how = Settings(kind="mkv-ffv1")
    render(plan, path, tmp_path / "whole.mkv", info, settings=how)
    request = RenderRequest(plan, path, info, settings=how)
    workspace = RenderWorkspace.create_or_resume(tmp_path / "space", request, tmp_path, F(1, 2))
    assert workspace.stored.count > 2
    finish(workspace, tmp_path / "joined.mkv")
    frames = []
    for name in ("whole.mkv", "joined.mkv"):
        with ClipReader(tmp_path / name, probe(tmp_path / name)) as reader:
            frames.append([frame.planes for frame in reader.frames()])
    assert len(frames[0]) == len(frames[1]) == 50
    for one, other in zip(*frames, strict=True):
        assert all(np.array_equal(a, b) for a, b in zip(one.arrays, other.arrays, strict=True))
    assert inspect_file(tmp_path / "joined.mkv", request).right


def moved_disc(tmp_path, motion, frames):
    """Where a disc's middle lies in every composed frame, and where it should."""

    def disc(_):
        rows, columns = np.mgrid[0:200, 0:400]
        lit = np.clip(24.5 - np.hypot(columns - 199.5, rows - 99.5), 0, 1)
        return np.repeat((30 + 200 * lit)[..., None], 3, axis=2).astype(np.uint8)

    path = write_clip(tmp_path / "disc.mkv", size=(400, 200), frames=frames, paint=disc, codec="ffv1", sound=None)
    info = probe(path)
    plan = Plan(frame=Frame(width=300, height=200), placement=Placement(tightness=1), motion=motion)
    found, wanted = [], []
    track = track_of(plan, info)
    with ClipReader(path, info) as reader:
        compositor = None
        for frame in reader.frames():
            compositor = compositor or Compositor(plan, frame.planes.layout, info)
            luma = compositor.compose(frame.planes, time=frame.time).arrays[0].astype(float)
            weight = np.clip(luma - np.median(luma) - 4, 0, None)  # without the noise that hides steps
            columns = (np.arange(luma.shape[1]) + 0.5) * weight
            found.append(columns.sum() / weight.sum())
            rect = track.at(frame.time).rect
            wanted.append(float(rect.x + rect.width / 2))
    return np.array(found), np.array(wanted)


@pytest.mark.parametrize(
    "motion",
    [
        Motion(keys=(Key(time=0, x=F(0), y=0, ease="even"), Key(time=2, x=F(1, 80), y=0))),  # 0.1 pixels a picture
        Motion(
            keys=(
                Key(time=0, x=F(1, 10), y=0, tightness=1, ease="even"),
                Key(time=2, x=F(1, 10), y=0, tightness=F(41, 40)),  # 0.05% a picture
            )
        ),
    ],
    ids=["slow pan", "slow push"],
)
def test_a_slow_move_is_even_to_a_twentieth_of_a_pixel(tmp_path, motion):
    """Over a pan of 0.1 pixels a picture, and a push of 0.05 percent a picture."""
    found, wanted = moved_disc(tmp_path, motion, 51)
    assert np.abs(found - wanted).max() < 0.05
    assert np.abs(np.diff(found)).min() > 0.2 * np.abs(np.diff(wanted)).mean()  # none is repeated


def test_what_is_previewed_of_a_plan_that_moves_is_what_is_rendered(tmp_path):
    """38 dB at ten moments: what H.264 at high quality may take of it."""
    path = write_clip(tmp_path / "scene.mp4", size=(100, 160), frames=50, paint=scene, sound=None)
    info = probe(path)
    shots = (
        Shot(start=F(0), placement=Placement(tightness=F(1)), motion=Motion(move=Pan())),
        Shot(start=F(4, 5), motion=Motion(move=Push(percent=F(30)))),
    )
    plan = Plan(frame=Frame(width=320, height=180), shots=shots)
    target = tmp_path / "out.mp4"
    render(plan, path, target, info, settings=Settings(quality="high"))
    made = probe(target)
    with ClipReader(path, info) as source, ClipReader(target, made) as file:
        compositor = None
        for number in range(0, 50, 5):
            stored = source.frame_at(F(number, 25))
            compositor = compositor or Compositor(plan, stored.planes.layout, info)
            preview = compositor.compose(stored.planes, time=stored.time).luma8.astype(float)
            error = ((file.frame_at(F(number, 25)).planes.luma8 - preview) ** 2).mean()
            assert 10 * np.log10(255**2 / max(error, 1e-9)) >= 38, number
