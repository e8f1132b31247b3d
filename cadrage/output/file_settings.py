"""The settings of a file of some kind, as an interface shows them: only what the kind allows."""

from cadrage.fields import Scalar, Setting, options
from cadrage.output.kinds import OUTPUT_FORMATS, QUALITY_WORDS, OutputFormat, SoundName
from cadrage.output.settings import LEAST_KBPS, MOST_KBPS, MOST_NUMBER, Settings
from cadrage.wording import wording

BROADCAST_LUFS = -23.0
"""Programme loudness of EBU R 128."""

SOUNDS: dict[SoundName, str] = {
    "keep": "as it is, else AAC 192",
    "aac-192": "AAC, 192 kb/s",
    "aac-256": "AAC, 256 kb/s",
    "opus": "Opus, 160 kb/s",
    "pcm-16": "PCM, 16 bit",
    "pcm-24": "PCM, 24 bit",
    "none": "none",
}

Condition = dict[str, tuple[Scalar, ...]]
BY_QUALITY: Condition = {"rate_control": ("quality",)}
SILENT: Condition = {"sound": ("none",)}

FITTING = Setting(
    name="rate_change",
    label="Conversion",
    options=options(("whole_frames", "Repeat or drop frames"), ("blended", "Blend frames"), ("speed", "Change speed")),
)
"""How a clip is fitted into the frame's own rate."""


def file_settings(kind: OutputFormat) -> tuple[Setting, ...]:
    """The settings of a kind of file, in the order in which they are shown."""
    return (*_kind(kind), *_amount(kind), *_sound(kind), *_contents(kind), *_names())


def title_of(settings: Settings, name: str) -> str:
    """What people call the value that a setting of a file has."""
    value = getattr(settings, name)
    found = (one for one in file_settings(OUTPUT_FORMATS[settings.kind]) if one.name == name)
    titles = {option.value: option.title for setting in found for option in setting.options}
    return titles.get(value, str(value))


def _kind(kind: OutputFormat) -> list[Setting]:
    found = [
        Setting(name="kind", label="Format", options=options(*((k.name, k.title) for k in OUTPUT_FORMATS.values())))
    ]
    first = kind.profiles[0]
    if len(kind.profiles) > 1:
        names = [("" if one is first else one.name, one.name) for one in kind.profiles]
        found.append(Setting(name="profile", label="Profile", options=options(*names)))
    for profile in kind.profiles:
        if len(profile.formats) > 1:
            depths = options((None, "Automatic"), *((depth, f"{depth} bits") for depth in profile.formats))
            of = ("", profile.name) if profile is first else (profile.name,)
            found.append(Setting(name="depth", label="Depth", options=depths, only_if={"profile": of}))
    return found


def _amount(kind: OutputFormat) -> list[Setting]:
    """How much is written: by quality, in a word or by the encoder's own number, or by rate."""
    if not kind.quality:
        return []
    return [*_control(kind), *_quality(kind), *_rate(kind)]


def _control(kind: OutputFormat) -> list[Setting]:
    if not kind.rated:
        return []
    ways = [("quality", "constant quality"), ("rate", "variable bit rate")]
    if kind.capped:
        ways.append(("constant_rate", "constant bit rate"))
    return [Setting(name="rate_control", label="Rate control", options=options(*ways))]


def _quality(kind: OutputFormat) -> list[Setting]:
    option = next(iter(kind.quality["high"]))
    scale = option.replace("global_", "").replace("_", " ")
    number = {word: kind.quality[word][option] for word in QUALITY_WORDS}
    words = options(*((word, f"{wording(word)}, {scale} {number[word]}") for word in QUALITY_WORDS))
    by_number = [
        Setting(
            name="number",
            label="Value",
            hint="encoder quality value",
            unit=scale,
            high=MOST_NUMBER,
            initial=float(number[word]),
            only_if=BY_QUALITY | {"quality": (word,)},
        )
        for word in QUALITY_WORDS
    ]
    chosen = Setting(name="quality", label="Quality", options=words, only_if=BY_QUALITY)
    return [chosen, *(by_number if scale == "crf" else [])]


def _rate(kind: OutputFormat) -> list[Setting]:
    kbps = {"unit": "kb/s", "high": MOST_KBPS, "step": 500}
    found = [Setting(name="rate", label="Rate", low=LEAST_KBPS, unless=BY_QUALITY, **kbps)]
    if kind.capped:
        only_if = {"rate_control": ("rate",)}
        found.append(Setting(name="ceiling", label="Maximum", hint="0 for none", only_if=only_if, **kbps))
    if kind.two_passes:
        found.append(_tick("passes", "Two passes", 1, 2, unless=BY_QUALITY))
    return found if kind.rated else []


def _sound(kind: OutputFormat) -> list[Setting]:
    tracks = "Empty keeps all. 1+2 joins two mono tracks into stereo, 1/2 keeps them apart."
    return [
        Setting(name="sound", label="Sound", options=options(*((name, SOUNDS[name]) for name in kind.sounds))),
        _tick("stereo", "Mixed to stereo, by ITU-R BS.775", False, True, unless=SILENT),
        _tick("loudness", "Brought to a loudness, EBU R 128", None, BROADCAST_LUFS, unless=SILENT),
        Setting(
            name="loudness",
            label="Loudness",
            unit="LUFS",
            low=-40,
            high=-5,
            decimals=1,
            unless=SILENT | {"loudness": (None,)},
        ),
        _text("tracks", "Tracks", "", tracks, unless=SILENT),
        _text("channels", "Channels", "", "Empty keeps all. 3+4 keeps those two.", unless=SILENT),
    ]


def _contents(kind: OutputFormat) -> list[Setting]:
    layers = [("everything", "Everything"), ("surround_alone", "Surround only")]
    if kind.alpha:
        layers.append(("picture_alone", "Picture only, transparent around"))
    return [
        _tick("subtitles", "Keep subtitle tracks", "none", "keep"),
        _text("timecode", "Time code", "keep", "For example 10:00:00:00, or none. Empty keeps the clip's time code."),
        _tick("damage", "Stop at damage (otherwise hold the last good frame)", "read_past", "stop"),
        Setting(
            name="layer",
            label="Layer",
            hint="For compositing elsewhere. Titles, vignette and grain are in neither layer.",
            options=options(*layers),
        ),
        _tick("range", "Whole clip, ignoring in and out points", "as_marked", "whole_clip"),
    ]


def _names() -> list[Setting]:
    return [Setting(name="filename_template", label="File name", unit="text")]


def _tick(name: str, label: str, off: Scalar, on: Scalar, **shown: Condition) -> Setting:
    return Setting(name=name, label=label, unit="tick", options=options((off, ""), (on, "")), **shown)


def _text(name: str, label: str, empty: str, hint: str, **shown: Condition) -> Setting:
    return Setting(name=name, label=label, unit="text", hint=hint, options=options((empty, "")), **shown)
