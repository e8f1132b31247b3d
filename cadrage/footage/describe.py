"""A file's facts, said to people."""

from collections import Counter
from fractions import Fraction
from math import floor

from cadrage.footage.candidates import unbelievable
from cadrage.footage.facts import Facts, SoundFacts
from cadrage.footage.findings import Finding, FindingKind
from cadrage.footage.interpretation import Interpretation, colour_of, read_as
from cadrage.formats.words import aspect_name
from cadrage.values import Exact, Value, format_exact

MATRIX_NAMES = {"bt601": "BT.601", "bt709": "BT.709", "bt2020": "BT.2020"}


class Fact(Value):
    """One thing about a file, named and said."""

    name: str
    says: str


def describe(facts: Facts) -> tuple[Fact, ...]:
    """What a file is, line by line, in the order an editor asks."""
    picture = read_as(facts, Interpretation()).picture
    lines = [
        ("Stored", f"{facts.width}×{facts.height}"),
        ("Pixel aspect", _pixel_words(facts)),
        ("Rotation", _turn_words(facts)),
        ("Seen as", f"{float(picture.display_width):g}×{picture.height}, {aspect_name(picture.display_aspect)}"),
        *_time_lines(facts),
        ("Samples", f"{facts.chroma}, {facts.depth} bit, {'full' if facts.full_range else 'limited'} range"),
        ("Colour", _colour_words(facts)),
        ("File", f"{facts.codec} in {facts.demuxer}"),
        *(("Sound", _sound_words(sound)) for sound in facts.sounds),
    ]
    if not facts.sounds and facts.kind == "clip":
        lines.append(("Sound", "none"))
    if facts.others:
        counts = Counter(facts.others)
        lines.append(("Besides", ", ".join(f"{counts[kind]} × {kind}" for kind in sorted(counts)) + ", not used"))
    return tuple(Fact(name=name, says=says) for name, says in lines)


class Notice(Value):
    """Something that was noticed about a file, said to people.

    Attributes:
        says: what.
        damage: whether something is lost.
        start: where it begins, in seconds from the first picture.
    """

    says: str
    damage: bool
    start: Exact


def notices(facts: Facts) -> tuple[Notice, ...]:
    """What was noticed about a file, in the order of time."""
    return tuple(
        Notice(says=finding_words(one, facts.rate), damage=one.damage, start=one.start) for one in facts.findings
    )


def _turn_words(facts: Facts) -> str:
    words = f"turned {facts.rotation}° by its flag" if facts.rotation else "none"
    if facts.rotation_flag != facts.rotation:
        words = f"its flag says {facts.rotation_flag}°, which is no quarter turn; taken as {facts.rotation}°"
    return f"{words}, mirrored" if facts.mirrored else words


def _time_lines(facts: Facts) -> list[tuple[str, str]]:
    if facts.kind == "still":
        return [("Lasts", "a still; as long as is chosen")]
    if facts.kind == "sequence":
        return [("Lasts", f"{facts.frames} stills, at a rate that is chosen")]
    return [
        ("Rate", _rate_words(facts)),
        ("Lasts", f"{float(facts.duration):.3f} s, {facts.frames} frames"),
        ("Fields", f"flagged {facts.field_order}"),
    ]


def _pixel_words(facts: Facts) -> str:
    if (wrong := unbelievable(facts)) is not None:
        return wrong
    if facts.pixel_aspect is None:
        return "not stated, taken as square"
    if facts.pixel_aspect == 1:
        return "square"
    return f"{facts.pixel_aspect.numerator}:{facts.pixel_aspect.denominator}"


def _rate_words(facts: Facts) -> str:
    exact = format_exact(facts.rate)
    said = f"{float(facts.rate):.3f} fps ({exact})" if "/" in exact else f"{exact} fps"
    if facts.rate_varies:
        spread = f"{float(facts.shortest_frame) * 1000:.1f} to {float(facts.longest_frame) * 1000:.1f} ms a frame"
        return f"{said} on average, varies: {spread}"
    return said if facts.rate_stated else f"{said}, worked out from its time stamps"


def _colour_words(facts: Facts) -> str:
    name = MATRIX_NAMES[colour_of(facts).matrix]
    return name if facts.matrix != 2 else f"not tagged, taken as {name} by its size"


def _sound_words(sound: SoundFacts) -> str:
    channels = {1: "mono", 2: "stereo"}.get(sound.channels, f"{sound.channels} channels")
    return f"{sound.codec}, {sound.rate / 1000:g} kHz, {channels}"


def finding_words(finding: Finding, rate: Fraction) -> str:
    """What was noticed about a file, with its time codes."""
    count, told = finding.count, finding.told
    pictures = f"{count} picture{'s' if count != 1 else ''}"
    at = timecode(finding.start, rate)
    span = at if finding.end is None else f"{at} to {timecode(finding.end, rate)}"
    said: dict[FindingKind, str] = {
        "leading": f"{pictures} before the first cannot be decoded: the stream begins in the middle",
        "undecodable": f"cannot be decoded, {span}; the last good picture stays",
        "concealed": f"damaged and patched up by the decoder, {span}",
        "missing": f"{pictures} missing, {span}; the last good one stays",
        "held": f"{pictures} left out by the file, {span}; the one before stays",
        "unreadable": f"the file cannot be read on at {at}",
        "cut_short": f"cut short: it ends at {at} and should end at {timecode(finding.end or finding.start, rate)}",
        "sound_damaged": f"sound damaged, {span}; silence is in its place",
        "clock_jumps": f"the clock jumps at {at}; pictures and sound go on without a gap",
        "size_changes": f"the picture changes to {told} at {at}",
        "samples_change": f"samples change to {told} at {at}; they are brought to those of the first picture",
        "pixel_aspect_changes": f"the pixel aspect changes to {told} at {at}; that of the first picture counts",
        "turned_askew": f"its flag turns it by {told}°; the nearest quarter turn is taken, straighten it by the rest",
        "other_pictures": f"{count} more stream{'s' if count != 1 else ''} of pictures, not used",
        "sound_unknown": f"{count} stream{'s' if count != 1 else ''} of sound cannot be decoded, and left out",
    }
    return said[finding.kind]


def timecode(time: Fraction, rate: Fraction) -> str:
    """Hours, minutes, seconds and pictures; without dropped numbers, at the nearest whole rate."""
    pictures = max(1, round(rate))
    number = floor(time * rate + Fraction(1, 100))
    seconds, picture = divmod(number, pictures)
    return f"{seconds // 3600:02}:{seconds // 60 % 60:02}:{seconds % 60:02}:{picture:02}"
