"""The settings of how a clip is interpreted, as an interface shows them: each choice with what the file says."""

from cadrage.analysis.fields import FieldsFound
from cadrage.fields import Setting, SettingGroup, options
from cadrage.footage import Interpretation, MediaInfo, effective_timing
from cadrage.footage.blanking import interval_lines
from cadrage.footage.describe import colour_summary
from cadrage.footage.interpretation import WHOLE_LINE
from cadrage.wording import wording

ORDERS = (
    ("progressive", "Progressive"),
    ("upper_first", "Upper field first"),
    ("lower_first", "Lower field first"),
)
METHODS = (
    ("one_per_pair", "One frame per two fields"),
    ("one_per_field", "One frame per field"),
    ("film", "Film frames (remove pulldown)"),
)


def interpretation_settings(
    info: MediaInfo, stated: Interpretation, found: FieldsFound | None = None
) -> tuple[SettingGroup, ...]:
    """The groups of settings that a clip has.

    Args:
        info: facts about the file.
        stated: the interpretation that is set.
        found: the fields detected in its pictures.
    """
    if info.kind == "clip":
        return _fields(info, stated, found), _turning(info, stated), _colour(info, stated)
    return _still(info, stated), _turning(info, stated)


def _fields(info: MediaInfo, stated: Interpretation, found: FieldsFound | None) -> SettingGroup:
    seen = found.order if found else None
    taken = stated.fields or seen or info.field_order
    usual = f"As seen, {wording(seen)}" if seen else f"As flagged, {wording(info.field_order)}"
    pulldown = Setting(
        name="deinterlace",
        label="Remove pulldown",
        unit="button",
        options=options(("film", "")),
        unless={"deinterlace": ("film",)},
    )
    return SettingGroup(
        title="Fields",
        state=wording(taken),
        open=taken not in ("progressive", "unknown"),
        notes=(f"Flagged {wording(info.field_order)}.", *((f"Seen: {found.summary}.",) if found else ())),
        settings=(
            Setting(name="fields", label="Read as", options=options((None, usual), *ORDERS)),
            *((pulldown,) if found and found.film != "no" else ()),
            Setting(name="deinterlace", label="Deinterlace", options=options(*METHODS)),
        ),
    )


def _turning(info: MediaInfo, stated: Interpretation) -> SettingGroup:
    turns = ((turn, f"{turn}° clockwise") for turn in (0, 90, 180, 270))
    turned = info.rotation if stated.rotation is None else stated.rotation
    lines = interval_lines(info.width, info.height)
    whole = (("whole", f"Everything, with {lines} lines above the picture"),) if lines else ()
    width = Setting(
        name="clean_aperture",
        label="Picture width",
        hint="How many of the 720 samples of a line carry the picture",
        options=options((None, "All 720 samples"), ("704", "Middle 704"), ("702.9", "Middle 702.9 (analogue)"), *whole),
    )
    return SettingGroup(
        title="Rotate and mirror",
        state=f"{turned}°{', mirrored' if stated.mirror else ''}",
        settings=(
            Setting(
                name="rotation",
                label="Rotate",
                options=options((None, f"As in the metadata, {info.rotation}°"), *turns),
            ),
            Setting(name="mirror", label="Mirror left to right", unit="tick", options=options((False, ""), (True, ""))),
            *((width,) if info.width == WHOLE_LINE else ()),
        ),
    )


def _colour(info: MediaInfo, stated: Interpretation) -> SettingGroup:
    in_range = "full" if info.full_range else "limited"
    ours = (None, "As in the file")
    rows = (
        (
            "matrix",
            "Matrix",
            (None, colour_summary(info)),
            ("bt601", "BT.601"),
            ("bt709", "BT.709"),
            ("bt2020", "BT.2020"),
        ),
        (
            "range",
            "Range",
            (None, f"As in the file, {in_range}"),
            ("limited", "Limited, 16 to 235"),
            ("full", "Full, 0 to 255"),
        ),
        (
            "primaries",
            "Primaries",
            ours,
            ("bt709", "BT.709, sRGB"),
            ("bt601-525", "BT.601, 525 lines"),
            ("bt601-625", "BT.601, 625 lines"),
            ("bt2020", "BT.2020"),
            ("p3-d65", "P3, D65"),
        ),
        ("transfer", "Transfer", ours, ("sdr", "SDR"), ("hlg", "HDR, HLG"), ("pq", "HDR, PQ")),
    )
    settings = [Setting(name=name, label=label, options=options(*choices)) for name, label, *choices in rows]
    return SettingGroup(
        title="Colour",
        state=stated.matrix or colour_summary(info, brief=True),
        settings=(*settings, *((MATTE,) if info.alpha else ())),
    )


def _still(info: MediaInfo, stated: Interpretation) -> SettingGroup:
    timing = effective_timing(info, stated)
    lasts = Setting(
        name="duration",
        label="Duration",
        unit="s",
        low=0.04,
        high=3600,
        step=0.5,
        decimals=3,
        initial=float(timing.duration),
    )
    rate = Setting(name="rate", label="Frame rate", unit="fps", low=1, high=240, decimals=3, initial=float(timing.rate))
    still = info.kind == "still"
    return SettingGroup(
        title="Still" if still else "Sequence of stills",
        open=True,
        settings=(*((lasts,) if still else ()), rate, *((MATTE,) if info.pixel_format == "rgba" else ())),
    )


MATTE = Setting(name="matte", label="Transparency", unit="colour", options=options(("#000000", "")))
