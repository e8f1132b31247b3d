"""Kinds of file and their settings, for interfaces."""

from fractions import Fraction

from cadrage.fields import Setting
from cadrage.formats import Frame
from cadrage.output.file_settings import file_settings
from cadrage.output.kinds import OUTPUT_FORMATS, KindName
from cadrage.output.settings import Settings
from cadrage.render.frame_timing import fitted
from cadrage.render.request import RenderRequest, frame_written
from cadrage.values import Value, format_rate
from cadrage.wording import wording

PLAYABLE: frozenset[KindName] = frozenset(("mp4-h264", "mov-h264", "webm-vp9", "webm-av1"))
"""Kinds that browsers play (common practice, no source)."""


class FileOffer(Value):
    """A kind of file: its settings, in the order in which they are shown."""

    kind: KindName
    settings: tuple[Setting, ...]


def offered_files() -> tuple[FileOffer, ...]:
    """Every kind, in the order offered."""
    return tuple(FileOffer(kind=kind.name, settings=file_settings(kind)) for kind in OUTPUT_FORMATS.values())


def settings_summary(frame: Frame, settings: Settings) -> str:
    """A file in few words, with the size it will have: "MP4, H.264, 1920×1080"."""
    written = frame_written(frame, settings)
    profile = f" {settings.profile}" if settings.profile else ""
    colour = {"bt2020": ", BT.2020", "hlg": ", HLG", "pq": ", PQ"}.get(frame.colour, "")
    fields = "" if frame.fields == "progressive" else f", in fields, {wording(frame.fields)}"
    return f"{OUTPUT_FORMATS[settings.kind].title}{profile}, {written.width}×{written.height}{colour}{fields}"


class BarsChoice(Value):
    """The two possible contents of a file whose frame has an active picture, for outlines; all in pixels.

    Attributes:
        width, height: of the whole frame, with its bars.
        left, top: of the active picture in it.
        inner_width, inner_height: of a file that is exactly the active picture.
        summary: how large the bars are.
        decided: whether one of them is chosen.
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
    """Return the choice of bars of a frame; None if its file has no bars."""
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
    own = format_rate(timing.own) + (" varying" if timing.varies else "")
    rates = f"{own} to {format_rate(timing.info.rate)} frames a second"
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


def _clock(seconds: Fraction) -> str:
    """Hours, minutes and seconds of the file, so written that text sorts by time."""
    minutes, rest = divmod(float(seconds), 60)
    return f"{int(minutes) // 60}:{int(minutes) % 60:02}:{rest:06.3f}"
