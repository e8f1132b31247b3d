"""Stills: one picture shown for a while, or a folder of numbered ones shown in turn."""

import warnings
from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction
from pathlib import Path
from typing import Literal
from weakref import WeakValueDictionary

import numpy as np
from av.video.frame import VideoFrame
from PIL import ExifTags, Image

from cadrage.errors import MissingSource, UnreadableFile
from cadrage.footage.deep_stills import is_deep
from cadrage.footage.interpretation import (
    STILL_RATE,
    STILL_SECONDS,
    Interpretation,
    colour_of,
    effective_timing,
    is_full_range,
)
from cadrage.footage.media_info import MediaInfo
from cadrage.footage.pictures import DecodedFrame, PictureReader
from cadrage.footage.sequences import STILLS_IN_SEQUENCE, number_of
from cadrage.footage.still_files import bands, damaged, decoding, still_size
from cadrage.footage.unpack import Unpacker
from cadrage.pixels.planes import Planes, samples

LAYOUTS = {(1, 3): "rgb24", (1, 4): "rgba", (2, 3): "rgb48le", (2, 4): "rgba64le"}
"""The decoder's names of sample layouts, by bytes of a sample and number of samples of a pixel."""

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


def probe_still(path: Path) -> MediaInfo:
    """What a still is; its pixels are decoded once, which proves that they can be.

    Raises:
        UnreadableFile, RasterOutOfRange: see each.
    """
    with decoding(path) as image:
        return _told(image, path)


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


def _told(image: Image.Image, path: Path) -> MediaInfo:
    """What a still says of itself; asked of one that is decoded, since some of it may stand behind the pixels."""
    rotation, mirrored = TURNS.get(_orientation(image, path), (0, False))
    deep = is_deep(image, path)
    layout = LAYOUTS[2 if deep else 1, 4 if image.has_transparency_data else 3]
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
        pixel_format=layout,
        depth=16 if deep else 8,
        alpha=image.has_transparency_data,
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
        raise damaged(path) from error


def _decoded(path: Path, unpacker: Unpacker) -> Planes:
    """The pixels of a still, with all of its colour and all of its bits."""
    top, planes = 0, None
    with decoding(path) as image:
        for band in bands(image, path, unpacker.matte):
            layout = LAYOUTS[band.dtype.itemsize, band.shape[2]]
            frame = VideoFrame.from_ndarray(samples(np.ascontiguousarray(band)), layout)
            part = unpacker.planes(frame)
            planes = planes or Planes.empty(replace(part.layout, height=image.height))
            for one, whole in zip(part.arrays, planes.arrays, strict=True):
                whole[top : top + len(one)] = one
            top += len(band)
    assert planes is not None
    return planes


class StillReader(PictureReader):
    """Reads a still or a sequence of them; see `PictureReader`."""

    def __init__(self, path: Path | str, info: MediaInfo, interpretation: Interpretation | None = None) -> None:
        self.path = Path(path)
        stated = interpretation or Interpretation()
        if not self.path.exists():
            raise MissingSource("The file is not there.", remedy="Put it back, or choose another.", clip=self.path)
        self._files = stills_of(self.path) if info.kind == "sequence" else (self.path,)
        self._taken = effective_timing(info, stated)
        full = is_full_range(info, stated)
        self._unpacker = Unpacker(colour_of(info, stated), matte=stated.matte, full_rgb=full)
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
        planes = self._held[file] = _decoded(file, self._unpacker)
        return planes
