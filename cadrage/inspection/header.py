"""What a file says of itself, held against what was asked for."""

from collections.abc import Iterator
from fractions import Fraction

from cadrage.compose.target import target_colour
from cadrage.footage import MediaInfo, SoundInfo, effective_timing
from cadrage.inspection.report import Line, line, milliseconds, same, seconds
from cadrage.render.encoder import stored_colour, tagged
from cadrage.render.request import RenderRequest
from cadrage.render.sound import kept, whole_sound
from cadrage.values import format_exact

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
    "png": "png",
}
"""What FFmpeg's libraries call what each encoder makes."""

AAC_FRAME = 1024  # samples, ISO/IEC 14496-3; sound that was encoded anew is padded to whole frames of these


NO_CODE = "00:00:00:00"
STRETCHED_SLACK = Fraction(1, 20)  # seconds; sound that runs faster or slower is put together from pieces about so long


def header_lines(found: MediaInfo, request: RenderRequest | None) -> Iterator[Line]:
    """Every line about what a file says of itself; stills say nothing of time, sound and meaning of colour."""
    yield from _kind_lines(found, request)
    yield from _shape_lines(found, request)
    if request is not None and request.encoder_config.kind.folder:
        yield same("Stills", str(request.wanted.frames), str(found.frames), "Render again; stills are missing.")
        return
    yield from _time_lines(found, request)
    yield from _field_lines(found, request)
    yield from _code_lines(found, request)
    yield from _sound_lines(found, request)
    yield from _subtitle_lines(found, request)
    yield from _colour_lines(found, request)


def _kind_lines(found: MediaInfo, request: RenderRequest | None) -> Iterator[Line]:
    writing = request.encoder_config if request else None
    again = "Render again with the settings that were meant."
    yield same("Codec", CODECS[writing.kind.encoder] if writing else None, found.codec, again)
    asked = None if writing is None else writing.format.resolve or writing.format.name
    yield same("Samples", asked, found.pixel_format, again)


def _shape_lines(found: MediaInfo, request: RenderRequest | None) -> Iterator[Line]:
    frame = request.written.frame if request else None
    size, shape = f"{found.width}×{found.height}", format_exact(found.pixel_aspect or Fraction(1))
    yield same(
        "Size", f"{frame.width}×{frame.height}" if frame else None, size, "Render again into the frame that was meant."
    )
    yield same(
        "Pixel aspect",
        format_exact(frame.pixel_aspect) if frame else None,
        shape,
        "Render again; players would squeeze this.",
    )


def _time_lines(found: MediaInfo, request: RenderRequest | None) -> Iterator[Line]:
    asked = request.wanted if request else None
    varies = asked is not None and asked.rate_varies  # then every picture's own time is looked at, see `times_line`
    rate = _rate(asked) if asked and not varies else None
    yield same("Rate", rate, _rate(found), "Render again; the rate came out otherwise.")
    counted = request is not None and not (request.timing.varies and not request.plan.range.whole)
    frames = str(asked.frames) if asked and counted else None
    yield same("Frames", frames, str(found.frames), "Render again; frames are missing.")
    near = asked is not None and abs(asked.duration - found.duration) <= 1 / found.rate
    yield line(
        "Picture lasts",
        seconds(asked.duration) if asked else None,
        seconds(found.duration),
        near,
        "Render again; the clip may have changed.",
    )


def _subtitle_lines(found: MediaInfo, request: RenderRequest | None) -> Iterator[Line]:
    asked = request.subtitles if request else ()
    if asked or found.subtitles:
        wanted = str(len(asked)) if request else None
        yield same("Subtitle tracks", wanted, str(len(found.subtitles)), "Render again; subtitles are missing.")


def _field_lines(found: MediaInfo, request: RenderRequest | None) -> Iterator[Line]:
    """Of what is or should be in fields, their order; files of whole pictures often say nothing."""
    asked = request.written.frame.fields if request else None
    shown = "progressive" if found.field_order == "unknown" else found.field_order
    if (asked or shown) != "progressive" or shown != "progressive":
        yield same("Fields", asked, shown, "Render again; fields would be shown in the wrong order, or as combs.")


def _code_lines(found: MediaInfo, request: RenderRequest | None) -> Iterator[Line]:
    asked = None if request is None else request.timecode
    shown = found.timecode
    if request is not None and asked is None and request.encoder_config.kind.muxer == "mxf" and shown == NO_CODE:
        shown = ""  # which its writer puts where nothing is said
    if asked is not None or shown:
        wanted = None if request is None else "none" if asked is None else str(asked)
        yield same("Time code", wanted, shown or "none", "Render again; it begins at another time code.")


def _rate(info: MediaInfo) -> str:
    number = format_exact(info.rate)
    return f"{number} varying" if info.rate_varies else number


def _sound_lines(found: MediaInfo, request: RenderRequest | None) -> Iterator[Line]:
    asked = None if request is None else request.sounds
    yield same("Sound streams", None if asked is None else str(len(asked)), str(len(found.sounds)), "Render again.")
    for number, sound in enumerate(found.sounds):
        source = asked[number] if asked and number < len(asked) else None
        wanted = _delivered(source, request) if source and request else None
        yield line(
            "Sound begins",
            f"{milliseconds(wanted.start)} after the picture" if wanted else None,
            f"{milliseconds(sound.start)} after the picture",
            wanted is not None and abs(wanted.start - sound.start) <= SYNC_SECONDS,
            "Render again; sound and picture have moved apart.",
        )
        if sound.duration is None or (wanted and wanted.duration is None):
            continue
        carried = source is not None and request is not None and whole_sound(request) and kept(request, source)
        slack = SYNC_SECONDS if carried else Fraction(2 * AAC_FRAME, sound.rate)
        if request is not None and request.timing.speed != 1:
            slack = STRETCHED_SLACK
        yield from _ending(found, sound, request, wanted, slack)


def _ending(
    found: MediaInfo, sound: SoundInfo, request: RenderRequest | None, wanted: SoundInfo | None, slack: Fraction
) -> Iterator[Line]:
    lasts, length = (wanted.duration if wanted else None) or Fraction(0), sound.duration or Fraction(0)
    yield line(
        "Sound lasts",
        seconds(lasts) if wanted else None,
        seconds(length),
        abs(lasts - length) <= slack,
        "Render again; the sound was cut or drawn out.",
    )
    over = sound.start + length - found.duration
    meant = wanted.start + lasts - request.wanted.duration if wanted and request else None
    yield line(
        "Sound ends",
        None if meant is None else f"{milliseconds(meant)} after the picture",
        f"{milliseconds(over)} after the picture",
        meant is not None and abs(meant - over) <= slack + 1 / found.rate,
        "Render again; sound and picture have moved apart.",
    )


def _delivered(sound: SoundInfo, request: RenderRequest) -> SoundInfo:
    """When the sound of a clip begins and how long it lasts in the file."""
    if whole_sound(request) and kept(request, sound):
        return sound
    timing, own = request.timing, effective_timing(request.info, request.plan.interpretation).duration
    first, last = timing.start, timing.start + timing.info.duration * timing.speed
    lasts = sound.duration
    if lasts is not None:
        ends = sound.start + lasts
        heard = (ends if last >= own else min(ends, last)) - first
        # Silence stands before what begins late, and throughout where there is no sound in a range.
        lasts = (heard if heard > 0 and sound.start < last else last - first) / timing.speed
    return sound.model_copy(update={"start": Fraction(0), "duration": lasts})


def _colour_lines(found: MediaInfo, request: RenderRequest | None) -> Iterator[Line]:
    asked = None
    if request:
        own = target_colour(request.written.frame)
        asked = tagged(stored_colour(request.encoder_config, own), request.encoder_config)
    tags = (found.matrix, found.primaries, found.transfer)
    wanted = (asked.matrix_code, asked.primaries, asked.transfer) if asked else None
    yield line(
        "Matrix, primaries, transfer (H.273)",
        "/".join(map(str, wanted)) if wanted else None,
        "/".join(map(str, tags)),
        wanted is not None and _meaning(*tags) == _meaning(*wanted),
        "Render again; colours would be shown wrongly.",
    )
    span = "full" if found.full_range else "limited"
    yield same(
        "Range",
        ("full" if asked.full_range else "limited") if asked else None,
        span,
        "Render again; blacks would be grey or crushed.",
    )


def _meaning(matrix: int, primaries: int, transfer: int) -> tuple[int, int, int]:
    """Codes of ITU-T H.273 with one for those that stand for the same arithmetic: tables 3 and 4 say which do."""
    return (6 if matrix == 5 else matrix), primaries, (1 if transfer in (6, 14, 15) else transfer)
