"""What people see before they render framings: how each frame's files are written, and what may not be meant so."""

import hashlib
from collections.abc import Iterable
from dataclasses import dataclass, field
from fractions import Fraction
from statistics import median

from cadrage.compose.concerns import REASONS, Concern
from cadrage.errors import CadrageError
from cadrage.output import Settings
from cadrage.plan import Plan
from cadrage.render import RenderRequest, stated
from cadrage.render.review import FILE_REASONS, FileConcern, FileFact, Fix, file_concerns, file_facts
from cadrage.wording import wording
from server.studio.actions.renders import check_renderable, request_of
from server.studio.models import Framing, ProjectFrame, Render
from server.studio.models.render import delivered_name

MAX_PLACES = 20
"""Framings that a notice lists; of further ones it gives only the number."""

SPEED_SAMPLES = 10
"""Finished renders from which the time of others is estimated: enough for a median that one slow clip does not move."""


@dataclass(frozen=True, slots=True)
class Place:
    """A framing that a notice is about; `summary` has its numbers in a few words."""

    framing: int
    frame: int
    clip: str
    into: str
    summary: str


@dataclass(slots=True)
class Notice:
    """One reason to look at some of the files.

    Attributes:
        reason, title: which.
        blocks: whether it stops the render.
        wrong: whether something is lost or wrong, and not only to be looked at.
        remedy: what to do about it.
        fix: a change of the frames' file settings that settles it, if there is one.
        places: the first framings it is about.
        count: the number of all of them.
    """

    reason: str
    title: str
    blocks: bool
    wrong: bool
    remedy: str
    fix: Fix | None
    places: list[Place]
    count: int

    def add(self, place: Place) -> None:
        """Count a framing."""
        self.count += 1
        if self.count <= MAX_PLACES:
            self.places.append(place)


@dataclass(slots=True)
class FrameFiles:
    """The files of one frame.

    Attributes:
        row: the frame.
        framings: of which they are made; `name` and `first_seconds` are those of the first one's file.
        seconds: how long they last together.
        bytes: how large they are together by the rate that was asked for; None if quality decides.
        expected_seconds: how long rendering them takes at the speed of the last renders; None before there were any.
        rates: at which they are delivered, frames a second.
        partial: whether one of them is only a part of its clip.
    """

    row: ProjectFrame
    name: str
    framings: list[int] = field(default_factory=list)
    first_seconds: Fraction = Fraction(0)
    seconds: Fraction = Fraction(0)
    bytes: int | None = 0
    frames: int = 0
    expected_seconds: float | None = None
    rates: set[Fraction] = field(default_factory=set)
    partial: bool = False

    @property
    def facts(self) -> tuple[FileFact, ...]:
        """How they are written."""
        return file_facts(self.row.value, self.row.settings, self.rates, partial=self.partial)


@dataclass(frozen=True, slots=True)
class Review:
    """Everything about some framings that should be seen before they are rendered.

    Attributes:
        files: by frame, in the order of the project.
        notices: what stops the render first, then what is wrong, then the rest.
        fingerprint: the same as long as neither files nor notices change.
    """

    files: list[FrameFiles]
    notices: list[Notice]
    fingerprint: str


def review(rows: Iterable[tuple[Framing, Plan, list[Concern]]], presets: list[Settings]) -> Review:
    """Review framings before they are rendered.

    Args:
        rows: the framings, with their plans and the board's reasons to look at them.
        presets: the file settings that people can choose by name.
    """
    files: dict[int, FrameFiles] = {}
    notices: dict[tuple[str, str, str], Notice] = {}
    speed = _pixels_per_second()
    for framing, plan, concerns in rows:
        row, settings = framing.frame, framing.frame.settings
        if row.pk not in files:
            files[row.pk] = FrameFiles(row, delivered_name(framing, plan.frame, settings))
        request = request_of(plan, settings, framing.footage)
        _count(files[row.pk], framing, request, speed)
        for notice, summary in _notices(framing, request, concerns, presets):
            files[row.pk].partial |= notice.reason == "part"
            place = Place(framing.pk, row.pk, framing.footage.name, plan.frame.name, summary)
            notices.setdefault((notice.reason, notice.remedy, repr(notice.fix)), notice).add(place)
    by_frame = sorted(files.values(), key=lambda one: (one.row.rank is None, one.row.rank or 0, one.row.pk))
    ordered = sorted(notices.values(), key=lambda one: (not one.blocks, not one.wrong))
    return Review(by_frame, ordered, _fingerprint(by_frame, ordered))


def _count(files: FrameFiles, framing: Framing, request: RenderRequest, speed: float | None) -> None:
    """Add a framing's file to those of its frame; one that cannot be made has no length and no size."""
    files.framings.append(framing.pk)
    try:
        lasts, size = request.wanted, stated(request)
    except CadrageError:
        return
    if len(files.framings) == 1:
        files.first_seconds = lasts.duration
    files.seconds += lasts.duration
    files.rates.add(lasts.rate)
    files.frames += lasts.frames
    files.bytes = None if size is None or files.bytes is None else files.bytes + size.bytes
    if speed:
        files.expected_seconds = files.frames * request.plan.frame.width * request.plan.frame.height / speed


def _pixels_per_second() -> float | None:
    """The median speed of the last finished renders, of all projects; None if there were none."""
    done = Render.objects.filter(state=Render.State.DONE, frames_per_second__gt=0)[:SPEED_SAMPLES]
    speeds = [row.frames_per_second * row.plan.frame.width * row.plan.frame.height for row in done]
    return median(speeds) if speeds else None


def _notices(
    framing: Framing, request: RenderRequest, concerns: list[Concern], presets: list[Settings]
) -> Iterable[tuple[Notice, str]]:
    """Every reason to look at one framing's file, with its numbers."""
    for one in file_concerns(request, lambda: check_renderable(framing, request.plan)):
        yield _of_file(one), one.summary
    for concern in concerns:
        yield _notice(concern.reason, REASONS[concern.reason], wrong=concern.wrong), concern.summary
    if (preset := left_preset(framing.frame.settings, presets)) is not None:
        fix = Fix(label="Use the preset", settings=preset.model_dump(mode="json"))
        notice = _notice("preset", "File settings differ from their preset", fix=fix)
        yield notice, f"“{preset.name}”: other {_differences(framing.frame.settings, preset)}"


def _of_file(one: FileConcern) -> Notice:
    title = FILE_REASONS[one.reason]
    return _notice(one.reason, title, blocks=one.blocks, wrong=one.blocks, remedy=one.remedy, fix=one.fix)


def _notice(
    reason: str, title: str, *, blocks: bool = False, wrong: bool = False, remedy: str = "", fix: Fix | None = None
) -> Notice:
    """A notice that is about no framing yet."""
    return Notice(reason, title, blocks, wrong, remedy, fix, places=[], count=0)


def left_preset(settings: Settings, presets: list[Settings]) -> Settings | None:
    """Return the preset whose name file settings have without having its values; None if they have them."""
    named = [one for one in presets if one.name == settings.name]
    return named[-1] if named and settings not in named else None


def _differences(settings: Settings, preset: Settings) -> str:
    names = [name for name in type(settings).model_fields if getattr(settings, name) != getattr(preset, name)]
    return ", ".join(wording(name) for name in names)


def _fingerprint(files: list[FrameFiles], notices: list[Notice]) -> str:
    parts = [(one.row.pk, one.facts, one.framings, one.seconds) for one in files]
    told = [(one.reason, one.count, one.places) for one in notices]
    return hashlib.sha256(repr((parts, told)).encode()).hexdigest()
