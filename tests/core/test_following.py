"""A window that follows: where it goes, what it passes, and what it says where it cannot be sure."""

import os
import signal
import subprocess
import sys
from fractions import Fraction as F
from itertools import pairwise

import numpy as np
import pytest

from cadrage.analyses import ANALYSES, find, subject_for
from cadrage.analysis import AnalysisStore, NotFound
from cadrage.analysis.following import watching
from cadrage.analysis.following.evidence import read_evidence
from cadrage.analysis.following.pieces import pieces_in
from cadrage.compose.casting import cast_of_shot
from cadrage.compose.following import followed_alike, shifted, solved_anew, with_follow, with_pin
from cadrage.compose.framed import stage_of
from cadrage.compose.keying import with_move_as_keys
from cadrage.compose.shots import track_of
from cadrage.errors import Cancelled
from cadrage.footage import probe, resolve
from cadrage.formats import Frame
from cadrage.geometry import Placement, window_of
from cadrage.motion.follow import Follow, Pin, SubjectBox
from cadrage.plan import Plan
from tests.clips import write_clip
from tests.following.boxes import boxed
from tests.following.cases import CASES
from tests.following.measuring import compared, figures, looked_at

UPRIGHT, SQUARE = Frame(width=1080, height=1920), Frame(width=1080, height=1080)
BY_NAME = {case.name: case for case in CASES}
FILL = Placement(tightness=F(1))


@pytest.fixture(scope="module")
def look(tmp_path_factory):
    """Clips of the made set, each written and looked at once."""
    folder = tmp_path_factory.mktemp("following")
    seen = {}

    def looked(name):
        if name not in seen:
            path = BY_NAME[name].write(folder)
            seen[name] = (BY_NAME[name], path, *looked_at(path, folder / f"{path.stem}-analyses"))
        return seen[name]

    return looked


@pytest.mark.parametrize("name", ["crosses", "cuts"])
def test_the_subject_stays_in_the_window_which_moves_softly(look, name):
    case, _, info, seen = look(name)
    found = compared(case, info, seen, Follow())
    assert found.inside >= 0.97
    assert found.error <= 0.12
    assert found.jerk <= found.average_jerk / 5
    assert not found.at_cuts


@pytest.mark.long
def test_all_made_clips_meet_what_is_promised(look):
    every = {case.name: compared(case, *look(case.name)[2:], Follow()) for case in CASES if not case.hard}
    assert len(every) >= 24
    assert np.mean([one.inside for one in every.values()]) >= 0.99
    assert all(one.inside >= 0.97 for one in every.values())
    assert np.mean([one.error for one in every.values()]) <= 0.06
    assert all(one.jerk <= one.average_jerk / 5 for one in every.values())
    assert np.mean([one.reversals for one in every.values()]) <= 4
    assert not any(one.at_cuts for one in every.values())
    assert all(every[case.name].still == 1 for case in CASES if case.still)


@pytest.mark.long
def test_how_sure_it_says_it_is_is_how_often_it_is_right(look):
    seconds = [
        one
        for case in CASES
        for pace in ("calm", "medium", "quick")
        for one in compared(case, *look(case.name)[2:], Follow(pace=pace)).sure
    ]
    said, right = np.array(seconds).T
    for low in (0.7, 0.8, 0.9):
        inside = (said >= low) & (said < low + 0.1 + (low == 0.9))
        assert inside.sum() > 30
        assert abs(said[inside].mean() - right[inside].mean()) <= 0.1


def test_a_clip_in_which_nothing_moves_is_perfectly_still(look):
    case, _, info, seen = look("nothing moves")
    assert compared(case, info, seen, Follow()).still == 1
    (way,) = with_follow(Plan(frame=UPRIGHT), info, seen, Follow()).motion.follow.path
    assert (len(way.x.points), len(way.y.points)) == (1, 1)


def test_shots_are_found_and_each_has_a_way_of_its_own(look):
    case, _, info, seen = look("cuts")
    plan = with_follow(Plan(frame=UPRIGHT), info, seen, Follow())
    assert [shot.start * 25 for shot in plan.shots] == [0, *case.cuts]
    assert [way.start for way in plan.motion.follow.path] == [shot.start for shot in plan.shots]


def test_the_window_never_leaves_the_picture_and_three_frames_come_of_one_look(look):
    _, _, info, seen = look("crosses")
    for frame in (UPRIGHT, SQUARE, Frame(width=1080, height=1350)):
        plan = with_follow(Plan(frame=frame), info, seen, Follow(pace="quick"))
        track = track_of(plan, info)
        for number in range(0, 200, 3):
            window = window_of(track.at(F(number, 25)))
            assert window.x - window.width / 2 >= -F(1, 1000)
            assert window.x + window.width / 2 <= 640 + F(1, 1000)


def test_the_same_comes_out_again(look):
    _, _, info, seen = look("crosses")
    one, other = (with_follow(Plan(frame=UPRIGHT), info, seen, Follow()) for _ in range(2))
    assert one == other
    assert Plan.model_validate_json(one.model_dump_json()) == one


def test_pins_are_passed_exactly_and_held(look):
    _, _, info, seen = look("crosses")
    pins = (Pin(time=F(2), x=F(1, 5), y=F(0), hold=F(1)), Pin(time=F(5), x=F(-3, 10), y=F(0)))
    plan = with_follow(Plan(frame=UPRIGHT), info, seen, Follow(pins=pins))
    (way,) = plan.motion.follow.path
    for time, x in ((F(3, 2), F(1, 5)), (F(2), F(1, 5)), (F(5, 2), F(1, 5)), (F(5), F(-3, 10))):
        assert abs(way.x.at(time - way.since) - x) < F(1, 10**6)
    assert way.sure[2] == 100


def test_pins_that_contradict_one_another_end_in_a_way_all_the_same(look):
    _, _, info, seen = look("crosses")
    pins = tuple(Pin(time=F(2) + F(number, 25), x=F((-1) ** number, 4), y=F(0)) for number in range(4))
    plan = with_follow(Plan(frame=UPRIGHT), info, seen, Follow(pins=pins))
    assert plan.motion.follow.path


def test_a_placement_set_by_hand_becomes_a_pin_or_shifts_all(look):
    _, _, info, seen = look("crosses")
    plan = with_follow(Plan(frame=UPRIGHT), info, seen, Follow())
    stage = stage_of(plan, resolve(info, plan.interpretation))
    at = F(3)
    pose = stage.pose.__class__(x=F(1, 10), y=F(0), scale=stage.pose.scale, angle=F(0))
    placement = stage.placement(pose)
    pinned = with_pin(plan, info, seen, at + F(1, 100), placement)
    assert [(pin.time, pin.x) for pin in pinned.motion.follow.pins] == [(at, F(1, 10))]
    way, moved = plan.motion.follow.path[0], shifted(plan, info, at, placement).motion.follow.path[0]
    assert len({new - old for new, old in zip(moved.x.points, way.x.points, strict=True)}) == 1
    assert abs(moved.x.at(at - moved.since) - F(1, 10)) < F(1, 10**6)


def test_hold_still_and_the_middle(look):
    _, _, info, seen = look("crosses")
    for aim in ("still", "centre"):
        (way,) = with_follow(Plan(frame=UPRIGHT), info, seen, Follow(aim=aim)).motion.follow.path
        assert way.still
    assert way.x.points == (0,)


@pytest.mark.long
def test_another_than_what_matters_most_is_followed_where_it_is_chosen(look):
    case, _, info, seen = look("crossing, one larger")
    plan = with_follow(Plan(frame=UPRIGHT), info, seen, Follow())
    cast = cast_of_shot(plan, info, seen, F(2))
    assert len(cast) >= 2
    smaller = min(cast, key=lambda one: one.subject.height)
    chosen = with_follow(plan, info, seen, Follow(subjects=(smaller.subject,)))
    assert [one.chosen for one in cast_of_shot(chosen, info, seen, F(2))].count(True) == 1
    track = track_of(chosen, info)
    windows = [window_of(track.at(F(number, 25))) for number in range(0, 200, 5)]
    places = [560 - number * 2.4 for number in range(0, 200, 5)]  # where the smaller goes
    inside = [abs(float(window.x) - x) <= window.width / 2 for window, x in zip(windows, places, strict=True)]
    assert np.mean(inside) > 0.9
    assert figures(case, chosen, info).inside < 0.7


@pytest.mark.long
def test_two_who_are_chosen_are_kept_where_they_fit(look):
    case, _, info, seen = look("two who fit")
    plan = with_follow(Plan(frame=UPRIGHT), info, seen, Follow())
    both = tuple(one.subject for one in cast_of_shot(plan, info, seen, F(4))[:2])
    chosen = with_follow(plan, info, seen, Follow(subjects=both))
    assert figures(case, chosen, info).inside >= 0.95


@pytest.mark.long
def test_a_box_is_followed_both_ways_and_is_gone_when_its_thing_is(look):
    case, _, info, seen = look("goes out")
    found = boxed(case, info, seen)
    assert (found.found >= 0.95, found.drift <= 0.02, found.ghost <= 5) == (True, True, True)
    ends = SubjectBox(time=F(1), x=F(15, 32), y=F(7, 12), width="0.09", height="0.4", drawn=True, until=F(2))
    plan = with_follow(Plan(frame=UPRIGHT), info, seen, Follow(subjects=(ends,)))
    (doubt,) = plan.motion.follow.doubts
    assert (doubt.reason, doubt.start) == ("lost", 2)


@pytest.mark.long
def test_a_group_wider_than_the_window_is_told(look):
    _, _, info, seen = look("two alike at both edges")
    plan = with_follow(Plan(frame=UPRIGHT), info, seen, Follow())
    assert {doubt.reason for doubt in plan.motion.follow.doubts} == {"wide"}


@pytest.mark.long
def test_it_gets_closer_to_something_small_within_limits(look):
    _, _, info, seen = look("small face")
    plan = with_follow(Plan(frame=UPRIGHT), info, seen, Follow(closest=F(3, 2)))
    track = track_of(plan, info)
    fill = track_of(Plan(frame=UPRIGHT, placement=FILL), info).at(F(0)).scale
    scales = [track.at(F(number, 25)).scale / fill for number in range(0, 150, 10)]
    assert max(scales) > F(13, 10)
    assert max(scales) <= F(1501, 1000)


def test_what_was_corrected_in_one_frame_goes_into_another(look):
    _, _, info, seen = look("crosses")
    pins = (Pin(time=F(2), x=F(1, 5), y=F(0)),)
    plan = with_follow(Plan(frame=UPRIGHT), info, seen, Follow(pace="calm", pins=pins))
    other = followed_alike(plan, Plan(frame=SQUARE), info, seen)
    assert other.motion.follow.asked == plan.motion.follow.asked
    assert other.motion.follow.path != plan.motion.follow.path


def test_the_way_as_keys_is_the_same_way(look):
    _, _, info, seen = look("crosses")
    plan = with_follow(Plan(frame=UPRIGHT), info, seen, Follow())
    keyed = with_move_as_keys(plan, info)
    assert keyed.motion.follow is None
    assert 2 <= len(keyed.motion.keys) < 40
    one, other = track_of(plan, info), track_of(keyed, info)
    for number in range(0, 199, 7):
        windows = [window_of(track.at(F(number, 25))) for track in (one, other)]
        assert abs(windows[0].x - windows[1].x) < 4


def test_after_another_size_the_way_is_found_anew(look):
    _, _, info, seen = look("crosses")
    plan = with_follow(Plan(frame=UPRIGHT), info, seen, Follow())
    larger = plan.model_copy(update={"placement": Placement(tightness=F(3, 2))})
    again = solved_anew(larger, info, seen)
    assert again.motion.follow.path != plan.motion.follow.path
    assert figures(BY_NAME["crosses"], again, info).inside >= 0.95


# What there is nothing to follow in, and what stops in the middle.


def flat(code):
    return lambda number: np.full((180, 320, 3), code, np.uint8)


@pytest.mark.parametrize("paint", [flat(16), flat(120), None], ids=["black", "grey", "a single picture"])
def test_where_there_is_nothing_to_follow_it_says_so_and_the_window_stands(tmp_path, paint):
    frames = 1 if paint is None else 40
    path = write_clip(tmp_path / "clip.mp4", frames=frames, paint=paint, sound=None)
    info, store = probe(path), AnalysisStore(tmp_path / "analyses")
    outcome = find("following", store, path, "clip", info)
    if frames == 1:
        assert outcome == NotFound("There is one picture only.")
        return
    _, seen = looked_at(path, tmp_path / "analyses")
    plan = with_follow(Plan(frame=UPRIGHT), info, seen, Follow())
    assert plan.motion.follow.path[0].still
    assert {doubt.reason for doubt in plan.motion.follow.doubts} == {"nobody"}


def test_a_clip_that_is_cut_all_the_time_and_one_shorter_than_a_sample(tmp_path):
    def paint(number):
        return np.random.default_rng(number // 4).integers(0, 255, (18, 32, 3), np.uint8).repeat(10, 0).repeat(10, 1)

    for frames in (2, 3, 60):
        path = write_clip(tmp_path / f"{frames}.mp4", frames=frames, paint=paint, sound=None)
        info, seen = looked_at(path, tmp_path / f"analyses-{frames}")
        plan = with_follow(Plan(frame=UPRIGHT), info, seen, Follow())
        starts = [way.start for way in plan.motion.follow.path]
        assert starts[0] == 0
        assert all(one < other for one, other in pairwise(starts))
        track_of(plan, info).at(F(0))


@pytest.fixture
def pieces(tmp_path):
    """A clip that is looked at in several pieces, if each is of at most 60 samples; something moves in it."""

    def paint(number):
        image = np.full((90, 160, 3), 90, np.uint8)
        x = 20 + abs(number % 200 - 100)
        image[30:60, x : x + 14] = (220, 60, 40)
        return image

    return write_clip(tmp_path / "long.mp4", size=(160, 90), frames=300, rate=F(10), paint=paint, sound=None)


def test_what_was_stopped_goes_on_where_it_was_and_comes_to_the_same(pieces, tmp_path, monkeypatch):
    monkeypatch.setattr(watching, "LONGEST_PIECE", 60)
    info = probe(pieces)
    subject = subject_for("following", AnalysisStore(tmp_path / "a"), pieces, "clip", info)
    analysis = ANALYSES["following"]
    whole = AnalysisStore(tmp_path / "whole")
    whole.find(analysis, subject)
    stopped, told = AnalysisStore(tmp_path / "stopped"), []

    def stop(fraction):
        told.append(fraction)
        if fraction > 0.75:
            raise Cancelled("Enough.", remedy="Ask again.")

    with pytest.raises(Cancelled):
        stopped.find(analysis, subject, stop)
    key = analysis.request(subject).key
    assert len(pieces_in(stopped.root / f".work-{key}")) >= 1
    again = []
    stopped.find(analysis, subject, again.append)
    assert min(again) > 0.3  # the first minute was not read again
    one, other = (read_evidence(store.folder(key)) for store in (whole, stopped))
    assert all((value == other.arrays()[name]).all() for name, value in one.arrays().items())


def test_who_is_killed_in_the_middle_leaves_what_the_next_goes_on_from(pieces, tmp_path):
    code = (
        "import sys, os, signal\n"
        "from pathlib import Path\n"
        "from cadrage.analyses import find\n"
        "from cadrage.analysis.following import watching\n"
        "watching.LONGEST_PIECE = 60\n"
        "from cadrage.analysis import AnalysisStore\n"
        "from cadrage.footage import probe\n"
        "clip, root = Path(sys.argv[1]), Path(sys.argv[2])\n"
        "def report(done):\n"
        "    if done > 0.75: os.kill(os.getpid(), signal.SIGKILL)\n"
        "find('following', AnalysisStore(root), clip, 'clip', probe(clip), None, report)\n"
    )
    ended = subprocess.run([sys.executable, "-c", code, str(pieces), str(tmp_path / "a")], env=os.environ, check=False)
    assert ended.returncode == -signal.SIGKILL
    again = []
    find("following", AnalysisStore(tmp_path / "a"), pieces, "clip", probe(pieces), None, again.append)
    assert min(again) > 0.3
