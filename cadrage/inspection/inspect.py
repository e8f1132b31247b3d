"""Opening a written file again and measuring what came out."""

from collections.abc import Iterator
from contextlib import suppress
from fractions import Fraction
from pathlib import Path

from cadrage.compose.colour_summary import conversion_summary
from cadrage.compose.layers import coverage, layer_plan
from cadrage.errors import CadrageError
from cadrage.footage import MediaInfo, picture_times, probe, resolve
from cadrage.footage.describe import finding_message
from cadrage.inspection.amounts import amount_of
from cadrage.inspection.bars import Brightness
from cadrage.inspection.coverage import covered_share
from cadrage.inspection.header import header_lines
from cadrage.inspection.hearing import heard_lines
from cadrage.inspection.likeness import likeness_lines
from cadrage.inspection.loudness_lines import loudness_lines
from cadrage.inspection.registration import register
from cadrage.inspection.report import Line, line, measured, milliseconds, same
from cadrage.inspection.watching import Moment, Watched, moments, unasked, watch
from cadrage.output.rate_control import fills_up
from cadrage.render.frame_timing import fitted
from cadrage.render.request import RenderRequest
from cadrage.values import Value

SAMPLES = 5  # moments at which bars and placement are looked for
NARROWEST_BAR = 0.02  # of the shorter side of a clip's picture, below which black at its edge is not worth a line
NEAR_PIXELS = 1.0
NEAR_COVERAGE = 0.005
NEAR_SECONDS = Fraction(1, 1000)
OVER_RATE = 1.1  # of a mean rate that was asked for; less is right, where the pictures need no more
EVEN_RATE = 1.05  # of a rate that is the same throughout, on average
UNEVEN = 0.35  # of it that one second may have more or less: what the decoder's buffer evens out
SHORTEST_RATED = 4.0  # seconds, below which a mean rate says little
MOST_NAMED = 5


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


def inspect_file(path: Path, request: RenderRequest | None = None) -> Inspection:
    """Measure a file, and hold it against what was asked for, where there is one.

    Raises:
        MissingSource, UnreadableFile, NoPicture, RasterOutOfRange: the file cannot be read at all.
    """
    found = probe(path)
    lines = [*header_lines(found, request), *_pixel_lines(path, found, request), *_stream_lines(path, found, request)]
    lines += _source_lines(request)
    return Inspection(file=path.name, lines=tuple(lines), right=all(one.verdict != "wrong" for one in lines))


def _source_lines(request: RenderRequest | None) -> Iterator[Line]:
    """What somebody should know of the clip, though the file is right."""
    if request is None:
        return
    if request.converted_sound is not None and request.info.sounds:
        yield measured(
            "Sound",
            f"written as {request.converted_sound}: {request.encoder_config.kind.title} cannot keep it as it is",
        )
    colour = conversion_summary(resolve(request.info, request.plan.interpretation).colour, request.plan.frame)
    if colour:
        yield measured("Colours of the clip", colour)
    damage = [finding_message(one, request.info.rate) for one in request.info.damage]
    if damage:
        more = f", and {len(damage) - MOST_NAMED} more" if len(damage) > MOST_NAMED else ""
        yield measured("Damage in the source", "; ".join(damage[:MOST_NAMED]) + more)


def _pixel_lines(path: Path, found: MediaInfo, request: RenderRequest | None) -> Iterator[Line]:
    """What the pictures themselves show."""
    looked = moments(request, path, found, SAMPLES)
    if (
        request is None or not request.encoder_config.format.alpha
    ):  # what is transparent is neither black nor anything else
        yield _bars_line(looked, request)
    if request is not None:
        yield from _source_bars_lines(looked, request)
    if request is not None and not request.encoder_config.format.alpha:
        yield from likeness_lines(looked, damaged=bool(request.info.damage))
    if request is not None and request.settings.layer != "surround_alone":
        yield _placement_line(looked, request)
    if request is not None and request.encoder_config.format.alpha:
        yield _coverage_line(path, found, looked, request)
    if request is not None and request.timing.kept and request.timing.varies:
        yield _times_line(path, found, request)
    seen = watch(path, found)
    stated = str(found.frames) if request else None
    yield same("Frames decoded", stated, str(seen.frames), "Render again; some cannot be shown.")
    yield _range_line(found, seen)
    yield from _strange_lines(seen, request)
    if request is not None and not request.timing.kept:
        yield _fitting_line(request)


def _bars_line(looked: list[Moment], request: RenderRequest | None) -> Line:
    shown = Brightness.of(moment.frame for moment in looked)
    composed = [moment.composed for moment in looked if moment.composed is not None]
    asked = Brightness.of(composed) if request and composed else None
    return line(
        "Black bars",
        None if asked is None else str(asked.bars()),
        str(shown.bars()),
        asked is not None and shown.has_bars_of(asked),
        "The file has other black bars than the framing. Render it again into a frame of the picture's own shape.",
    )


def _source_bars_lines(looked: list[Moment], request: RenderRequest) -> Iterator[Line]:
    """Tell of black bars of the clip that nobody said anything of, and that are in the file as part of the picture."""
    stated = request.plan.interpretation
    taken = resolve(request.info, stated)
    sources = [one.source.rotated(taken.rotation).cut(taken.cut) for one in looked if one.source is not None]
    if stated.burned_in_bars is not None or not sources:
        return
    bars = Brightness.of(sources).bars()
    narrowest = min(sources[0].layout.width, sources[0].layout.height) * NARROWEST_BAR
    if max(bars.left, bars.right, bars.top, bars.bottom) >= narrowest:
        yield measured("Black bars of the clip", f"{bars}, left in the picture; crop them in Source, or with --as")


def _placement_line(looked: list[Moment], request: RenderRequest) -> Line:
    pairs = [(moment.source, moment.frame, moment.time) for moment in looked if moment.source is not None]
    shift = register(request.written, request.info, pairs)
    if shift is None:
        return measured("Picture position", "too plain to be told from its pixels")
    return line(
        "Picture position",
        "where the plan says, within 1 pixel",
        f"{shift.right:+.2f} and {shift.down:+.2f} pixels from there, in {shift.places} places",
        shift.distance <= NEAR_PIXELS,
        "Render again; the picture is not where it was placed.",
    )


def _coverage_line(path: Path, found: MediaInfo, looked: list[Moment], request: RenderRequest) -> Line:
    share = covered_share(path, found)
    first = next((moment for moment in looked if moment.source is not None), None)
    if first is None or first.source is None:
        return measured("Coverage", "none" if share is None else f"{share:.1%} of the frame")
    asked = float(
        coverage(
            layer_plan(request.written, "picture_alone"),
            first.source.layout,
            request.info,
            request.layout,
            request.timing.start,
        ).mean()
    )
    return line(
        "Coverage",
        f"{asked:.1%} of the frame",
        "none" if share is None else f"{share:.1%} of the frame",
        share is not None and abs(share - asked) <= NEAR_COVERAGE,
        "Render again; what is transparent was lost.",
    )


def _range_line(found: MediaInfo, seen: Watched) -> Line:
    """Codes that were really seen. A clip may have more than white in it, so that this is information."""
    low, high = seen.span
    top = 2 ** (seen.depth - 8)
    named = "0 to 255" if found.full_range else "16 to 235"
    return measured("Luma codes", f"{low / top:g} to {high / top:g} of {named}, counted in 8 bits")


def _strange_lines(seen: Watched, request: RenderRequest | None) -> Iterator[Line]:
    black, frozen = unasked(seen, request) if request else (seen.black, seen.frozen)
    for name, numbers in (("Black frames", black), ("Frozen frames", frozen)):
        if request is None:
            yield measured(name, _numbered(numbers))
            continue
        remedy = "Render again, and look at the worker's machine; the clip does not have these."
        yield line(name, "none that the clip does not have", _numbered(numbers), not numbers, remedy)


def _times_line(path: Path, found: MediaInfo, request: RenderRequest) -> Line:
    """Of a rate that varies, whether each picture comes when it comes in the clip."""
    shown, timing = picture_times(path, found), request.timing
    asked = [time - timing.start for time in request.picture_times or [] if time < timing.start + timing.info.duration]
    # The one that is on screen as a range begins comes at its start.
    since = max((number for number, time in enumerate(asked) if time <= 0), default=0)
    wanted = [max(time, Fraction(0)) for time in asked[since:]]
    far = max((abs(one - other) for one, other in zip(wanted, shown, strict=False)), default=Fraction(0))
    return line(
        "Times of pictures",
        f"{len(wanted)}, each as in the clip",
        f"{len(shown)}, up to {milliseconds(far)} off",
        len(wanted) == len(shown) and far <= NEAR_SECONDS,
        "Render again; pictures come at other times.",
    )


def _numbered(numbers: list[int]) -> str:
    if not numbers:
        return "none"
    named = ", ".join(map(str, numbers[:MOST_NAMED]))
    return f"{len(numbers)}: {named}{' and more' if len(numbers) > MOST_NAMED else ''}"


def _fitting_line(request: RenderRequest) -> Line:
    timing = request.timing
    if timing.speed != 1:
        return measured("Fitted to the rate", f"by running {float(timing.speed):.4f} times as fast")
    if timing.blended:
        return measured("Fitted to the rate", "by blending neighbours")
    found = fitted(timing, request.picture_times)
    repeated, dropped = _numbered(list(found.repeated)), _numbered(list(found.dropped))
    return measured("Fitted to the rate", f"frames repeated: {repeated}; pictures dropped: {dropped}")


def _stream_lines(path: Path, found: MediaInfo, request: RenderRequest | None) -> Iterator[Line]:
    """What the packets and the sound show."""
    if found.kind == "clip":
        yield _amount_line(path, found, request)
    if request is not None:
        with suppress(CadrageError):  # the clip need not be there any more
            yield from heard_lines(path, found, request)
    yield from loudness_lines(path, found, request)


def _amount_line(path: Path, found: MediaInfo, request: RenderRequest | None) -> Line:
    amount = amount_of(path, found)
    told = f"{amount.mean:,.0f} kb/s, {amount.highest:,.0f} in its fullest second"
    rate = request.encoder_config.bits_per_second if request else None
    if request is None or rate is None or found.duration < SHORTEST_RATED:
        return measured("Bit rate", told)
    asked = rate / 1000
    if request.settings.rate_control == "constant_rate":
        told += f", {amount.lowest:,.0f} in its emptiest"
        filled = not fills_up(request.encoder_config.kind) or amount.lowest >= asked * (1 - UNEVEN)
        near = amount.highest <= asked * (1 + UNEVEN) and filled and amount.mean <= asked * EVEN_RATE
        return line("Bit rate", f"{asked:,.0f} kb/s throughout", told, near, "Render again; the rate is not constant.")
    return line(
        "Bit rate",
        f"{asked:,.0f} kb/s",
        told,
        amount.mean <= asked * OVER_RATE,
        "Render again with a lower rate; the pictures need more than was allowed.",
    )
