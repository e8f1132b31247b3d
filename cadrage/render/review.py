"""What an editor should see before a file is rendered: how it will be written, and what may not be meant so."""

from collections.abc import Callable, Collection
from fractions import Fraction
from typing import Literal

from cadrage.compose.following import unsolved
from cadrage.errors import CadrageError
from cadrage.fields import Scalar
from cadrage.footage import effective_timing
from cadrage.formats import Frame
from cadrage.output.file_settings import title_of
from cadrage.output.kinds import OUTPUT_FORMATS
from cadrage.output.settings import Settings, check_undamaged
from cadrage.render.offers import bars_choice
from cadrage.render.request import RenderRequest, frame_written
from cadrage.values import Value, format_rate

FileReason = Literal[
    "refused", "bars_undecided", "bars_burned_in", "size", "part", "range_ignored", "unsolved", "sound"
]

FILE_REASONS: dict[FileReason, str] = {
    "refused": "Cannot be rendered",
    "bars_undecided": "Bars in the file, or not",
    "bars_burned_in": "Bars burned in",
    "size": "The file's size is not the frame's",
    "part": "Part of the clip only",
    "range_ignored": "Whole clip, although a range is marked",
    "unsolved": "Follows a subject that was not found",
    "sound": "Sound is converted",
}
"""Every reason to look at a file before it is rendered, and its title."""

BLOCKING: frozenset[FileReason] = frozenset({"refused", "bars_undecided"})
"""Reasons that stop a render."""


class Fix(Value):
    """A change of a frame's file settings that settles a concern: what a button says, and the values it sets."""

    label: str
    settings: dict[str, Scalar]


class FileConcern(Value):
    """One reason to look at a file before it is rendered.

    Attributes:
        reason: which.
        summary: in a few words, with its numbers.
        remedy: what to do about it; empty where the title says it.
        fix: a change that settles it; None if there is no single one.
    """

    reason: FileReason
    summary: str
    remedy: str = ""
    fix: Fix | None = None

    @property
    def blocks(self) -> bool:
        """Whether nothing is rendered before it is settled."""
        return self.reason in BLOCKING


class FileFact(Value):
    """One line about a file: its label and its value, in words."""

    label: str
    value: str


def file_facts(
    frame: Frame, settings: Settings, rates: Collection[Fraction] = (), *, partial: bool = False
) -> tuple[FileFact, ...]:
    """How the files of a frame are written, in the order in which an editor reads it.

    Args:
        frame: of all the files.
        settings: of all the files.
        rates: at which they are delivered, frames a second; unknown unless given.
        partial: whether one of them is only a part of its clip.
    """
    written = frame_written(frame, settings)
    rates = sorted(set(rates)) if frame.rate is None else [frame.rate]
    facts = [
        ("Size", f"{written.width}×{written.height}"),
        ("Frame rate", f"{', '.join(map(format_rate, rates))} fps" if rates else "as each clip"),
        ("Range", "as marked" if partial else "whole clip"),
        ("Sound", _sound(settings)),
        ("Bars", _bars(frame, settings)),
        ("Format", " ".join(filter(None, (OUTPUT_FORMATS[settings.kind].title, settings.profile)))),
        ("Rate control", _amount(settings)),
    ]
    return tuple(FileFact(label=label, value=value) for label, value in facts)


def _sound(settings: Settings) -> str:
    if settings.sound == "none":
        return "none"
    parts = [title_of(settings, "sound")]
    parts += ["stereo"] if settings.stereo else []
    parts += [] if settings.loudness is None else [f"{settings.loudness:g} LUFS"]
    return ", ".join(parts)


def _bars(frame: Frame, settings: Settings) -> str:
    if not frame.has_bars or settings.bars == "active_picture_only":
        return "none"
    return "undecided" if settings.bars == "undecided" else "burned in"


def _amount(settings: Settings) -> str:
    """What decides how much is written."""
    if not OUTPUT_FORMATS[settings.kind].quality:
        return "by the profile"
    if settings.rate_control == "quality":
        value = title_of(settings, "quality") if settings.number is None else f"value {settings.number}"
        return f"constant quality, {value}"
    ceiling = f", at most {settings.ceiling} kb/s" if settings.ceiling else ""
    return f"{title_of(settings, 'rate_control')}, {settings.rate} kb/s{ceiling}"


def file_concerns(request: RenderRequest, check: Callable[[], object] = lambda: None) -> tuple[FileConcern, ...]:
    """Return all reasons to look at a file before it is rendered.

    Args:
        request: the file.
        check: raises an error that would refuse the render for other reasons than bars, damage or the settings.
    """
    frame, settings = request.plan.frame, request.settings
    found = [*_of_bars(frame, settings)]
    try:
        check()
        check_undamaged(settings, request.info, request.clip or request.source.name)
        found += [*_of_range(request), *_of_sound(request)]
    except CadrageError as problem:
        found.append(FileConcern(reason="refused", summary=problem.problem, remedy=problem.remedy))
    if unsolved(request.plan):
        summary = "the window does not move"
        found.append(FileConcern(reason="unsolved", summary=summary, remedy="Choose a subject, or another movement."))
    return tuple(found)


def _of_bars(frame: Frame, settings: Settings) -> list[FileConcern]:
    choice = bars_choice(frame, settings)
    if choice is None:
        return []
    active, whole = f"{choice.inner_width}×{choice.inner_height}", f"{frame.width}×{frame.height}"
    if settings.bars == "undecided":
        summary = f"the active picture of {active} is smaller than the frame of {whole}"
        return [FileConcern(reason="bars_undecided", summary=summary, remedy="Choose what the file holds.")]
    if settings.bars == "whole_frame":
        fix = Fix(label="Leave the bars out", settings={"bars": "active_picture_only"})
        return [FileConcern(reason="bars_burned_in", summary=f"{choice.summary} px around {active}", fix=fix)]
    fix = Fix(label="Burn the bars in", settings={"bars": "whole_frame"})
    return [FileConcern(reason="size", summary=f"{active} instead of {whole}", fix=fix)]


def _of_range(request: RenderRequest) -> list[FileConcern]:
    """A range that is shorter than the clip, or that is marked and not used."""
    lasts = effective_timing(request.info, request.plan.interpretation).duration
    length = request.plan.range.length(lasts)
    if request.info.kind != "clip" or length >= lasts:
        return []
    summary = f"{format_rate(length)} s of {format_rate(lasts)} s"
    if request.settings.range == "as_marked":
        fix = Fix(label="Render the whole clip", settings={"range": "whole_clip"})
        return [FileConcern(reason="part", summary=summary, fix=fix)]
    fix = Fix(label="Render the marked range", settings={"range": "as_marked"})
    return [FileConcern(reason="range_ignored", summary=summary, fix=fix)]


def _of_sound(request: RenderRequest) -> list[FileConcern]:
    converted = sound_conversion(request)
    title = request.encoder_config.kind.title
    return [FileConcern(reason="sound", summary=f"{title} cannot hold it as it is: {converted}")] if converted else []


def sound_conversion(request: RenderRequest) -> str | None:
    """Words for what happens to sound that the file cannot hold as it is; None if all is kept or wanted otherwise."""
    converted = request.converted_sound
    if converted is None or not request.info.sounds:
        return None
    return "left out" if converted == "none" else f"written as {converted}"
