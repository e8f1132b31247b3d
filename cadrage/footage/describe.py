"""A file's info, said to people."""

from collections import Counter
from fractions import Fraction
from math import floor

from cadrage.footage.blanking import interval_lines
from cadrage.footage.candidates import unbelievable
from cadrage.footage.findings import Finding, FindingKind
from cadrage.footage.interpretation import Interpretation, colour_of, resolve
from cadrage.footage.media_info import MediaInfo, SoundInfo, SubtitleInfo
from cadrage.formats.aspect_names import aspect_name
from cadrage.pixels.colour import UNSPECIFIED, Curve, Matrix
from cadrage.pixels.gamut import Gamut
from cadrage.values import Exact, Value, format_exact
from cadrage.wording import wording

PRIMARIES_NAMES: dict[Gamut | None, str] = {
    "bt709": "BT.709",
    "bt601-525": "BT.601, 525 lines",
    "bt601-625": "BT.601, 625 lines",
    "bt2020": "BT.2020",
    "p3-d65": "P3, D65",
    "p3-dci": "P3, DCI white",
    "ntsc-1953": "NTSC of 1953",
    "film": "film",
    "p22": "P22 phosphors",
}
CURVE_NAMES: dict[Curve, str] = {"pq": "HDR, PQ", "hlg": "HDR, HLG"}
MATRIX_NAMES: dict[Matrix, str] = {
    "bt601": "BT.601",
    "bt709": "BT.709",
    "bt2020": "BT.2020",
    "smpte240m": "SMPTE 240M",
    "ycgco": "YCgCo",
    "bt2020-constant": "BT.2020, constant luminance",
}


ACTIVE_FORMATS = {
    "0010": " (16:9 at the top)",
    "0011": " (14:9 at the top)",
    "0100": " (wider than 16:9, centred)",
    "1000": " (the whole coded frame)",
    "1001": " (4:3 centred)",
    "1010": " (16:9 centred)",
    "1011": " (14:9 centred)",
    "1101": " (4:3 with a 14:9 safe centre)",
    "1110": " (16:9 with a 14:9 safe centre)",
    "1111": " (16:9 with a 4:3 safe centre)",
}
"""Active Format Description: SMPTE ST 2016-1, table 1; from memory."""


class Fact(Value):
    """One thing about a file, named and said."""

    name: str
    value: str


def describe(info: MediaInfo) -> tuple[Fact, ...]:
    """What a file is, line by line, in the order an editor asks."""
    picture = resolve(info, Interpretation()).picture
    lines = [
        ("Stored", _stored(info)),
        ("Pixel aspect", _pixel(info)),
        ("Rotation", _turn(info)),
        ("Seen as", f"{float(picture.display_width):g}×{picture.height}, {aspect_name(picture.display_aspect)}"),
        *_time_lines(info),
        ("Samples", _sample(info)),
        ("Colour", colour_summary(info)),
        *([("Transparent", "in parts; the matte shows there")] if info.alpha else []),
        ("File", f"{info.codec} in {info.demuxer}"),
        *(("Sound", _sound(sound)) for sound in info.sounds),
    ]
    if not info.sounds and info.kind == "clip":
        lines.append(("Sound", "none"))
    lines += [("Subtitles", _subtitle(track)) for track in info.subtitles]
    if info.others:
        counts = Counter(info.others)
        lines.append(("Besides", ", ".join(f"{counts[kind]} × {kind}" for kind in sorted(counts)) + ", not used"))
    return tuple(Fact(name=name, value=value) for name, value in lines)


class Notice(Value):
    """Something that was noticed about a file, said to people.

    Attributes:
        message: what.
        damage: whether something is lost.
        start: where it begins, in seconds from the first picture.
    """

    message: str
    damage: bool
    start: Exact


def notices(info: MediaInfo) -> tuple[Notice, ...]:
    """What was noticed about a file, in the order of time."""
    return tuple(
        Notice(message=finding_message(one, info.rate), damage=one.damage, start=one.start) for one in info.findings
    )


def _turn(info: MediaInfo) -> str:
    words = f"turned {info.rotation}° by its flag" if info.rotation else "none"
    if info.rotation_flag != info.rotation:
        words = f"its flag says {info.rotation_flag}°, which is no quarter turn; taken as {info.rotation}°"
    return f"{words}, mirrored" if info.mirrored else words


def _time_lines(info: MediaInfo) -> list[tuple[str, str]]:
    if info.kind == "still":
        return [("Lasts", "a still; as long as is chosen")]
    if info.kind == "sequence":
        return [("Lasts", f"{info.frames} stills, at a rate that is chosen")]
    return [
        ("Rate", _rate(info)),
        ("Lasts", f"{float(info.duration):.3f} s, {info.frames} frames"),
        ("Fields", f"flagged {wording(info.field_order)}"),
        *([("Time code", info.timecode)] if info.timecode else []),
    ]


def _stored(info: MediaInfo) -> str:
    above = interval_lines(info.width, info.height)
    return f"{info.width}×{info.height}" + (f", the top {above} lines are no picture" if above else "")


def _pixel(info: MediaInfo) -> str:
    if (wrong := unbelievable(info)) is not None:
        return wrong
    if info.pixel_aspect is None:
        return "not stated, taken as square"
    if info.pixel_aspect == 1:
        return "square"
    return f"{info.pixel_aspect.numerator}:{info.pixel_aspect.denominator}"


def _rate(info: MediaInfo) -> str:
    exact = format_exact(info.rate)
    text = f"{float(info.rate):.3f} fps ({exact})" if "/" in exact else f"{exact} fps"
    if info.rate_varies:
        spread = f"{float(info.shortest_frame) * 1000:.1f} to {float(info.longest_frame) * 1000:.1f} ms a frame"
        return f"{text} on average, varies: {spread}"
    return text if info.rate_stated else f"{text}, worked out from its time stamps"


def _sample(info: MediaInfo) -> str:
    text = f"{info.chroma}, {info.depth} bit, {'full' if info.full_range else 'limited'} range"
    return text if info.siting in (None, "left") else f"{text}, chroma sited {wording(info.siting)}"


def colour_summary(info: MediaInfo, *, brief: bool = False) -> str:
    """What a file's samples mean, in words; `brief`, as a state beside a heading."""
    colour = colour_of(info)
    name = MATRIX_NAMES[colour.matrix]
    assumed = f"assumed {name}" if brief else f"not tagged, taken as {name} by its size"
    parts = [name if info.matrix != UNSPECIFIED else assumed]
    primaries = PRIMARIES_NAMES.get(colour.gamut, "")
    if primaries and primaries != name:
        parts.append(f"primaries {primaries}")
    if colour.hdr:
        peak = f", made for {colour.peak} cd/m²" if colour.peak else ""
        parts.insert(0, CURVE_NAMES[colour.curve] + peak)
    return "; ".join(parts)


def _sound(sound: SoundInfo) -> str:
    channels = {1: "mono", 2: "stereo"}.get(sound.channels, f"{sound.channels} channels")
    text = ", ".join(filter(None, (sound.language, sound.title)))
    return f"{sound.codec}, {sound.rate / 1000:g} kHz, {channels}" + (f" ({text})" if text else "")


def _subtitle(track: SubtitleInfo) -> str:
    text = ", ".join(filter(None, (track.language, track.title)))
    form = "words" if track.is_text else "pictures of words, not carried"
    return f"{track.codec}, {form}" + (f" ({text})" if text else "")


def finding_message(finding: Finding, rate: Fraction) -> str:
    """What was noticed about a file, with its time codes."""
    count, told = finding.count, finding.told
    pictures = f"{count} picture{'s' if count != 1 else ''}"
    at = timecode(finding.start, rate)
    span = at if finding.end is None else f"{at} to {timecode(finding.end, rate)}"
    messages: dict[FindingKind, str] = {
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
        "film_by_flags": f"film, stretched to video by its flags; read at its own {float(rate):.3f} pictures a second",
        "sound_unknown": f"{count} stream{'s' if count != 1 else ''} of sound cannot be decoded, and left out",
        "captions_in_picture": "closed captions (CEA-608/708) in the picture stream are not carried into files; "
        "have them read and add them as captions",
        "active_format": f"active format description {told}{ACTIVE_FORMATS.get(told, '')}, not carried into files",
        "subtitles_unknown": f"{count} track{'s' if count != 1 else ''} of subtitles, such as teletext, cannot be "
        "decoded and are left out",
    }
    return messages[finding.kind]


def timecode(time: Fraction, rate: Fraction) -> str:
    """Hours, minutes, seconds and pictures; without dropped numbers, at the nearest whole rate."""
    pictures = max(1, round(rate))
    number = floor(time * rate + Fraction(1, 100))
    seconds, picture = divmod(number, pictures)
    return f"{seconds // 3600:02}:{seconds // 60 % 60:02}:{seconds % 60:02}:{picture:02}"
