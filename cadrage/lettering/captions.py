"""Captions from SubRip (SRT) and WebVTT files.

Read by our own code, since whatever cannot be used must be told with the number of its line. WebVTT is as the W3C's
"WebVTT: The Web Video Text Tracks Format" has it: signature, blocks, cue timings, tags and escapes; positions and
styles are left aside. SubRip has no standard; it is taken as several programs write it.
"""

import html
import re
import unicodedata
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from itertools import islice
from pathlib import Path

from cadrage.errors import BadRequest
from cadrage.lettering.fonts import RIGHT_TO_LEFT

MOST_BYTES = 8 * 2**20
STAMP = re.compile(r"(?:(\d{1,3}):)?(\d{1,2}):(\d{2})[.,](\d{1,3})")
TAG = re.compile(r"<[^<>\n]*>|\{\\[^{}\n]*\}")  # no tag within a tag: so each letter is looked at once
LONGEST_LINE, LONGEST_CUE, LONGEST_WORD, MOST_CUES = 1_000, 2_000, 100, 20_000
"""Letters, and cues; far beyond what anybody reads, and little enough to be set in no time."""
SKIPPED = ("NOTE", "STYLE", "REGION")
ARROW = "-->"


@dataclass(frozen=True, slots=True)
class Cue:
    """One caption.

    Attributes:
        start, end: when it is shown, in seconds.
        text: its words, with their line breaks.
        line: of the file, on which its times stand.
    """

    start: Fraction
    end: Fraction
    text: str
    line: int


def read_captions(path: Path) -> tuple[Cue, ...]:
    """Every caption of a file in the order of their beginnings; those without words are left out.

    Raises:
        BadRequest: the file cannot be read as captions; it says at which line.
    """
    try:
        if path.stat().st_size > MOST_BYTES:
            raise _bad(path, 1, "the file is too large for captions")
        data = path.read_bytes()
        text = data.decode("utf-8-sig")
    except OSError as error:
        raise BadRequest("The captions are not there.", remedy="Put them back, or choose others.", clip=path) from error
    except UnicodeDecodeError as error:
        line = data[: error.start].count(b"\n") + 1
        raise _bad(path, line, "this is no UTF-8 text", "Save the captions as UTF-8.") from error
    lines = text.replace("\r\n", "\n").replace("\r", "\n").split("\n")
    found = sorted(islice(_cues(path, lines), MOST_CUES + 1), key=lambda cue: cue.start)
    if len(found) > MOST_CUES:
        raise _bad(path, found[-1].line, f"there are more than {MOST_CUES:,} captions")
    if not found:
        raise _bad(path, 1, "there is no caption in it")
    return tuple(found)


def _cues(path: Path, lines: list[str]) -> Iterator[Cue]:
    for first, block in _blocks(lines):
        if block[0].startswith("WEBVTT") or block[0].split(" ")[0] in SKIPPED:
            continue
        at = next((number for number, line in enumerate(block[:2]) if ARROW in line), None)
        if at is None:
            raise _bad(path, first, f"times were expected, not {block[0][:40]!r}")
        line = first + at
        start, end = _times(path, line, block[at])
        _check_lengths(path, line, block[at + 1 :])
        text = _plain("\n".join(block[at + 1 :]))
        if (longest := max(map(len, text.split()), default=0)) > LONGEST_WORD:
            raise _bad(path, line, f"a word of {longest:,} letters is too long for a caption")
        for letter in text:
            if unicodedata.bidirectional(letter) in RIGHT_TO_LEFT:
                raise _bad(path, line, "the caption runs from right to left, which cannot be set yet")
        if text:
            yield Cue(start, end, text, line)


def _check_lengths(path: Path, line: int, lines: list[str]) -> None:
    """See that a caption is one that can be set.

    Raises:
        BadRequest: it is too long.
    """
    for number, text in enumerate(lines, line + 1):
        if len(text) > LONGEST_LINE:
            raise _bad(path, number, f"a line of {len(text):,} letters is too long for a caption")
    if sum(map(len, lines)) > LONGEST_CUE:
        raise _bad(path, line, "the caption is too long")


def _blocks(lines: list[str]) -> Iterator[tuple[int, list[str]]]:
    """Lines between empty ones, with the number of the first."""
    block: list[str] = []
    for number, line in enumerate([*lines, ""], 1):
        if line.strip():
            block.append(line.strip())
        elif block:
            yield number - len(block), block
            block = []


def _times(path: Path, line: int, text: str) -> tuple[Fraction, Fraction]:
    left, _, right = text.partition(ARROW)
    after = right.split()
    start, end = _stamp(left.strip()), _stamp(after[0] if after else "")
    if start is None or end is None:
        raise _bad(path, line, f"{text[:60]!r} are no times")
    if end <= start:
        raise _bad(path, line, "the caption ends before it begins")
    return start, end


def _stamp(text: str) -> Fraction | None:
    found = STAMP.fullmatch(text)
    if found is None or int(found[3]) > 59 or (found[1] and int(found[2]) > 59):
        return None
    seconds = int(found[1] or 0) * 3600 + int(found[2]) * 60 + int(found[3])
    return seconds + Fraction(int(found[4].ljust(3, "0")), 1000)


def _plain(text: str) -> str:
    """Words without tags and escapes; marks of direction are dropped."""
    bare = html.unescape(TAG.sub("", text))
    kept = "".join(letter for letter in bare if unicodedata.category(letter) not in ("Cf", "Cc") or letter == "\n")
    return "\n".join(line.strip() for line in kept.split("\n")).strip()


def _bad(path: Path, line: int, what: str, remedy: str = "Mend that line, and choose the file again.") -> BadRequest:
    return BadRequest(f"Line {line}: {what}.", remedy=remedy, clip=path)


def to_srt(cues: tuple[Cue, ...]) -> str:
    """Write captions as SubRip."""
    times = [f"{_written_stamp(cue.start)} {ARROW} {_written_stamp(cue.end)}" for cue in cues]
    return "\n".join(f"{n}\n{time}\n{cue.text}\n" for n, (time, cue) in enumerate(zip(times, cues, strict=True), 1))


def _written_stamp(time: Fraction) -> str:
    ms = round(time * 1000)
    return f"{ms // 3_600_000:02d}:{ms // 60_000 % 60:02d}:{ms // 1000 % 60:02d},{ms % 1000:03d}"
