"""Film in fields: found by looking, brought back picture by picture; each picture carries its number."""

from fractions import Fraction as F

import pytest

from cadrage.analysis.fields import as_found, find_fields
from cadrage.footage import Interpretation, effective_timing, open_footage, probe
from cadrage.formats import Frame
from cadrage.inspection import inspect_file
from cadrage.output import Settings
from cadrage.plan import Plan
from cadrage.render import RenderRequest, render
from tests.film import HEIGHT, WIDTH, combing, decoded, in_fields, number_of, picture, write, write_stretched

FILM, VIDEO = F(24000, 1001), F(30000, 1001)
FRAME = Frame(width=WIDTH, height=HEIGHT)
MPEG2 = ("-c:v", "mpeg2video", "-q:v", "2", "-flags", "+ildct+ilme", "-top")
CLIPS = {
    "upper.mpg": ("upper_first", (*MPEG2, "1")),
    "unflagged.mkv": ("upper_first", ("-c:v", "ffv1")),
    "lower.mov": ("lower_first", ("-c:v", "prores_ks")),
}


@pytest.mark.parametrize("name", sorted(CLIPS))
def test_it_is_found_and_brought_back(tmp_path, name):
    order, arguments = CLIPS[name]
    path = write(tmp_path / name, in_fields(range(60), order), *arguments)
    info = probe(path)
    found = find_fields(path, info)
    assert (found.film, found.order) == ("throughout", order)
    said = as_found(Interpretation(deinterlace="film"), found)
    taken = effective_timing(info, said)
    assert (taken.rate, taken.frames) == (FILM, 60)
    target = tmp_path / "film.mp4"
    plan = Plan(frame=FRAME, interpretation=said)
    render(plan, path, target, info, settings=Settings(quality="nearly_lossless"))
    pictures = decoded(target)
    assert [number_of(luma) for luma in pictures] == list(range(60))
    whole = max(combing(picture(number)) for number in range(60))
    assert max(map(combing, pictures)) < 1.5 * whole < 0.5 * max(map(combing, in_fields(range(60), order)))
    inspection = inspect_file(target, RenderRequest(plan, path, info))
    assert inspection.right, [line for line in inspection.lines if line.verdict == "wrong"]
    assert probe(target).rate == FILM


def test_it_is_the_same_wherever_reading_begins(tmp_path):
    path = write(tmp_path / "upper.mpg", in_fields(range(60), "upper_first"), *CLIPS["upper.mpg"][1])
    info, said = probe(path), Interpretation(fields="upper_first", deinterlace="film")
    with open_footage(path, info, said) as reader:
        for number in (30, 31, 2, 50, 12, 55, 33, 34, 17, 48, 49):
            assert number_of(reader.frame_at((number + F(1, 2)) / FILM).planes.arrays[0]) == number


def test_a_cadence_that_changes(tmp_path):
    """Cut in the video: the first part ends in the middle of a cycle."""
    before = in_fields(range(30), "upper_first")
    after = in_fields(range(40, 80), "upper_first", threes=0)
    path = write(tmp_path / "cut.mpg", [*before[:33], *after], *CLIPS["upper.mpg"][1])
    info = probe(path)
    assert find_fields(path, info).film == "throughout"
    with open_footage(path, info, Interpretation(fields="upper_first", deinterlace="film")) as reader:
        shown = [number_of(frame.planes.arrays[0]) for frame in reader.frames()]
    assert shown[:24] == list(range(24))
    assert shown[-24:] == list(range(56, 80))


def test_video_is_not_taken_for_film(tmp_path):
    moving = [picture(number) for number in range(120)]
    for step in range(0, 120, 2):
        moving[step][1::2] = moving[step + 1][1::2]
    video = write(tmp_path / "video.mpg", moving[::2], *CLIPS["upper.mpg"][1])
    assert find_fields(video, probe(video)).film == "no"
    whole = write(tmp_path / "whole.mp4", map(picture, range(60)), "-c:v", "libx264", "-crf", "14")
    assert find_fields(whole, probe(whole)).film == "no"


def test_mixed_material_says_so(tmp_path):
    moving = [picture(number) for number in range(160)]
    for step in range(0, 160, 2):
        moving[step][1::2] = moving[step + 1][1::2]
    path = write(tmp_path / "mixed.mpg", [*in_fields(range(64), "upper_first"), *moving[::2]], *CLIPS["upper.mpg"][1])
    found = find_fields(path, probe(path))
    assert found.film == "in_parts"
    assert "video elsewhere" in found.summary


@pytest.mark.parametrize("suffix", ["mpg", "ts", "mkv", "mp4"])
def test_film_stretched_by_flags_has_its_own_rate(tmp_path, suffix):
    path = write_stretched(tmp_path / f"dvd.{suffix}", 60, tmp_path)
    info = probe(path)
    assert (info.rate, info.rate_varies, info.frames) == (FILM, False, 60)
    assert [one.kind for one in info.findings] == ["film_by_flags"]
    target = tmp_path / "film.mp4"
    render(Plan(frame=FRAME), path, target, info, settings=Settings(quality="nearly_lossless"))
    assert [number_of(luma) for luma in decoded(target)] == list(range(60))
    assert probe(target).rate == FILM
