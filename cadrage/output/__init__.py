"""What files can be: their kinds, how they are written, how much they may hold, what they are called."""

from cadrage.output.changing import following
from cadrage.output.kinds import OUTPUT_FORMATS, QUALITY_WORDS
from cadrage.output.settings import (
    DEFAULT,
    SHIPPED,
    Settings,
    check_decided,
    check_undamaged,
    encoder_config,
    find_settings,
    read_settings,
)

__all__ = [
    "DEFAULT",
    "OUTPUT_FORMATS",
    "QUALITY_WORDS",
    "SHIPPED",
    "Settings",
    "check_decided",
    "check_undamaged",
    "encoder_config",
    "find_settings",
    "following",
    "read_settings",
]
