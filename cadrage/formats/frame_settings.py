"""The settings of a frame other than its size, as an interface shows them."""

from fractions import Fraction

from cadrage.fields import Setting, options
from cadrage.values import format_rate

RATES = ("24000/1001", "24", "25", "30000/1001", "30", "50", "60000/1001", "60")
"""Frames a second that are offered, exactly."""


TIME = (
    Setting(
        name="rate",
        label="Rate",
        others=True,
        options=options((None, "As the clip"), *((rate, f"{format_rate(Fraction(rate))} fps") for rate in RATES)),
    ),
    Setting(
        name="fields",
        label="Scan",
        options=options(
            ("progressive", "Progressive"),
            ("upper_first", "Interlaced, upper field first"),
            ("lower_first", "Interlaced, lower field first"),
        ),
    ),
)
COLOUR = (
    Setting(
        name="colour",
        label="Colours",
        options=options(
            ("sdr", "SDR, BT.709; BT.601 up to 576 lines"),
            ("bt2020", "SDR, BT.2020"),
            ("hlg", "HDR, HLG"),
            ("pq", "HDR, PQ"),
        ),
    ),
)
OUTSIDE = (
    Setting(
        name="outside",
        label="Outside",
        options=options(("bars", "Bars of one colour"), ("surround", "Surround")),
        unless={"active": (None,)},
    ),
    Setting(
        name="bar_colour",
        label="Bars",
        unit="colour",
        options=options(("#000000", "")),
        only_if={"outside": ("bars",)},
        unless={"active": (None,)},
    ),
)
"""Bars or surround outside the active picture."""
