"""What a change of settings takes along, so that no hand has to undo what the new choice cannot have."""

from typing import Any

from cadrage.output.kinds import OUTPUT_FORMATS, OutputFormat
from cadrage.output.settings import Settings

NARROWED: dict[str, tuple[str, ...]] = {"kind": ("number", "depth"), "profile": ("depth",), "quality": ("number",)}
"""What was chosen for one value of a field and means nothing for another."""


def following(before: Settings, after: Settings) -> Settings:
    """Settings that somebody changed, with what the change takes along.

    What stood there before and the new kind, profile or quality cannot have, or means something else by, becomes its
    usual one. What was changed in the same step is what somebody wants, and stays; whether it can be is for
    `encoder_config` to say.
    """
    changed = {name for name in Settings.model_fields if getattr(before, name) != getattr(after, name)}
    follow: dict[str, Any] = {}
    for name in changed & NARROWED.keys():
        follow |= dict.fromkeys(NARROWED[name])
    follow |= _fitting(after, OUTPUT_FORMATS[after.kind])
    return after.model_copy(update={name: value for name, value in follow.items() if name not in changed})


def _fitting(asked: Settings, kind: OutputFormat) -> dict[str, Any]:
    """The usual ones in place of all that a kind cannot have."""
    found: dict[str, Any] = {}
    if asked.profile and kind.profile(asked.profile) is None:
        found |= {"profile": "", "depth": None}
    if asked.sound != "keep" and asked.sound not in kind.sounds:
        found["sound"] = "keep"
    if asked.layer == "picture_alone" and not kind.alpha:
        found["layer"] = "everything"
    if not kind.rated:
        found["rate_control"] = "quality"
    if not kind.capped:
        found["ceiling"] = 0
        found |= {"rate_control": "rate"} if asked.rate_control == "constant_rate" and kind.rated else {}
    return found
