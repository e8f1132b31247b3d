"""Values that older versions stored, as this one has them.

Version 1 stored what the interface said; version 2 stores identifiers. The upgrade of a value is that of all that it
holds, by the names of fields, so that the same serves plans, rules, treatments, settings and frames.
"""

from typing import Any

VERSION = 2
"""Of plans, treatments and settings."""
FIELDS = ("progressive", "upper_first", "lower_first", "unknown")
PLACES = {"where it is free": "free_area"}
SAME = {
    "pattern": ("clouds", "water_light", "colour_fields", "fine_weave", "rising_specks"),
    "fields": FIELDS,
    "field_order": FIELDS,
    "order": FIELDS,
    "film": ("no", "throughout", "in_parts"),
    "deinterlace": ("one_per_pair", "one_per_field", "film"),
    "siting": ("left", "centre", "top_left", "top", "bottom_left", "bottom"),
    "by": ("quality", "rate", "constant_rate"),
    "rate_change": ("whole_frames", "blended", "speed"),
    "range": ("as_marked", "whole_clip"),
    "bars": ("undecided", "whole_frame", "active_picture_only"),
    "damage": ("read_past", "stop"),
    "quality": ("draft", "good", "high", "nearly_lossless"),
    "layer": ("everything", "surround_alone", "picture_alone"),
}
"""Fields whose identifiers are what version 1 said, with underscores for spaces."""
NAMES: dict[str, dict[str, str]] = {
    **{field: {value.replace("_", " "): value for value in values} for field, values in SAME.items()},
    "place": PLACES,
    "way": {
        "where it is empty": "empty_area",
        "left and right": "left_right",
        "above and below": "above_below",
    },
}
"""What each field said in version 1, and its identifier."""


KEYS = {"by": "rate_control", "names": "filename_template", "baked": "burned_in_bars", "says": "summary"}
"""Fields that have other names since version 1."""


def upgraded(given: Any) -> Any:  # noqa: ANN401 - anything that JSON holds
    """A stored value of any version as this one has it; one of this version stays as it is."""
    if isinstance(given, list):
        return [upgraded(one) for one in given]
    if not isinstance(given, dict):
        return given
    made = {KEYS.get(name, name): _value(name, value) for name, value in given.items()}
    return made | {"version": VERSION} if made.get("version") == 1 else made


def _value(name: str, value: Any) -> Any:  # noqa: ANN401 - as above
    if isinstance(value, str):
        return NAMES.get(name, {}).get(value, value)
    return upgraded(value)
