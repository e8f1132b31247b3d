"""Closed captions (CEA-608) that a picture stream carries.

CEA-708 services are read through the CEA-608 bytes that broadcasters send along with them (ANSI/SCTE 128-1, 8.1; from
memory). Channel CC1 is read, which carries the language of the programme (common practice, no source).
"""

import re
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
from av.sidedata.sidedata import Type

from cadrage.analysis.base import Analysis, Found, NotFound, Outcome, Report, Subject, no_progress
from cadrage.footage import MediaInfo
from cadrage.footage.container import opened, picture_stream
from cadrage.lettering.captions import Cue, to_srt
from cadrage.values import Value

TICK = Fraction(1, 90_000)
OVERRIDE = re.compile(rb"\{[^}]*\}")  # of the Advanced SubStation Alpha text that the decoder returns
FIELDS_BEFORE_TEXT = 8
NO_CAPTIONS = "There are no closed captions (CEA-608) in this clip."


class CaptionsFound(Value):
    """Captions that were read.

    Attributes:
        count: how many there are.
        srt: all of them as a SubRip file.
    """

    count: int
    srt: str


class ClosedCaptionsAnalysis(Analysis[CaptionsFound]):
    """Reads the closed captions of a clip; all of it is decoded."""

    kind = "captions"
    slow = True
    on_request = True
    result = CaptionsFound

    def find(self, subject: Subject, report: Report = no_progress) -> Outcome[CaptionsFound]:
        """Read them."""
        cues = closed_captions(subject.path, subject.info, report)
        if not cues:
            return NotFound(NO_CAPTIONS)
        return Found(result=CaptionsFound(count=len(cues), srt=to_srt(cues)))


def closed_captions(path: Path, info: MediaInfo, report: Report = no_progress) -> tuple[Cue, ...]:
    """Read the captions that a clip's pictures carry. All of it is decoded.

    Args:
        path: the file.
        info: its properties.
        report: called with the fraction that is read, now and then; what it raises ends the work.

    Raises:
        MissingSource, UnreadableFile: the file cannot be read.
    """
    cues: list[Cue] = []
    shown, since = "", Fraction(0)
    for time, text in (*_changes(path, info, report), (info.duration, "")):
        if shown and time > since:
            cues.append(Cue(since, time, shown, line=len(cues) + 1))
        shown, since = text, time
    return tuple(cues)


def _changes(path: Path, info: MediaInfo, report: Report) -> Iterator[tuple[Fraction, str]]:
    """Yield when the text on screen changes, in seconds from the first picture, and the new text."""
    decoder: Any = av.CodecContext.create("cc_dec", "r")
    decoder.options = {"real_time": "1"}  # every change at once, rather than each caption at its end
    text = ""
    with opened(path) as container:
        stream = picture_stream(container, path)
        stream.thread_type = "AUTO"
        first: Fraction | None = None
        for frame in container.decode(stream):
            time = Fraction(frame.pts or 0) * (frame.time_base or TICK)
            first = time if first is None else first
            report(min(1.0, float((time - first) / max(info.duration, TICK))))
            data = frame.side_data.get(Type.A53_CC)  # type: ignore[call-overload]
            if data is None:
                continue
            packet = av.Packet(bytes(data))
            packet.pts, packet.time_base = int((time - first) / TICK), TICK
            decoded = decoder.decode2(packet)
            now = text if decoded is None else _plain(decoded)
            if now != text:
                text = now
                yield time - first, text


def _plain(decoded: Any) -> str:  # noqa: ANN401 - PyAV has no type for it
    """Return the text of a decoded caption without positions and styles."""
    texts = (rect.ass.split(b",", FIELDS_BEFORE_TEXT)[-1] for rect in decoded)
    lines = b"\n".join(OVERRIDE.sub(b"", text).replace(b"\\N", b"\n") for text in texts).decode(errors="replace")
    return "\n".join(line.strip() for line in lines.split("\n") if line.strip())
