"""What encoders are told so that a rate is kept: on average, below a ceiling, or throughout."""

from cadrage.output.kinds import OutputFormat

EVEN_SECONDS = 0.25
"""Seconds of the rate that a decoder's buffer holds where it is the same throughout (common practice, no source)."""
CEILING_SECONDS = 2  # the same below a ceiling
VP9_SECONDS = 4
"""Seconds over which VP9 evens out a mean rate. Its own way of keeping one falls short by a fifth and more."""
LEAST_SHARE = 0.9  # of a mean rate that VP9 must keep to where it may rise to a ceiling


def rate_options(kind: OutputFormat, rate: int, ceiling: int, *, throughout: bool) -> dict[str, str]:
    """Options of an encoder for a rate.

    Args:
        kind: of file.
        rate: in kilobits a second.
        ceiling: the highest, in the same; 0 for none.
        throughout: whether the rate is the same throughout.
    """
    if throughout:
        return _buffered(rate, rate, EVEN_SECONDS) | {"minrate": f"{rate}k"} | _filled(kind)
    if kind.encoder == "libvpx-vp9":
        if not ceiling:
            return _buffered(rate, rate, VP9_SECONDS) | {"minrate": f"{rate}k"}
        return _buffered(ceiling, ceiling, CEILING_SECONDS) | {"minrate": f"{round(rate * LEAST_SHARE)}k"}
    return _buffered(ceiling, ceiling, CEILING_SECONDS) if ceiling else {}


def _buffered(rate: int, highest: int, seconds: float) -> dict[str, str]:
    return {"maxrate": f"{highest}k", "bufsize": f"{round(rate * seconds)}k"}


def _filled(kind: OutputFormat) -> dict[str, str]:
    """What makes an encoder fill up what pictures do not need. ITU-T H.264, annex C: a constant rate needs that."""
    if kind.encoder == "libx264":
        return {"x264-params": "nal-hrd=cbr"}
    return {"x265-params": "strict-cbr=1"} if kind.encoder == "libx265" else {}


def fills_up(kind: OutputFormat) -> bool:
    """Whether a rate that is the same throughout is so even where pictures need less."""
    return kind.encoder == "libx264"


def joined(*options: dict[str, str]) -> dict[str, str]:
    """Options one after another; of flags and the encoders' own lists, all that is in each."""
    made: dict[str, str] = {}
    for one in options:
        for name, value in one.items():
            between = {"flags": ""}.get(name, ":" if name.endswith("-params") else None)
            made[name] = value if between is None or name not in made else f"{made[name]}{between}{value}"
    return made
