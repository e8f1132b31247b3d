"""Opening a written file again and measuring what came out."""

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Literal

from cadrage.compose import Compositor
from cadrage.compose.target import target_colour
from cadrage.errors import CadrageError
from cadrage.footage import EMPTY, Facts, Interpretation, Library, open_footage, probe, read_as
from cadrage.pixels.planes import Planes
from cadrage.plan import Plan
from cadrage.render.bars import Bars, black_bars
from cadrage.render.encoder import stored_colour, tagged
from cadrage.render.job import plan_written
from cadrage.render.pace import delivered
from cadrage.render.settings import DEFAULT, Settings, Writing, writing_of
from cadrage.values import Value, format_exact

SAMPLES = 5  # moments at which bars are looked for
SYNC_SECONDS = Fraction(1, 1000)
CODECS = {
    "libx264": "h264",
    "libx265": "hevc",
    "libvpx-vp9": "vp9",
    "libsvtav1": "av1",
    "prores_ks": "prores",
    "dnxhd": "dnxhd",
    "ffv1": "ffv1",
    "mjpeg": "mjpeg",
}
"""What FFmpeg's libraries call what each encoder makes."""

AAC_FRAME = 1024  # samples, ISO/IEC 14496-3; sound that was encoded anew is padded to whole frames of these

Verdict = Literal["right", "wrong", "measured"]


class Line(Value):
    """One thing that was asked for and one that was found.

    Attributes:
        name: what it is about.
        asked: what the plan asks for; empty where nothing was asked.
        found: what was measured.
        verdict: right, wrong, or only measured.
        remedy: what to do about a wrong one.
    """

    name: str
    asked: str
    found: str
    verdict: Verdict
    remedy: str = ""


class Inspection(Value):
    """The measured report on one file.

    Attributes:
        file: its name.
        lines: what was measured.
        right: whether no line is wrong.
    """

    file: str
    lines: tuple[Line, ...]
    right: bool


@dataclass(frozen=True, slots=True)
class Order:
    """What was asked for.

    Attributes:
        plan: the framing.
        source: the clip.
        facts: what it is.
        library: what else the plan may use.
        settings: how the file is written.
        clip: what the clip is called; as its file, where empty.
    """

    plan: Plan
    source: Path
    facts: Facts
    library: Library = EMPTY
    settings: Settings = DEFAULT
    clip: str = ""

    @property
    def written(self) -> Plan:
        """The plan whose frame is exactly what the file holds."""
        return plan_written(self.plan, self.facts, self.settings)

    @property
    def writing(self) -> Writing:
        """The settings, settled."""
        return writing_of(self.settings, self.written.frame)

    @property
    def wanted(self) -> Facts:
        """The clip as it is to be delivered."""
        return delivered(self.plan, self.facts)


def inspect_file(path: Path, order: Order | None = None) -> Inspection:
    """Measure a file, and hold it against the order where there is one.

    Raises:
        MissingSource, UnreadableFile, NoPicture, RasterOutOfRange: the file cannot be read at all.
    """
    found = probe(path)
    lines = [
        *_kind_lines(found, order),
        *_shape_lines(found, order),
        *_time_lines(found, order),
        *_sound_lines(found, order),
        *_colour_lines(found, order),
        _bars_line(path, found, order),
    ]
    return Inspection(file=path.name, lines=tuple(lines), right=all(line.verdict != "wrong" for line in lines))


def _line(name: str, asked: str | None, found: str, right: bool, remedy: str) -> Line:
    if asked is None:
        return Line(name=name, asked="", found=found, verdict="measured")
    return Line(
        name=name, asked=asked, found=found, verdict="right" if right else "wrong", remedy="" if right else remedy
    )


def _same(name: str, asked: str | None, found: str, remedy: str) -> Line:
    return _line(name, asked, found, asked == found, remedy)


def _kind_lines(found: Facts, order: Order | None) -> Iterator[Line]:
    writing = order.writing if order else None
    again = "Render again with the settings that were meant."
    yield _same("Codec", CODECS[writing.kind.encoder] if writing else None, found.codec, again)
    asked = None if writing is None else writing.profile.read_as or writing.format.name
    yield _same("Samples", asked, found.pixel_format, again)


def _shape_lines(found: Facts, order: Order | None) -> Iterator[Line]:
    frame = order.written.frame if order else None
    size, shape = f"{found.width}×{found.height}", format_exact(found.pixel_aspect or Fraction(1))
    yield _same(
        "Size", f"{frame.width}×{frame.height}" if frame else None, size, "Render again into the frame that was meant."
    )
    yield _same(
        "Pixel aspect",
        format_exact(frame.pixel_aspect) if frame else None,
        shape,
        "Render again; players would squeeze this.",
    )


def _time_lines(found: Facts, order: Order | None) -> Iterator[Line]:
    asked = order.wanted if order else None
    yield _same("Rate", _rate(asked) if asked else None, _rate(found), "Render again; the rate came out otherwise.")
    yield _same("Frames", str(asked.frames) if asked else None, str(found.frames), "Render again; frames are missing.")
    near = asked is not None and abs(asked.duration - found.duration) <= 1 / found.rate
    yield _line(
        "Picture lasts",
        _seconds(asked.duration) if asked else None,
        _seconds(found.duration),
        near,
        "Render again; the clip may have changed.",
    )


def _rate(facts: Facts) -> str:
    number = format_exact(facts.rate)
    return f"{number} varying" if facts.rate_varies else number


def _sound_lines(found: Facts, order: Order | None) -> Iterator[Line]:
    asked = None if order is None else order.facts.sounds if order.settings.sound != "none" else ()
    yield _same("Sound streams", None if asked is None else str(len(asked)), str(len(found.sounds)), "Render again.")
    for number, sound in enumerate(found.sounds):
        source = asked[number] if asked and number < len(asked) else None
        yield _line(
            "Sound begins",
            f"{_milliseconds(source.start)} after the picture" if source else None,
            f"{_milliseconds(sound.start)} after the picture",
            source is not None and abs(source.start - sound.start) <= SYNC_SECONDS,
            "Render again; sound and picture have moved apart.",
        )
        if sound.duration is None or (source and source.duration is None):
            continue
        kept = source is not None and order is not None and order.settings.sound == "keep" and source.codec == "aac"
        slack = SYNC_SECONDS if kept else Fraction(2 * AAC_FRAME, sound.rate)
        yield _line(
            "Sound lasts",
            _seconds(source.duration or Fraction(0)) if source else None,
            _seconds(sound.duration),
            source is not None and abs((source.duration or Fraction(0)) - sound.duration) <= slack,
            "Render again; the sound was cut or drawn out.",
        )


def _colour_lines(found: Facts, order: Order | None) -> Iterator[Line]:
    asked = None
    if order:
        own = target_colour(read_as(order.facts, order.plan.interpretation).colour, order.written.frame)
        asked = tagged(stored_colour(order.writing, own), order.writing)
    tags = (found.matrix, found.primaries, found.transfer)
    wanted = (asked.matrix_code, asked.primaries, asked.transfer) if asked else None
    yield _line(
        "Matrix, primaries, transfer (H.273)",
        "/".join(map(str, wanted)) if wanted else None,
        "/".join(map(str, tags)),
        wanted is not None and _meaning(*tags) == _meaning(*wanted),
        "Render again; colours would be shown wrongly.",
    )
    span = "full" if found.full_range else "limited"
    yield _same(
        "Range",
        ("full" if asked.full_range else "limited") if asked else None,
        span,
        "Render again; blacks would be grey or crushed.",
    )


def _meaning(matrix: int, primaries: int, transfer: int) -> tuple[int, int, int]:
    """Codes of ITU-T H.273 with one for those that stand for the same arithmetic: tables 3 and 4 say which do."""
    return (6 if matrix == 5 else matrix), primaries, (1 if transfer in (6, 14, 15) else transfer)


def _bars_line(path: Path, found: Facts, order: Order | None) -> Line:
    times = [found.duration * (2 * n + 1) / (2 * SAMPLES) for n in range(SAMPLES)]
    measured = black_bars(_pictures(path, found, times))
    asked = _bars_asked(order, times) if order else None
    return _line(
        "Black bars",
        None if asked is None else str(asked),
        str(measured),
        asked is not None and measured.near(asked),
        "Bars were burned in that nobody asked for: render into a frame of the picture's own shape.",
    )


def _pictures(path: Path, facts: Facts, times: list[Fraction]) -> Iterator[Planes]:
    with open_footage(path, facts, Interpretation(fields="progressive")) as reader:
        for time in times:
            yield reader.frame_at(time).planes


def _bars_asked(order: Order, times: list[Fraction]) -> Bars | None:
    """The bars in frames composed anew from the plan, or None where the clip can no longer be read."""
    try:
        with open_footage(order.source, order.facts, order.plan.interpretation) as reader:
            first = reader.frame_at(Fraction(0)).planes.layout
            compositor = Compositor(order.written, first, order.facts, library=order.library)
            return black_bars(compositor.compose(reader.frame_at(time).planes, time=time) for time in times)
    except CadrageError:
        return None


def _seconds(value: Fraction) -> str:
    return f"{float(value):.3f} s"


def _milliseconds(value: Fraction) -> str:
    return f"{float(value * 1000):.1f} ms"
