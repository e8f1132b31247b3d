"""Which shapes a clip's pixels may have, and what speaks for each."""

from fractions import Fraction

from cadrage.footage.blanking import picture_lines
from cadrage.footage.interpretation import BELIEVABLE
from cadrage.footage.media_info import MediaInfo
from cadrage.formats.aspect_names import aspect_name
from cadrage.formats.sources import SOURCES, SQUEEZES, Convention
from cadrage.geometry import Raster
from cadrage.values import Exact, Value

MEANINGS: dict[Convention, str] = {
    "sampled": "as sampled",
    "stated": "stated for the whole line",
    "squeezed": "squeezed",
    "square": "square pixels",
}
FULL_APERTURE = (Fraction(5, 4), Fraction(3, 2))
"""Shapes of rasters that anamorphic lenses are put before, 2048×1536 among them; common practice, no source."""


class Candidate(Value):
    """A shape that a clip's stored pixels may have.

    Attributes:
        pixel_aspect: width of a stored pixel over its height.
        shape: the picture it makes, such as "4:3", upright.
        evidence: what speaks for it, in words.
        doubts: what speaks against it, in words.
    """

    pixel_aspect: Exact
    shape: str
    evidence: tuple[str, ...]
    doubts: tuple[str, ...] = ()


def candidates(info: MediaInfo) -> tuple[Candidate, ...]:
    """The shapes that a clip's pixels may have: what the file says first, then what its raster is known for."""
    known = _stated(info)
    rows = [row for row in SOURCES if (row.width, row.height) == (info.width, picture_lines(info.width, info.height))]
    for row in rows:
        known.setdefault(row.pixel_aspect, []).append(f"{row.name}, {MEANINGS[row.convention]}")
    stored = Fraction(info.width, info.height)
    if not rows and FULL_APERTURE[0] <= stored <= FULL_APERTURE[1] and info.kind == "clip":
        known.setdefault(SQUEEZES[-1], []).append("a full-aperture raster, as behind a 2× anamorphic lens")
    if not any(row.convention == "square" for row in rows):
        known.setdefault(Fraction(1), []).append("square, as computers have them")
    return tuple(_candidate(info, aspect, evidence, bool(rows)) for aspect, evidence in known.items())


def _stated(info: MediaInfo) -> dict[Fraction, list[str]]:
    """What the file says, as far as it can be believed; container and stream may differ."""
    stated: dict[Fraction, list[str]] = {}
    container, stream = info.pixel_aspect, info.stream_aspect
    for aspect, who in ((container, "the container says so"), (stream, "the stream says so")):
        if aspect is not None and BELIEVABLE[0] <= aspect <= BELIEVABLE[1]:
            stated.setdefault(aspect, []).append(who)
    if container is not None and container == stream:
        stated = {aspect: ["the file says so"] for aspect in stated}
    return stated


def _candidate(info: MediaInfo, aspect: Fraction, evidence: list[str], listed: bool) -> Candidate:
    picture = Raster(info.width, picture_lines(info.width, info.height), aspect).turned(info.rotation)
    stated = {given for given in (info.pixel_aspect, info.stream_aspect) if given is not None}
    doubts = []
    if aspect in stated and len(stated) > 1:
        doubts.append("container and stream contradict each other")
    if aspect in stated and listed and len(evidence) == len([line for line in evidence if "says so" in line]):
        doubts.append("no known format of this size has it")
    return Candidate(
        pixel_aspect=aspect, shape=aspect_name(picture.display_aspect), evidence=tuple(evidence), doubts=tuple(doubts)
    )


def unbelievable(info: MediaInfo) -> str | None:
    """What to say of a stated pixel aspect that no format could have; None where there is no such."""
    stated = info.pixel_aspect
    if stated is None or BELIEVABLE[0] <= stated <= BELIEVABLE[1]:
        return None
    return f"the file says {stated.numerator}:{stated.denominator}, which nothing has; taken as square"
