"""Rules that exist before anyone asks, and reasons to look."""

import re
from fractions import Fraction as F

import pytest

from cadrage.analysis.burned_in_bars import BurnedInBars
from cadrage.compose import measure
from cadrage.compose.concerns import concerns
from cadrage.compose.over_time import over_time
from cadrage.footage import Edges, Interpretation, probe
from cadrage.formats import Delivery, Frame
from cadrage.geometry import Picture, Placement, Raster
from cadrage.motion import Motion, Pan, Push
from cadrage.plan import Plan
from cadrage.rules import format_key, format_summary, sensible_rule
from tests.clips import write_clip


@pytest.mark.parametrize(
    ("picture", "frame", "fills"),
    [
        (Raster(1920, 1080), Frame(width=1920, height=1080), True),
        (Raster(1920, 1080), Frame(width=1998, height=1080), True),  # 1.78 into 1.85 keeps 96%
        (Raster(720, 576, F(12, 11)), Frame(width=1440, height=1080), True),  # 1.36 into 1.33 keeps 98%
        (Raster(1920, 1080), Frame(width=1440, height=1080), False),
        (Raster(1080, 1920), Frame(width=1920, height=1080), False),
        (Raster(1920, 1080), Frame(width=1920, height=1080, active=F("2.39")), False),
    ],
)
def test_fill_where_shapes_nearly_agree_else_whole(picture, frame, fills):
    assert sensible_rule(Picture.whole(picture), frame).placement.tightness == (1 if fills else 0)


def test_clips_of_one_format_have_one_key(tmp_path, small_clip):
    same = write_clip(tmp_path / "same.mp4", frames=3, rate=F(30))
    turned = write_clip(tmp_path / "turned.mp4", frames=3, rotation=90)
    assert format_key(probe(small_clip)) == format_key(probe(same))
    assert format_key(probe(small_clip)) != format_key(probe(turned))
    assert format_summary(probe(turned)) == "320×180 turned 90°"


BARS = BurnedInBars(kind="bars", edges=Edges(top=F(20), bottom=F(20)), summary="black bars")


def reasons(clip, bars=None, delivery=None, **plan):
    made = Plan(**{"frame": Frame(width=640, height=360), **plan})
    info = probe(clip)
    return {
        found.reason
        for found in concerns(made, info, measure(made, info), over_time(made, info), bars, delivery or Delivery())
    }


def test_why_a_framing_needs_a_look(small_clip):
    half = Frame(width=320, height=180)
    assert reasons(small_clip, frame=half) == set()
    assert reasons(small_clip, frame=Frame(width=640, height=360)) == set()  # scaled to 200% exactly
    assert reasons(small_clip, frame=Frame(width=960, height=540)) == {"enlarged"}
    upright = Frame(width=180, height=320)
    assert reasons(small_clip, frame=upright, placement=Placement(tightness=F(1))) == {"lost"}
    assert reasons(small_clip, frame=upright, placement=Placement(sizing="stretch")) == {"shape"}
    assert reasons(small_clip, bars=BARS, frame=half) == {"bars"}
    assert reasons(small_clip, bars=BARS, frame=half, interpretation=Interpretation(burned_in_bars=Edges())) == set()
    assert reasons(small_clip, frame=half, delivery=Delivery(longest=F(1, 2))) == {"long"}
    assert reasons(small_clip, frame=half.model_copy(update={"rate": F(30)})) == {"rate"}
    assert reasons(small_clip, frame=half.model_copy(update={"rate": F(25)})) == set()


def test_what_moves_needs_a_look_at_its_worst_moment(small_clip):
    pan = {"frame": Frame(width=180, height=320), "placement": Placement(tightness=F(1))}
    moving = pan | {"motion": Motion(move=Pan())}
    assert reasons(small_clip, **pan) == {"lost"}
    assert reasons(small_clip, **moving) == {"lost", "fast"}
    made = Plan(**moving)
    info = probe(small_clip)
    found = concerns(made, info, measure(made, info), over_time(made, info), None, Delivery())
    assert all(re.search(r"(at|from) 0:0\d\.\d$", one.summary) for one in found)
    push = {"frame": Frame(width=384, height=216), "motion": Motion(move=Push(percent=F(90)))}
    assert reasons(small_clip, **push) == {"lost", "enlarged"}  # at its end, though not at its beginning
