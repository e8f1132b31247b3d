"""Whether the sound of a file is as loud as was asked for, measured in the file."""

from collections.abc import Iterator
from pathlib import Path

from cadrage.errors import CadrageError
from cadrage.footage import MediaInfo
from cadrage.inspection.report import Line, line, measured
from cadrage.render.loudness import loudness
from cadrage.render.peaks import PEAK_DECIBELS
from cadrage.render.request import RenderRequest

NAME = "Loudness (EBU R 128)"
LOUDNESS_TOLERANCE = 0.5  # LU; EBU R 128-2020, item (h), for programmes that cannot be mixed again (from memory)
PEAK_TOLERANCE = 0.2  # decibels that a true-peak meter may read too high; EBU Tech 3341, 2.10 (from memory)


def loudness_lines(path: Path, found: MediaInfo, request: RenderRequest | None) -> Iterator[Line]:
    """Return a line for each track: checked where a loudness was asked for, else measured."""
    wanted = None if request is None else request.settings.loudness
    for sound in found.sounds:
        try:
            loud = loudness(path, sound.stream)
        except CadrageError:
            continue
        if loud is None or wanted is None:
            yield measured(NAME, "silent" if loud is None else str(loud))
            continue
        near = abs(loud.integrated - wanted) <= LOUDNESS_TOLERANCE
        yield line(
            NAME,
            f"{wanted:g} LUFS ± {LOUDNESS_TOLERANCE:g} LU, true peak at most {PEAK_DECIBELS:g} dBTP",
            str(loud),
            near and loud.true_peak <= PEAK_DECIBELS + PEAK_TOLERANCE,
            "Ask for less loudness: the peaks of this sound leave no room for more.",
        )
