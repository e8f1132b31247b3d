"""Stills of more than 8 bits, which Pillow would cut down to 8: their pixels with 16."""

from collections.abc import Iterator
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from cadrage.footage.profiles import deep_change_to_srgb

Deep = NDArray[np.uint16]

GREY_OR_RGB = ("1", "L", "LA", "RGB", "RGBA", "RGBX", "I", "I;16", "I;16B", "I;16L")
"""Pillow's modes of stills that OpenCV reads as R'G'B' too; others, such as CMYK, are read with 8 bits."""
BITS_PER_SAMPLE = 258  # TIFF 6.0, section 8
PNG_DEPTH = 24  # where the bit depth stands in a PNG: W3C PNG, 11.2.1, IHDR
SIZ, SIZ_DEPTH = b"\xff\x51", 40  # ISO/IEC 15444-1, A.5.1: the marker, and from it to Ssiz of the first component
AV1_CONFIG, HIGH_DEPTH, TWELVE_BITS = b"av1C", 0x40, 0x20  # AV1 Codec ISO Media File Format Binding, 2.3.3
WHITE = 65_535

# OpenCV would print what is odd in files that it reads all the same.
cv2.utils.logging.setLogLevel(cv2.utils.logging.LOG_LEVEL_SILENT)


def is_deep(image: Image.Image, path: Path) -> bool:
    """Whether a still has more than 8 bits a sample, and can be read with all of them."""
    return image.mode in GREY_OR_RGB and _bits(image, path) > 8


def _bits(image: Image.Image, path: Path) -> int:
    """Bits a sample, as the file's header says; 8 where nothing says so."""
    with path.open("rb") as file:
        head = file.read(4096)
    if image.format == "PNG":
        return head[PNG_DEPTH]
    if image.format == "TIFF":
        stated = image.tag_v2.get(BITS_PER_SAMPLE, 8)  # type: ignore[attr-defined]
        return max(stated) if isinstance(stated, tuple) else int(stated)
    if image.format == "JPEG2000" and (start := head.find(SIZ)) >= 0:
        return (head[start + SIZ_DEPTH] & 0x7F) + 1
    if image.format == "AVIF" and (start := head.find(AV1_CONFIG)) >= 0:
        flags = head[start + len(AV1_CONFIG) + 2]
        return 8 if not flags & HIGH_DEPTH else 12 if flags & TWELVE_BITS else 10
    return 8


def deep_bands(image: Image.Image, path: Path, rows: int) -> Iterator[Deep]:
    """16-bit R'G'B', or R'G'B' and coverage where a still is transparent, (rows, columns, 3 or 4), from the top.

    Args:
        image: the still as Pillow has it, whose profile is applied.
        path: its file.
        rows: of each band; the last may have fewer.

    Raises:
        ValueError: OpenCV cannot decode it.
    """
    coded = cv2.imdecode(np.fromfile(path, np.uint8), cv2.IMREAD_UNCHANGED)
    if coded is None or coded.dtype != np.uint16 or coded.shape[:2] != (image.height, image.width):
        raise ValueError(path)
    deep: Deep = coded.astype(np.uint16, copy=False)
    if (bits := _bits(image, path)) < 16:  # samples of 10 or 12 bits come as they are stored
        deep = np.rint(deep * np.float32(WHITE / (2**bits - 1))).astype(np.uint16)
    change = deep_change_to_srgb(image)
    for top in range(0, image.height, rows):
        band = _as_rgb(deep[top : top + rows])
        if change is not None:
            band[..., :3] = change(band[..., :3])
        yield np.ascontiguousarray(band)


def _as_rgb(band: Deep) -> Deep:
    """R'G'B' with or without coverage of grey, or of OpenCV's order of colours."""
    if band.ndim == 2:
        return np.repeat(band[..., None], 3, axis=2)
    order = [2, 1, 0] if band.shape[2] == 3 else [2, 1, 0, 3]
    return band[..., order]
