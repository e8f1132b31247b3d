"""A file's facts, said to people."""

from cadrage.footage.candidates import unbelievable
from cadrage.footage.facts import Facts, SoundFacts
from cadrage.footage.interpretation import Interpretation, colour_of, read_as
from cadrage.formats.words import aspect_name
from cadrage.values import Value, format_exact

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
        ("File", f"{facts.codec} in {facts.container.split(',')[0]}"),
        *(("Sound", _sound_words(sound)) for sound in facts.sounds),
    ]
    if not facts.sounds and facts.kind == "clip":
        lines.append(("Sound", "none"))
    return tuple(Fact(name=name, says=says) for name, says in lines)


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
