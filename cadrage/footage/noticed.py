"""From what going through a file showed to what people are told of it."""

from collections.abc import Iterator
from fractions import Fraction

from av.container import InputContainer
from av.sidedata.sidedata import Type
from av.video.frame import VideoFrame

from cadrage.footage.container import demuxer_of
from cadrage.footage.findings import Finding, FindingKind, limited, stretches, together
from cadrage.footage.scan import Scan
from cadrage.footage.timing import Timing
from cadrage.footage.turning import DisplayTurn

HOLDING = ("avi",)  # containers in which an empty place lets the picture before it stay
STATED = ("mov", "matroska", "avi", "flv", "asf", "mxf")
"""Containers whose header says how long they last; of others that is worked out from their last packets."""
SHORT_SECONDS, SHORT_SHARE = Fraction(1, 10), Fraction(1, 100)
"""A file that ends so much before its header says was cut short (tried out)."""


def noticed(
    container: InputContainer, found: Scan, timing: Timing, turned: DisplayTurn, duration: Fraction, pictures: int
) -> tuple[Finding, ...]:
    """Everything worth telling, in the order of time.

    Args:
        container: that was gone through.
        found: what that showed.
        timing: when its pictures come.
        turned: how they are turned.
        duration: of them, in seconds.
        pictures: how many streams of pictures there are.
    """
    return limited(
        [*_damage(container, found, timing, duration), *_oddities(container, found, turned, pictures), *_film(timing)]
    )


def _film(timing: Timing) -> list[Finding]:
    return [Finding(kind="film_by_flags")] if timing.film else []


def _damage(container: InputContainer, found: Scan, timing: Timing, duration: Fraction) -> list[Finding]:
    length = 1 / timing.rate
    made: list[Finding] = []
    if found.leading:
        made.append(Finding(kind="leading", count=found.leading))
    made += stretches("undecodable", _seconds(found, found.errors), length)
    made += stretches("concealed", _seconds(found, sorted(set(found.concealed))), length)
    kind: FindingKind = "held" if demuxer_of(container) in HOLDING and not found.errors else "missing"
    made += together(_hole(kind, number, count, found, timing) for number, count in timing.holes)
    for span in found.sounds:
        since = found.times[0] * found.tick
        made += stretches("sound_damaged", [time - since for time in span.errors if time >= since], length)
    if found.failed:
        made.append(Finding(kind="unreadable", start=duration, end=duration))
    if (missing := _missing_end(container, found, duration)) is not None:
        made.append(Finding(kind="cut_short", start=duration, end=duration + missing))
    return made


def _seconds(found: Scan, ticks: list[int]) -> list[Fraction]:
    """Moments from the first picture on; what comes before it was never to be seen."""
    first = found.times[0]
    return [(one - first) * found.tick for one in ticks if one >= first]


def _hole(kind: FindingKind, number: int, count: int, found: Scan, timing: Timing) -> Finding:
    start = (found.times[number] - found.times[0]) * found.tick + 1 / timing.rate
    return Finding(kind=kind, start=start, end=start + count / timing.rate, count=count)


def _missing_end(container: InputContainer, found: Scan, duration: Fraction) -> Fraction | None:
    """Seconds that are missing at the end of a file, by its header; None where it is all there."""
    if not found.complete or demuxer_of(container) not in STATED or not container.duration:
        return None
    begins = Fraction(container.start_time or 0, 1_000_000)
    ends = [found.times[0] * found.tick + duration, *(span.end for span in found.sounds if span.end is not None)]
    missing = begins + Fraction(container.duration, 1_000_000) - max(ends)
    return missing if missing > max(SHORT_SECONDS, duration * SHORT_SHARE) else None


def _oddities(container: InputContainer, found: Scan, turned: DisplayTurn, pictures: int) -> list[Finding]:
    since = found.times[0]
    made = [Finding(kind="clock_jumps", start=time - since * found.tick) for time in found.jumps]
    made += [change.model_copy(update={"start": (at - since) * found.tick}) for at, change in found.changes]
    if turned.degrees != turned.nearest:
        made.append(Finding(kind="turned_askew", told=str(turned.degrees)))
    if pictures > 1:
        made.append(Finding(kind="other_pictures", count=pictures - 1))
    undecodable_sound_tracks = len(container.streams.audio) - sum(span.start is not None for span in found.sounds)
    if undecodable_sound_tracks and found.complete:
        made.append(Finding(kind="sound_unknown", count=undecodable_sound_tracks))
    undecodable_subtitles = sum(one.type == "subtitle" and one.codec_context is None for one in container.streams)
    if undecodable_subtitles:
        made.append(Finding(kind="subtitles_unknown", count=undecodable_subtitles))
    return made if found.first is None else [*made, *_carried_by_picture(found.first)]


def _carried_by_picture(first: VideoFrame) -> Iterator[Finding]:
    """What rides on the pictures of a broadcast stream and is not carried into a file."""
    if first.side_data.get(Type.A53_CC) is not None:  # type: ignore[call-overload]
        yield Finding(kind="captions_in_picture")
    description = first.side_data.get(Type.AFD)  # type: ignore[call-overload]
    if description is not None:
        yield Finding(kind="active_format", told=f"{bytes(description)[0] & 0x0F:04b}")
