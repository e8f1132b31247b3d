"""What a change of settings takes along."""

import pytest

from cadrage.formats import Frame
from cadrage.output import OUTPUT_FORMATS, Settings, encoder_config, following

FRAME = Frame(width=1920, height=1080)
PRORES = Settings(kind="mov-prores", profile="LT", sound="pcm-24")


@pytest.mark.parametrize("kind", OUTPUT_FORMATS)
@pytest.mark.parametrize(
    "before",
    [
        PRORES,
        Settings(kind="mp4-h264", rate_control="constant_rate", rate=8000, ceiling=9000, number=20, sound="aac-256"),
        Settings(kind="mov-prores-4444", layer="picture_alone", depth=10, sound="pcm-16"),
    ],
)
def test_any_kind_can_be_chosen_after_any_other(before, kind):
    """What the new kind cannot have never stands in the way."""
    after = following(before, before.model_copy(update={"kind": kind}))
    assert after.kind == kind
    encoder_config(after, FRAME)


def test_what_the_new_kind_can_have_stays():
    after = following(PRORES, PRORES.model_copy(update={"kind": "mov-dnxhr"}))
    assert (after.sound, after.profile) == ("pcm-24", "")
    rated = Settings(rate_control="rate", rate=9000, ceiling=12_000)
    after = following(rated, rated.model_copy(update={"kind": "mp4-h265"}))
    assert (after.rate_control, after.rate, after.ceiling) == ("rate", 9000, 12_000)
    slow = following(rated, rated.model_copy(update={"kind": "webm-av1"}))
    assert (slow.rate_control, slow.ceiling) == ("rate", 0)


def test_what_was_changed_in_the_same_step_is_meant():
    """Also where it cannot be: that is then refused in words."""
    asked = Settings(kind="webm-vp9", sound="pcm-16", number=30)
    assert following(Settings(), asked) == asked


def test_a_number_goes_with_the_word_and_a_depth_with_the_profile_it_was_chosen_for():
    numbered = Settings(quality="high", number=17)
    assert following(numbered, numbered.model_copy(update={"quality": "draft"})).number is None
    deep = Settings(kind="mp4-h265", depth=10)
    assert following(deep, deep.model_copy(update={"name": "Mine"})).depth == 10
    assert following(PRORES, PRORES.model_copy(update={"profile": "HQ"})).depth is None
