"""Files of one still picture: which formats are read, how they are opened, and their pixels."""

import os
import threading
import warnings
from collections.abc import Iterator
from contextlib import contextmanager, nullcontext
from functools import partial
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PIL import Image, UnidentifiedImageError

from cadrage.errors import MissingSource, RasterOutOfRange, UnreadableFile
from cadrage.footage.bounds import checked
from cadrage.footage.container import COPY_AGAIN
from cadrage.footage.deep_stills import deep_bands, is_deep
from cadrage.footage.profiles import in_srgb
from cadrage.formats.frames import MIN_SIDE
from cadrage.pixels.colour import parse_colour

FORMATS = ("PNG", "JPEG", "TIFF", "WEBP", "BMP", "JPEG2000", "AVIF")
"""Formats that are read, by Pillow's names."""
LISTED = "PNG, JPEG, TIFF, WebP, BMP, JPEG 2000 or AVIF"
AS_RASTER = f"Save it as {LISTED}; drawings such as SVG are not read, since they can hold scripts."

HEADER = 32  # bytes that hold every signature below
SIGNATURES: tuple[tuple[bytes, str], ...] = (
    (b"\x89PNG\r\n\x1a\n", ""),
    (b"\xff\xd8\xff", ""),
    (b"II*\x00", ""),
    (b"MM\x00*", ""),
    (b"BM", ""),
    (b"\x00\x00\x00\x0cjP  \r\n\x87\n", ""),
    (b"\xff\x4f\xff\x51", ""),
    (b"\x00\x00\x00\x0cJXL \r\n\x87\n", "JPEG XL"),
    (b"\xff\x0a", "JPEG XL"),
    (b"8BPS", "layered document of an image editor"),
    (b"\x76\x2f\x31\x01", "OpenEXR"),
    (b"II\xbc", "JPEG XR"),
    (b"SDPX", "DPX"),
    (b"XPDS", "DPX"),
)
"""How files of stills begin, and the name of the format where it is not read; each by its own specification, from
memory."""
BRANDS = {b"avif": "", **dict.fromkeys((b"heic", b"heix", b"heim", b"heis", b"mif1"), "HEIC")}
"""Major brands of ISO/IEC 23008-12 (HEIF) of single pictures. Series of pictures ("avis") are read as clips."""
ANIMATED_WEBP = 0x02  # flag of the VP8X chunk; WebP Container Specification, "Extended File Format"

LONGEST_SIDE = 16384
MOST_PIXELS = 80_000_000  # below what Pillow warns of as a decompression bomb
MAX_JPEG_SCANS = 500
"""A progressive JPEG decodes its whole picture once a scan; encoders write about ten. The bound is the one that
libjpeg-turbo's fuzzers use (from memory)."""

BAND = 256
"""Rows that are handled at a time."""
HEAVY = 8_000_000
"""Pixels of a still, above which only one is decoded at a time."""
ONE_AT_A_TIME = threading.Lock()

STDERR = threading.Lock()

Pixels = NDArray[np.uint8] | NDArray[np.uint16]


def is_still(path: Path) -> bool:
    """Whether a file begins as one of a still picture does, whether its format is read or not."""
    return _format_name(path) is not None


def _format_name(path: Path) -> str | None:
    """The name of a format that is not read; empty for one that is, None for a file that is no still."""
    with path.open("rb") as file:
        head = file.read(HEADER)
    if head[:4] == b"RIFF" and head[8:12] == b"WEBP":
        return "animated WebP" if head[12:16] == b"VP8X" and head[20] & ANIMATED_WEBP else ""
    if head[4:8] == b"ftyp":
        return BRANDS.get(head[8:12])
    return next((name for signature, name in SIGNATURES if head.startswith(signature)), None)


def still_size(path: Path) -> tuple[int, int]:
    """Width and height of a still as stored; none of its pixels is decoded.

    Raises:
        UnreadableFile, RasterOutOfRange: see each.
    """
    with _opened(path) as image:
        return _size(image, path)


@contextmanager
def decoding(path: Path) -> Iterator[Image.Image]:
    """A still whose pixels are there within the block; what is heavy, after whatever else is.

    Raises:
        MissingSource, UnreadableFile, RasterOutOfRange: it is no still that can be read.
    """
    with _opened(path) as image:
        _check_scans(image, path)
        width, height = _size(image, path)
        with ONE_AT_A_TIME if width * height > HEAVY else nullcontext(), _silently(image):
            try:
                image.load()
            except (OSError, ValueError, SyntaxError) as error:
                raise damaged(path) from error
            yield image


def bands(image: Image.Image, path: Path, matte: str) -> Iterator[Pixels]:
    """R'G'B' (rows, columns, 3) as stored, band by band from the top.

    Stills of more than 8 bits come with 16, and with coverage (rows, columns, 4) where they are transparent; others
    with 8, laid over the matte "#rrggbb". What Pillow holds of a large still is there once beside what it becomes.

    Raises:
        UnreadableFile: its pixels are damaged.
    """
    try:
        if is_deep(image, path):
            yield from deep_bands(image, path, BAND)
            return
        if not image.has_transparency_data:
            whole, converted = in_srgb(image), _opaque
        else:
            whole, converted = in_srgb(image).convert("RGBA"), partial(_over, matte=matte)
    except (OSError, ValueError, SyntaxError) as error:
        raise damaged(path) from error
    for top in range(0, whole.height, BAND):
        yield converted(whole.crop((0, top, whole.width, min(top + BAND, whole.height))))


def read_rgba(path: Path) -> NDArray[np.uint8]:
    """A still with what is transparent in it: 8-bit R'G'B' and coverage, (rows, columns, 4), as stored.

    Raises:
        MissingSource, UnreadableFile, RasterOutOfRange: it is no still that can be read.
    """
    with decoding(path) as image:
        try:
            return np.asarray(in_srgb(image).convert("RGBA"))
        except (OSError, ValueError, SyntaxError) as error:
            raise damaged(path) from error


def damaged(path: Path) -> UnreadableFile:
    """The error of a still whose pixels cannot be decoded."""
    return UnreadableFile("The still is cut short or damaged.", remedy=COPY_AGAIN, clip=path)


def _opaque(band: Image.Image) -> NDArray[np.uint8]:
    return np.asarray(band.convert("RGB"))


def _over(band: Image.Image, matte: str) -> NDArray[np.uint8]:
    """8-bit R'G'B' over a colour."""
    background = Image.new("RGBA", band.size, tuple(round(part * 255) for part in parse_colour(matte)))
    return np.asarray(Image.alpha_composite(background, band).convert("RGB"))


def _size(image: Image.Image, path: Path) -> tuple[int, int]:
    """Width and height of a still, which lie in the range that is read."""
    width, height = image.size
    if min(width, height) < MIN_SIDE or max(width, height) > LONGEST_SIDE or width * height > MOST_PIXELS:
        raise _out_of_range(path, f"{width}×{height}")
    return width, height


def _out_of_range(path: Path, size: str) -> RasterOutOfRange:
    return RasterOutOfRange(
        f"The still is {size}; sides from {MIN_SIDE} to {LONGEST_SIDE} and {MOST_PIXELS // 10**6} million pixels "
        "in all can be read.",
        remedy="Scale it to such a size first.",
        clip=path,
    )


def _opened(path: Path) -> Image.Image:
    if not path.is_file():
        raise MissingSource("The file is not there.", remedy="Put it back, or choose another.", clip=path)
    with checked(path):
        _check_format(path)
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", UserWarning)  # of what is odd in a file that can be read
            with checked(path):
                image = Image.open(path, formats=FORMATS)
    except (Image.DecompressionBombError, Image.DecompressionBombWarning) as error:
        raise _out_of_range(path, "enormous") from error
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
        raise UnreadableFile("This is no still that can be read.", remedy=AS_RASTER, clip=path) from error
    if image.mode == "F":
        image.close()
        raise UnreadableFile(
            "Its samples are floating-point numbers, which are not read.",
            remedy="Save it with 8 or 16 bits a sample.",
            clip=path,
        )
    return image


def _check_format(path: Path) -> None:
    """Refuse a format that is not read, by its name."""
    if name := _format_name(path):
        raise UnreadableFile(f"{name} stills are not read.", remedy=f"Save it as {LISTED}.", clip=path)


def _check_scans(image: Image.Image, path: Path) -> None:
    """Refuse a JPEG that would be decoded hundreds of times over.

    All of its file is read for that, so it is asked before its pixels are decoded and not when only its size is wanted.
    """
    if image.format == "JPEG" and _scans(path) > MAX_JPEG_SCANS:
        raise UnreadableFile(
            f"The JPEG has more than {MAX_JPEG_SCANS} scans; ordinary files have about ten.",
            remedy="Open it in an image editor and save it again.",
            clip=path,
        )


def _scans(path: Path) -> int:
    """How many scans a JPEG has: start-of-scan markers (ITU-T T.81, B.1.1.3), which coded data cannot hold."""
    return path.read_bytes().count(b"\xff\xda")


@contextmanager
def _silently(image: Image.Image) -> Iterator[None]:
    """Let libtiff print nothing, which speaks to the terminal in C; what it could not do raises all the same."""
    if image.format != "TIFF":
        yield
        return
    with STDERR, open(os.devnull, "w") as nowhere:  # noqa: PTH123 - a device
        kept = os.dup(2)
        os.dup2(nowhere.fileno(), 2)
        try:
            yield
        finally:
            os.dup2(kept, 2)
            os.close(kept)
