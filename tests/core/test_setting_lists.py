"""Settings that interfaces offer are accepted: every option, and both ends of every number."""

from itertools import product

import pytest
from pydantic import BaseModel

from cadrage.analysis.fields import FieldsFound
from cadrage.choices import CHOICES
from cadrage.errors import BadRequest
from cadrage.fields import Setting
from cadrage.footage import Interpretation, probe
from cadrage.formats import Frame
from cadrage.interpretation_settings import interpretation_settings
from cadrage.output.file_settings import FITTING, file_settings
from cadrage.output.kinds import OUTPUT_FORMATS
from cadrage.output.settings import Settings, encoder_config

FRAME = Frame(width=1920, height=1080)
WORDS = ("choice", "tick", "text", "colour", "button")


def values_of(setting: Setting):
    """The options of a setting; of a number, both ends."""
    if setting.unit == "colour":
        return ["#123456"]
    return [option.value for option in setting.options] if setting.unit in WORDS else [setting.low, setting.high]


def shown(setting: Setting, values: BaseModel) -> bool:
    held = values.model_dump(mode="json")
    only = all(held[field] in allowed for field, allowed in setting.only_if.items())
    return only and not any(held[field] in allowed for field, allowed in setting.unless.items())


def takes(kind: type[BaseModel], usual: dict, setting: Setting):
    for value in values_of(setting):
        taken = getattr(kind.model_validate_json(kind(**usual | {setting.name: value}).model_dump_json()), setting.name)
        assert taken == value or str(taken) == str(value) or float(taken) == pytest.approx(float(value))


@pytest.mark.parametrize("kind", OUTPUT_FORMATS.values(), ids=list(OUTPUT_FORMATS))
def test_every_setting_of_a_file_is_one_that_its_kind_allows(kind):
    settings = file_settings(kind)
    usual = {"kind": kind.name, "sound": kind.sounds[0]}
    for setting in settings:
        takes(Settings, usual, setting)
    tried = 0
    for setting, profile in product(settings, kind.profiles):
        base = Settings(**usual, profile=profile.name)
        if setting.name in ("kind", "profile") or setting.unit in ("text", "colour") or not shown(setting, base):
            continue
        for value in values_of(setting):
            encoder_config(Settings(**base.model_dump() | {setting.name: value}), FRAME)
            tried += 1
    assert tried >= 8


def allowed(settings: Settings) -> bool:
    try:
        encoder_config(settings, FRAME)
    except BadRequest:
        return False
    return True


@pytest.mark.parametrize("kind", OUTPUT_FORMATS.values(), ids=list(OUTPUT_FORMATS))
@pytest.mark.parametrize(
    ("name", "value"),
    [
        ("rate_control", "rate"),
        ("rate_control", "constant_rate"),
        ("layer", "picture_alone"),
        ("sound", "opus"),
        ("sound", "pcm-24"),
    ],
)
def test_what_a_kind_allows_is_offered_and_nothing_else(kind, name, value):
    offered = {(one.name, option.value) for one in file_settings(kind) for option in one.options}
    given = {"kind": kind.name, "sound": "none", name: value}
    assert allowed(Settings(**given)) == ((name, value) in offered)


def test_every_setting_of_a_frame_is_taken():
    usual = {"width": 1920, "height": 1080, "rate": "25", "active": "2"}
    for setting in (*CHOICES.frame_time, *CHOICES.frame_colour, *CHOICES.frame_outside):
        takes(Frame, usual, setting)
    takes(Settings, {}, FITTING)
    titles = {one.title for one in CHOICES.frame_time[0].options}
    assert {"25 fps", "29.97 fps", "23.976 fps", "As the clip"} <= titles


def test_every_setting_of_an_interpretation_is_taken(small_clip):
    info = probe(small_clip)
    found = FieldsFound(order="upper_first", judged=9, agreeing=9, summary="upper first", film="throughout")
    standard = info.model_copy(update={"width": 720, "height": 576, "alpha": True})
    for media in (
        standard,
        info,
        info.model_copy(update={"kind": "still"}),
        info.model_copy(update={"kind": "sequence"}),
    ):
        for group in interpretation_settings(media, Interpretation(), found):
            for setting in group.settings:
                takes(Interpretation, {}, setting)
    names = [one.name for group in interpretation_settings(standard, Interpretation(), found) for one in group.settings]
    assert {"fields", "clean_aperture", "matte", "rotation", "matrix"} <= set(names)
    assert names.count("deinterlace") == 2  # the button to remove pulldown, and the choice
    assert "clean_aperture" not in [
        one.name for group in interpretation_settings(info, Interpretation()) for one in group.settings
    ]
