"""What is seen of a file before it is rendered."""

from dataclasses import replace
from fractions import Fraction

import pytest

from cadrage.errors import BadRequest
from cadrage.footage import probe
from cadrage.footage.findings import Finding
from cadrage.formats import Frame
from cadrage.motion import Motion
from cadrage.motion.follow import Follow
from cadrage.output import SHIPPED, Settings
from cadrage.plan import Plan, Range
from cadrage.render import RenderRequest
from cadrage.render.review import FILE_REASONS, file_concerns, file_facts

SCOPE = Frame(width=1920, height=1080, active=Fraction(239, 100))


@pytest.fixture
def request_for(small_clip):
    info = probe(small_clip)

    def of(settings=None, check=lambda: None, **plan):
        made = Plan(**{"frame": Frame(width=320, height=180)} | plan)
        return file_concerns(RenderRequest(made, small_clip, info, settings=settings or Settings()), check)

    return of


def reasons(found):
    return [one.reason for one in found]


def test_a_file_as_it_should_be_has_nothing_to_look_at(request_for):
    assert request_for() == ()


@pytest.mark.parametrize(
    ("bars", "reason", "summary"),
    [
        ("undecided", "bars_undecided", "the active picture of 1920×804 is smaller than the frame of 1920×1080"),
        ("whole_frame", "bars_burned_in", "138 above, 138 below px around 1920×804"),
        ("active_picture_only", "size", "1920×804 instead of 1920×1080"),
    ],
)
def test_bars_are_undecided_burned_in_or_left_out(request_for, bars, reason, summary):
    [found] = request_for(Settings(bars=bars), frame=SCOPE)
    assert (found.reason, found.summary) == (reason, summary)
    assert found.blocks == (bars == "undecided")


def test_a_fix_settles_its_concern(request_for):
    marked = Range(end=Fraction(1, 2))
    for settings in (Settings(bars="whole_frame"), Settings(bars="active_picture_only"), Settings(range="whole_clip")):
        for found in request_for(settings, frame=SCOPE, range=marked):
            fixed = settings.model_copy(update=found.fix.settings if found.fix else {})
            assert found.fix is None or found.reason not in reasons(request_for(fixed, frame=SCOPE, range=marked))


def test_a_forgotten_range_is_seen(request_for, small_clip):
    marked = Range(start=Fraction(0), end=Fraction(1, 2))
    [found] = request_for(range=marked)
    lasts = float(probe(small_clip).duration)
    assert (found.reason, found.summary) == ("part", f"0.5 s of {lasts:g} s")
    assert reasons(request_for(Settings(range="whole_clip"), range=marked)) == ["range_ignored"]
    assert request_for(range=Range(end=Fraction(1000))) == ()  # ends behind the clip: all of it is delivered


def test_a_window_that_follows_nothing_is_seen(request_for):
    assert reasons(request_for(motion=Motion(follow=Follow()))) == ["unsolved"]


def test_sound_that_a_file_cannot_hold_is_seen(request_for):
    assert reasons(request_for(Settings(kind="webm-vp9"))) == ["sound"]


def test_what_would_refuse_a_render_blocks_it_and_bars_are_told_all_the_same(request_for):
    def refuse():
        raise BadRequest("It is damaged.", remedy="Copy it again.")

    undecided, refused = request_for(frame=SCOPE, check=refuse)
    assert (undecided.reason, refused.reason) == ("bars_undecided", "refused")
    assert (refused.summary, refused.remedy, refused.blocks) == ("It is damaged.", "Copy it again.", True)


@pytest.mark.parametrize("settings", SHIPPED, ids=lambda one: one.name)
def test_every_file_is_described_in_the_same_lines(settings):
    facts = {one.label: one.value for one in file_facts(SCOPE, settings)}
    assert list(facts) == ["Size", "Frame rate", "Range", "Sound", "Bars", "Format", "Rate control"]
    assert all(facts.values())
    whole = settings.bars != "active_picture_only"
    assert facts["Size"] == ("1920×1080" if whole else "1920×804")
    assert facts["Bars"] == ("undecided" if whole else "none")


def test_lines_say_what_is_set():
    settings = Settings(rate_control="rate", rate=8000, ceiling=12000, sound="aac-192", stereo=True, loudness=-23)
    facts = {
        one.label: one.value for one in file_facts(Frame(width=720, height=576, rate=Fraction(30000, 1001)), settings)
    }
    assert facts["Frame rate"] == "29.97 fps"
    assert facts["Rate control"].endswith("8000 kb/s, at most 12000 kb/s")
    assert facts["Sound"].endswith("stereo, -23 LUFS")


def test_every_reason_has_a_title():
    assert all(FILE_REASONS.values())


def test_damage_that_stops_a_render_blocks_it(small_clip):
    info = probe(small_clip)
    damaged = info.model_copy(update={"findings": (Finding(kind="undecodable", count=1),)})
    request = RenderRequest(Plan(frame=Frame(width=320, height=180)), small_clip, damaged, settings=Settings())
    assert file_concerns(request) == ()
    stopped = replace(request, settings=Settings(damage="stop"))
    assert reasons(file_concerns(stopped)) == ["refused"]
