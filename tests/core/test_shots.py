"""Shots: every cut found to the picture, none where there is none."""

from fractions import Fraction as F

import numpy as np
import pytest

from cadrage.analysis.shots import cuts, find_shots, smalls
from cadrage.exchange import to_edl
from cadrage.footage import MediaInfo, open_footage, probe
from tests.clips import write_clip
from tests.core.test_pace import FACTS
from tests.sampling import a_part_of
from tests.shot_cases import CASES, HEIGHT, WIDTH, Case

PLAIN = Case("plain", lengths=(14, 20, 11, 25))


def numbers(path):
    """Numbers of the pictures that begin a shot, but for the first."""
    info = probe(path)
    with open_footage(path, info) as reader:
        times = [frame.time for frame in reader.frames()]
    return [times.index(start) for start in find_shots(path, info).starts[1:]]


def write(path, case=PLAIN, **how):
    return write_clip(path, size=(WIDTH, HEIGHT), frames=sum(case.lengths), paint=case.paint, sound=None, **how)


def test_there_are_enough_cuts_among_the_cases():
    assert sum(len(case.cuts) for case in CASES) >= 60


@pytest.mark.parametrize("case", a_part_of(CASES, 3))
def test_every_cut_is_found_and_none_is_invented(case, tmp_path):
    assert numbers(write(tmp_path / "clip.mp4", case)) == case.cuts


def test_at_a_rate_that_varies(tmp_path):
    random = np.random.default_rng(5)
    stamps = [0, *np.cumsum(random.integers(20, 80, sum(PLAIN.lengths) - 1)).tolist()]
    path = write(tmp_path / "clip.mkv", stamps=[int(stamp) for stamp in stamps])
    info = probe(path)
    assert info.rate_varies
    starts = find_shots(path, info).starts
    assert starts == (0, *(F(stamps[at], 1000) for at in PLAIN.cuts))


def test_where_the_first_time_stamp_is_not_0(tmp_path):
    path = write(tmp_path / "late.mkv", stamps=[1400 + 40 * number for number in range(sum(PLAIN.lengths))])
    assert find_shots(path, probe(path)).starts == (0, *(F(at, 25) for at in PLAIN.cuts))


def test_in_fields(tmp_path):
    """Two moments in each picture; a cut stands where both are of the next shot, or one of them is."""
    moments = [PLAIN.paint(number) for number in range(sum(PLAIN.lengths))]
    woven = [in_pair(moments[n], moments[n + 1]) for n in range(0, len(moments) - 1, 2)]
    path = write_clip(
        tmp_path / "fields.mkv", size=(WIDTH, HEIGHT), frames=len(woven), paint=lambda n: woven[n], sound=None
    )
    found = numbers(path)
    assert len(found) == len(PLAIN.cuts)
    for at, cut in zip(found, PLAIN.cuts, strict=True):
        assert at in (cut // 2, -(-cut // 2))


def in_pair(first, second):
    made = first.copy()
    made[1::2] = second[1::2]
    return made


def test_a_still_and_a_single_picture_are_one_shot(tmp_path):
    path = write_clip(tmp_path / "one.mp4", frames=1, sound=None)
    assert find_shots(path, probe(path)).starts == (0,)


def test_memory_does_not_grow_with_the_clip(tmp_path):
    """What lies far behind is let go: the same cuts come out of pictures that are only handed in once."""
    path = write(tmp_path / "clip.mp4")
    info = probe(path)
    seen = list(smalls(path, info))
    many = [type(one)(one.time + 100 * turn, one.histogram, one.layout) for turn in range(20) for one in seen]
    held = []

    def handed():
        for one in many:
            held.append(one.time)
            yield one

    found = list(cuts(handed()))
    assert len(found) == 20 * len(PLAIN.cuts) + 19
    first = next(cuts(iter(many)))
    assert first == F(PLAIN.cuts[0], 25)


def test_they_are_written_as_an_edit_list():
    """CMX 3600, common practice: each event's four time codes, ends not included."""
    info = probe_like(F(25), "10:00:00:00")
    lines = to_edl("reel.mov", info, (F(0), F(12, 5))).splitlines()
    assert lines[:2] == ["TITLE: reel.mov", "FCM: NON-DROP FRAME"]
    assert lines[3] == "001  AX       V     C        10:00:00:00 10:00:02:10 10:00:00:00 10:00:02:10"
    assert lines[5] == "002  AX       V     C        10:00:02:10 10:00:04:00 10:00:02:10 10:00:04:00"
    assert lines[6] == "* FROM CLIP NAME: reel.mov"


def test_an_edit_list_drops_numbers_where_the_clip_does():
    info = probe_like(F(30000, 1001), "00:00:59;20")
    lines = to_edl("tape.mov", info, (F(0),)).splitlines()
    assert lines[1] == "FCM: DROP FRAME"
    assert "00:00:59;20 00:01:03;22" in lines[3]  # 120 pictures on, two numbers are dropped


def probe_like(rate, code):
    facts = {"frames": 100, "rate": rate, "duration": 4 if rate == 25 else 120 / rate, "timecode": code}
    return MediaInfo.model_validate({**FACTS, **facts})
