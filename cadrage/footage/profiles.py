"""Stills whose colours a profile describes, brought to sRGB by the imaging library's colour engine."""

from collections.abc import Callable
from functools import partial
from io import BytesIO

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageCms

SPACES = {"RGB": "RGB", "GRAY": "L", "CMYK": "CMYK"}
"""Pillow's modes of what profiles are about: ICC.1:2022, table 19."""

GRID = 33  # points each way of a table of colours; usual in device profiles (common practice, no source)
Deep = NDArray[np.uint16]


def in_srgb(image: Image.Image) -> Image.Image:
    """A still in sRGB, with its coverage kept; itself where it has no profile that can be used.

    Relative to white, with black brought to black.
    """
    data = image.info.get("icc_profile")
    if not data:
        return image
    try:
        profile = ImageCms.ImageCmsProfile(BytesIO(data))
        mode = SPACES[profile.profile.xcolor_space.strip()]
        if (mode == "CMYK") != (image.mode == "CMYK"):
            return image
        made = ImageCms.profileToProfile(
            image.convert(mode),
            profile,
            ImageCms.createProfile("sRGB"),
            ImageCms.Intent.RELATIVE_COLORIMETRIC,
            outputMode="RGB",
            flags=ImageCms.Flags.BLACKPOINTCOMPENSATION,
        )
    except (ImageCms.PyCMSError, OSError, KeyError, ValueError):
        return image
    if made is None:
        return image
    if image.has_transparency_data:
        made.putalpha(image.convert("RGBA").getchannel("A"))
    return made


def deep_change_to_srgb(image: Image.Image) -> Callable[[Deep], Deep] | None:
    """What brings 16-bit R'G'B' (…, 3) of a still into sRGB; None where it has no profile that can be used.

    The colour engine here has 8 bits. A regular grid of colours is therefore sent through it once, and the colours of
    the still are interpolated in between, so that its fine steps stay.
    """
    if not image.info.get("icc_profile"):
        return None
    levels = np.rint(np.linspace(0, 255, GRID)).astype(np.uint8)
    points = np.stack(np.meshgrid(levels, levels, levels, indexing="ij"), axis=-1).reshape(GRID, -1, 3)
    before = Image.fromarray(points)
    if image.mode not in ("RGB", "RGBA"):
        before = before.convert("L")
    before.info["icc_profile"] = image.info["icc_profile"]
    after = in_srgb(before)
    if after is before:
        return None
    table = np.asarray(after.convert("RGB"), np.float32).reshape(GRID, GRID, GRID, 3)
    return partial(_interpolated, table=table, levels=levels)


def _interpolated(band: Deep, table: NDArray[np.float32], levels: NDArray[np.uint8]) -> Deep:
    """16-bit R'G'B' looked up in a table whose points lie at 8-bit levels along each of its first three axes."""
    from scipy.ndimage import map_coordinates  # noqa: PLC0415 - slow to load, and only needed here

    places = np.interp(band.astype(np.float32) / np.float32(257), levels, np.arange(len(levels)))
    axes = list(np.moveaxis(places, -1, 0))
    drawn = [map_coordinates(table[..., colour], axes, order=1, mode="nearest") for colour in range(3)]
    made: Deep = np.rint(np.stack(drawn, axis=-1) * 257).astype(np.uint16)
    return made
