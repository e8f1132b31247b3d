"""Stills: one picture shown for a while, or a folder of numbered ones shown in turn."""

import os
import threading
import warnings
from collections.abc import Iterator
from contextlib import contextmanager, nullcontext
from dataclasses import replace
from fractions import Fraction
from functools import partial
from pathlib import Path
from typing import Literal
from weakref import WeakValueDictionary

import numpy as np
from av.video.frame import VideoFrame
from numpy.typing import NDArray
from PIL import ExifTags, Image, UnidentifiedImageError

from cadrage.errors import MissingSource, RasterOutOfRange, UnreadableFile
from cadrage.footage.bounds import checked
from cadrage.footage.container import COPY_AGAIN
from cadrage.footage.interpretation import STILL_RATE, STILL_SECONDS, Interpretation, colour_of, effective_timing
from cadrage.footage.media_info import MediaInfo
from cadrage.footage.pictures import DecodedFrame, PictureReader
from cadrage.footage.profiles import in_srgb
from cadrage.footage.sequences import STILLS_IN_SEQUENCE, number_of
from cadrage.footage.unpack import unpack
from cadrage.formats.frames import MIN_SIDE
from cadrage.pixels.colour import Colour, parse_colour
from cadrage.pixels.planes import Planes

FORMATS = ("PNG", "JPEG", "TIFF")
SIGNATURES = (b"\x89PNG\r\n\x1a\n", b"\xff\xd8\xff", b"II*\x00", b"MM\x00*")
AS_RASTER = "Save it as PNG, JPEG or TIFF; drawings such as SVG are not read, since they can hold scripts."
LONGEST_SIDE = 16384
MOST_PIXELS = 80_000_000  # below what Pillow warns of as a decompression bomb

BAND = 256
"""Rows that are handled at a time."""
HEAVY = 8_000_000
"""Pixels of a still, above which only one is decoded at a time."""
ONE_AT_A_TIME = threading.Lock()

DEEPEST = 65_535  # white of 16 bits

STDERR = threading.Lock()

Turned = Literal[0, 90, 180, 270]

TURNS: dict[int, tuple[Turned, bool]] = {
    1: (0, False),
    2: (0, True),
    3: (180, False),
    4: (180, True),
    5: (90, True),
    6: (90, False),
    7: (270, True),
    8: (270, False),
}
"""Exif orientation (CIPA DC-008, Orientation tag; from memory): degrees clockwise to turn, then whether to mirror."""


def is_still(path: Path) -> bool:
    """Whether a file begins as a PNG, JPEG or TIFF does."""
    with path.open("rb") as file:
        return file.read(8).startswith(SIGNATURES)


def still_size(path: Path) -> tuple[int, int]:
    """Width and height of a still as stored; none of its pixels is decoded.

    Raises:
        UnreadableFile, RasterOutOfRange: see each.
    """
    with _opened(path) as image:
        return _size(image, path)


def probe_still(path: Path) -> MediaInfo:
    """What a still is; its pixels are decoded once, which proves that they can be.

    Raises:
        UnreadableFile, RasterOutOfRange: see each.
    """
    with _decoding(path) as image:
        return _told(image, path)


@contextmanager
def _decoding(path: Path) -> Iterator[Image.Image]:
    """A still whose pixels are there within the block; what is heavy, after whatever else is.

    Raises:
        MissingSource, UnreadableFile, RasterOutOfRange: it is no PNG, JPEG or TIFF that can be read.
    """
    with _opened(path) as image:
        width, height = _size(image, path)
        with ONE_AT_A_TIME if width * height > HEAVY else nullcontext(), _silently(image):
            try:
                image.load()
            except (OSError, ValueError, SyntaxError) as error:
                raise _damaged(path) from error
            yield image


def probe_sequence(folder: Path) -> MediaInfo:
    """What a folder of numbered stills is.

    Raises:
        UnreadableFile: there are none, a number is missing, or they are of several sizes.
        RasterOutOfRange: they are too large or too small.
    """
    stills = stills_of(folder)
    first = probe_still(stills[0])
    for still in stills[1:]:
        width, height = still_size(still)
        if (width, height) != (first.width, first.height):
            raise UnreadableFile(
                f"{still.name} is {width}×{height}, the first still {first.width}×{first.height}.",
                remedy="Make them all of one size, or add them one by one.",
                clip=folder,
            )
    timing = {"frames": len(stills), "duration": len(stills) / STILL_RATE}
    return first.model_copy(update={"kind": "sequence", **timing})


def stills_of(folder: Path) -> tuple[Path, ...]:
    """The numbered stills of a folder, in the order of their numbers.

    Raises:
        UnreadableFile: there are none, they belong to several sequences, or one is missing.
    """
    found: dict[int, Path] = {}
    for path in folder.iterdir():
        number = number_of(path.name)
        if number is not None and len(found) < STILLS_IN_SEQUENCE:
            if number in found:
                raise UnreadableFile(
                    f"{found[number].name} and {path.name} have one number.",
                    remedy="Keep one sequence in a folder.",
                    clip=folder,
                )
            found[number] = path
    if not found:
        remedy = "Name them like tram.0001.png."
        raise UnreadableFile("The folder holds no numbered stills.", remedy=remedy, clip=folder)
    missing = next((number for number in range(min(found), max(found)) if number not in found), None)
    if missing is not None:
        raise UnreadableFile(
            f"Still number {missing} of {min(found)} to {max(found)} is missing.",
            remedy="Put it back, or number the stills anew.",
            clip=folder,
        )
    return tuple(found[number] for number in sorted(found))


def _size(image: Image.Image, path: Path) -> tuple[int, int]:
    """Width and height of a still, which lie in the range that is read."""
    width, height = image.size
    if min(width, height) < MIN_SIDE or max(width, height) > LONGEST_SIDE or width * height > MOST_PIXELS:
        raise _out_of_range(path, f"{width}×{height}")
    return width, height


def _told(image: Image.Image, path: Path) -> MediaInfo:
    """What a still says of itself; asked of one that is decoded, since some of it may stand behind the pixels."""
    rotation, mirrored = TURNS.get(_orientation(image, path), (0, False))
    return MediaInfo(
        kind="still",
        container=(image.format or "").lower(),
        codec=(image.format or "").lower(),
        width=image.width,
        height=image.height,
        pixel_aspect=None,
        rotation=rotation,
        rotation_flag=rotation,
        mirrored=mirrored,
        rate=STILL_RATE,
        rate_stated=False,
        rate_varies=False,
        shortest_frame=1 / STILL_RATE,
        longest_frame=1 / STILL_RATE,
        duration=STILL_SECONDS,
        frames=int(STILL_SECONDS * STILL_RATE),
        field_order="progressive",
        pixel_format="rgba" if image.has_transparency_data else "rgb24",
        depth=8,
        chroma="4:4:4",
        matrix=2,
        primaries=2,
        transfer=2,
        full_range=True,
        sounds=(),
    )


def _orientation(image: Image.Image, path: Path) -> int:
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", UserWarning)
            return int(image.getexif().get(ExifTags.Base.Orientation, 1))
    except (OSError, ValueError, SyntaxError) as error:  # it may stand behind the pixels
        raise _damaged(path) from error


def _damaged(path: Path) -> UnreadableFile:
    return UnreadableFile("The still is cut short or damaged.", remedy=COPY_AGAIN, clip=path)


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
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", UserWarning)  # of what is odd in a file that can be read
            with checked(path):
                return Image.open(path, formats=FORMATS)
    except (Image.DecompressionBombError, Image.DecompressionBombWarning) as error:
        raise _out_of_range(path, "enormous") from error
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
        raise UnreadableFile("This is no still that can be read.", remedy=AS_RASTER, clip=path) from error


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


def _rgb(image: Image.Image, path: Path, matte: str) -> Iterator[NDArray[np.uint8]]:
    """8-bit R'G'B' (rows, columns, 3) as stored, band by band from the top, over the matte where it is transparent.

    What Pillow holds of a large still is then there once beside what it becomes, and nothing of it twice.
    """
    try:
        if image.mode.startswith("I"):
            whole, of = image, _from_deep
        elif not image.has_transparency_data:
            whole, of = in_srgb(image), _opaque
        else:
            whole, of = _with_alpha(in_srgb(image)), partial(_over, matte=matte)
    except (OSError, ValueError, SyntaxError) as error:
        raise _damaged(path) from error
    for top in range(0, whole.height, BAND):
        yield of(whole.crop((0, top, whole.width, min(top + BAND, whole.height))))


def _opaque(band: Image.Image) -> NDArray[np.uint8]:
    return np.asarray(band.convert("RGB"))


def _with_alpha(image: Image.Image) -> Image.Image:
    return image if image.mode == "RGBA" else image.convert("RGBA")


def _over(band: Image.Image, matte: str) -> NDArray[np.uint8]:
    """8-bit R'G'B' over a colour."""
    ground = Image.new("RGBA", band.size, tuple(round(part * 255) for part in parse_colour(matte)))
    return np.asarray(Image.alpha_composite(ground, band).convert("RGB"))


def _from_deep(band: Image.Image) -> NDArray[np.uint8]:
    """8-bit R'G'B' of a grey still of 16 bits, which Pillow would cut off at 255."""
    grey = np.rint(np.clip(np.asarray(band, np.float32), 0, DEEPEST) / DEEPEST * 255).astype(np.uint8)
    return np.repeat(grey[..., None], 3, axis=2)


def _decoded(path: Path, matte: str, colour: Colour) -> Planes:
    """The pixels of a still, with all of its colour."""
    top, planes = 0, None
    with _decoding(path) as image:
        for band in _rgb(image, path, matte):
            part = unpack(VideoFrame.from_ndarray(np.ascontiguousarray(band), "rgb24"), colour)
            planes = planes or Planes.empty(replace(part.layout, height=image.height))
            for one, whole in zip(part.arrays, planes.arrays, strict=True):
                whole[top : top + len(one)] = one
            top += len(band)
    assert planes is not None
    return planes


def read_rgba(path: Path) -> NDArray[np.uint8]:
    """A still with what is transparent in it: 8-bit R'G'B' and coverage, (rows, columns, 4), as stored.

    Raises:
        MissingSource, UnreadableFile, RasterOutOfRange: it is no PNG, JPEG or TIFF that can be read.
    """
    with _decoding(path) as image:
        try:
            return np.asarray(in_srgb(image).convert("RGBA"))
        except (OSError, ValueError, SyntaxError) as error:
            raise _damaged(path) from error


class StillReader(PictureReader):
    """Reads a still or a sequence of them; see `PictureReader`."""

    def __init__(self, path: Path | str, info: MediaInfo, interpretation: Interpretation | None = None) -> None:
        self.path = Path(path)
        stated = interpretation or Interpretation()
        if not self.path.exists():
            raise MissingSource("The file is not there.", remedy="Put it back, or choose another.", clip=self.path)
        self._files = stills_of(self.path) if info.kind == "sequence" else (self.path,)
        self._taken = effective_timing(info, stated)
        self._matte, self._colour = stated.matte, colour_of(info, stated)
        # What is decoded is held as long as somebody uses it, and no longer: readers are kept long.
        self._held: WeakValueDictionary[Path, Planes] = WeakValueDictionary()

    def close(self) -> None:
        """See `PictureReader`."""

    @property
    def picture_start(self) -> Fraction:
        """See `PictureReader`; stills have no time stamps."""
        return Fraction(0)

    def frames(self) -> Iterator[DecodedFrame]:
        """See `PictureReader`."""
        return self.frames_from(Fraction(0))

    def frame_at(self, time: Fraction) -> DecodedFrame:
        """See `PictureReader`."""
        if len(self._files) == 1:
            return DecodedFrame(Fraction(0), self._taken.duration, self._planes(0))
        number = min(max(0, int(time * self._taken.rate)), self._taken.frames - 1)
        return self._numbered(number)

    def frames_from(self, time: Fraction) -> Iterator[DecodedFrame]:
        """See `PictureReader`."""
        first = min(max(0, int(time * self._taken.rate)), self._taken.frames - 1)
        for number in range(first, self._taken.frames):
            yield self._numbered(number)

    def _numbered(self, number: int) -> DecodedFrame:
        length = 1 / self._taken.rate
        return DecodedFrame(number * length, (number + 1) * length, self._planes(number))

    def _planes(self, number: int) -> Planes:
        file = self._files[min(number, len(self._files) - 1)]
        if (held := self._held.get(file)) is not None:
            return held
        planes = self._held[file] = _decoded(file, self._matte, self._colour)
        return planes
