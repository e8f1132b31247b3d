"""Stills whose colours a profile describes, brought to sRGB by the imaging library's colour engine."""

from io import BytesIO

from PIL import Image, ImageCms

SPACES = {"RGB": "RGB", "GRAY": "L", "CMYK": "CMYK"}
"""Pillow's modes of what profiles are about: ICC.1:2022, table 19."""


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
