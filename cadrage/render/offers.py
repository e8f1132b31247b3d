"""Kinds of file in words, for whoever offers them."""

from fractions import Fraction

from cadrage.formats import Frame
from cadrage.output.kinds import OUTPUT_FORMATS, QUALITY_WORDS, Depth, KindName, OutputFormat, SoundName
from cadrage.output.settings import LEAST_KBPS, MOST_KBPS, MOST_NUMBER, Settings
from cadrage.render.frame_timing import fitted
from cadrage.render.request import RenderRequest, frame_written
from cadrage.values import Value
from cadrage.wording import wording

PLAYABLE: frozenset[KindName] = frozenset(("mp4-h264", "mov-h264", "webm-vp9", "webm-av1"))
"""Kinds that browsers play (common practice, no source)."""

SOUNDS: dict[SoundName, str] = {
    "keep": "as it is, else AAC 192",
    "aac-192": "AAC, 192 kb/s",
    "aac-256": "AAC, 256 kb/s",
    "opus": "Opus, 160 kb/s",
    "pcm-16": "PCM, 16 bit",
    "pcm-24": "PCM, 24 bit",
    "none": "none",
}


class ProfileOffer(Value):
    """A profile, for whoever offers it."""

    name: str
    depths: tuple[Depth, ...]


class SoundOffer(Value):
    """A way to write sound."""

    name: SoundName
    title: str


class QualityOffer(Value):
    """A plain word for quality, and the number it stands for."""

    word: str
    number: str


class FileOffer(Value):
    """A kind of file, for whoever offers it: what it allows and no more.

    Attributes:
        kind, title: its name in settings, and what people call it.
        profiles: with the depths of each; one without a name where there is no choice.
        sounds: what its sound can be.
        qualities: in words; none where a profile says it all.
        scale: what the numbers behind the words are called.
        rated: whether a bit rate can be asked for.
        least_rate, most_rate: in kilobits a second.
        most_number: the highest of the encoder's own numbers.
        capped: whether a ceiling, or one rate throughout, can be.
        two_passes: whether a clip can be measured first, so that the rate goes where it is needed.
        alpha: whether it can hold the picture alone, with what is transparent.
    """

    kind: KindName
    title: str
    profiles: tuple[ProfileOffer, ...]
    sounds: tuple[SoundOffer, ...]
    qualities: tuple[QualityOffer, ...]
    scale: str
    rated: bool
    least_rate: int
    most_rate: int
    most_number: int
    capped: bool
    two_passes: bool
    alpha: bool


def offered_files() -> tuple[FileOffer, ...]:
    """Every kind, in the order offered."""
    return tuple(_offer(kind) for kind in OUTPUT_FORMATS.values())


def _offer(kind: OutputFormat) -> FileOffer:
    scale = next(iter(kind.quality["high"]), "") if kind.quality else ""
    qualities = [QualityOffer(word=word, number=kind.quality[word][scale]) for word in QUALITY_WORDS if kind.quality]
    return FileOffer(
        kind=kind.name,
        title=kind.title,
        profiles=tuple(ProfileOffer(name=one.name, depths=tuple(one.formats)) for one in kind.profiles),
        sounds=tuple(SoundOffer(name=name, title=SOUNDS[name]) for name in kind.sounds),
        qualities=tuple(qualities),
        scale=scale.replace("global_", "").replace("_", " "),
        rated=kind.rated,
        least_rate=LEAST_KBPS,
        most_rate=MOST_KBPS,
        most_number=MOST_NUMBER,
        capped=kind.capped,
        two_passes=kind.two_passes,
        alpha=kind.alpha,
    )


def settings_summary(frame: Frame, settings: Settings) -> str:
    """A file in few words, with the size it will have: "MP4, H.264, 1920×1080"."""
    written = frame_written(frame, settings)
    profile = f" {settings.profile}" if settings.profile else ""
    colour = {"bt2020": ", BT.2020", "hlg": ", HLG", "pq": ", PQ"}.get(frame.colour, "")
    fields = "" if frame.fields == "progressive" else f", in fields, {wording(frame.fields)}"
    return f"{OUTPUT_FORMATS[settings.kind].title}{profile}, {written.width}×{written.height}{colour}{fields}"


class BarsChoice(Value):
    """What a file of a frame with an active picture can hold, to be drawn as outlines; all in pixels.

    Attributes:
        width, height: of the whole frame, with its bars.
        left, top: of the active picture in it.
        inner_width, inner_height: of a file that is exactly the active picture.
        summary: how large the bars are.
        decided: whether somebody has said which it is.
    """

    width: int
    height: int
    left: int
    top: int
    inner_width: int
    inner_height: int
    summary: str
    decided: bool


def bars_choice(frame: Frame, settings: Settings) -> BarsChoice | None:
    """What there is to choose; None for a frame without bars of its own."""
    if not frame.has_bars:
        return None
    inner = frame.drawn_rect
    left, top, width, height = (int(side) for side in (inner.x, inner.y, inner.width, inner.height))
    sides = {"left": left, "right": frame.width - left - width, "above": top, "below": frame.height - top - height}
    return BarsChoice(
        width=frame.width,
        height=frame.height,
        left=left,
        top=top,
        inner_width=width,
        inner_height=height,
        summary=", ".join(f"{size} {side}" for side, size in sides.items() if size) or "none",
        decided=settings.bars != "undecided",
    )


class Fitting(Value):
    """How a clip is fitted into a frame's own rate.

    Attributes:
        summary: in a line.
        where: every frame that is repeated and every picture that is dropped, as far as they are listed.
    """

    summary: str
    where: tuple[str, ...] = ()


MOST_PLACES = 200


def fitting_of(request: RenderRequest) -> Fitting | None:
    """How a request's clip is fitted; None where every picture comes as it is.

    Raises:
        BadRequest: it cannot be. MissingSource, UnreadableFile: its pictures cannot be counted.
    """
    timing = request.timing
    if timing.kept:
        return None
    rates = f"{_rate(timing.own)}{' varying' if timing.varies else ''} to {_rate(timing.info.rate)} frames a second"
    if timing.speed != 1:
        return Fitting(summary=f"{rates}: it runs {float(timing.speed):.4f} times as fast, at its own pitch")
    if timing.blended:
        return Fitting(summary=f"{rates}: neighbours are blended")
    found = fitted(timing, request.picture_times)
    summary = f"{rates}: {len(found.repeated)} frames repeated, {len(found.dropped)} pictures dropped"
    places = [
        *(f"{_clock(number / timing.info.rate)} frame {number} repeated" for number in found.repeated),
        *(f"{_clock(number / timing.own)} picture {number} dropped" for number in found.dropped),
    ]
    return Fitting(summary=summary, where=tuple(sorted(places)[:MOST_PLACES]))


def _rate(rate: Fraction) -> str:
    return f"{float(rate):.3f}".rstrip("0").rstrip(".")


def _clock(seconds: Fraction) -> str:
    """Hours, minutes and seconds of the file, so written that text sorts by time."""
    minutes, rest = divmod(float(seconds), 60)
    return f"{int(minutes) // 60}:{int(minutes) % 60:02}:{rest:06.3f}"
