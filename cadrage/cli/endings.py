"""What a name's ending says of the file that is wanted."""

from pathlib import Path

from cadrage.errors import BadRequest
from cadrage.output import OUTPUT_FORMATS, Settings
from cadrage.output.kinds import KindName

USUAL: dict[str, KindName] = {
    ".mp4": "mp4-h264",
    ".m4v": "mp4-h264",
    ".mov": "mov-h264",
    ".mkv": "mkv-ffv1",
    ".webm": "webm-vp9",
    ".avi": "avi-mjpeg",
    ".mxf": "mxf-dnxhr",
    ".png": "png-stills",
}
"""The kind of file that an ending stands for where nobody says more."""
ALSO = {".mp4": (".m4v",), "": (".png",)}
"""Endings besides its own that a kind's files may have; a folder of stills has none of its own."""


def settings_for(target: Path, settings: Settings, *, stated: bool) -> Settings:
    """Settings whose kind of file is the one that the target's ending asks for.

    Args:
        target: the file to write.
        settings: as far as they were given.
        stated: whether they say what kind it is.

    Raises:
        BadRequest: the ending is of another kind, or of none that is written.
    """
    ending = target.suffix.lower()
    if not stated:
        if ending not in USUAL:
            raise BadRequest(
                f"{ending or 'A name without an ending'} stands for no kind of file that is written.",
                remedy=f"End it in {', '.join(USUAL)}, or say --write kind=….",
                clip=target,
            )
        return settings.model_copy(update={"kind": USUAL[ending], "sound": settings.sound})
    own = OUTPUT_FORMATS[settings.kind].suffix
    if ending in USUAL and ending != own and ending not in ALSO.get(own, ()):
        raise BadRequest(
            f"{OUTPUT_FORMATS[settings.kind].title} is asked for, and the name ends in {ending}.",
            remedy=f"End it in {own}." if own else "Name a folder without an ending.",
            clip=target,
        )
    if own and ending and ending not in USUAL:
        raise BadRequest(
            f"{ending} stands for no kind of file that is written.", remedy=f"End it in {own}.", clip=target
        )
    return settings


def check_image(target: Path, *endings: str) -> str:
    """The ending of an image's name, in small letters.

    Raises:
        BadRequest: it is another than those.
    """
    ending = target.suffix.lower()
    if ending not in endings:
        raise BadRequest(
            f"An image is written, and the name ends in {ending or 'nothing'}.",
            remedy=f"End it in {' or '.join(endings)}.",
            clip=target,
        )
    return ending
