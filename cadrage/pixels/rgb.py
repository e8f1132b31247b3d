"""Planes as something a screen shows."""

import cv2
import numpy as np
from av.video.frame import VideoFrame
from numpy.typing import NDArray

from cadrage.pixels.colour import Matrix
from cadrage.pixels.planes import Planes

SWSCALE_MATRIX: dict[Matrix, int] = {"bt709": 1, "bt601": 5, "bt2020": 9}
"""libswscale's SWS_CS constants of the matrices that are composed in and delivered."""
JPEG_QUALITY = 92


def to_rgb(planes: Planes) -> NDArray[np.uint8]:
    """8-bit R'G'B' (rows, columns, 3), full range, of limited-range 8-bit 4:2:0 planes."""
    layout = planes.layout
    assert layout.depth == 8
    frame = VideoFrame(layout.width, layout.height, "yuv420p")
    for plane, array in zip(frame.planes, planes.arrays, strict=True):
        rows, columns = array.shape
        memory = np.frombuffer(plane, np.uint8)  # type: ignore[call-overload]
        memory[: rows * plane.line_size].reshape(rows, plane.line_size)[:, :columns] = array
    shown = frame.reformat(
        format="rgb24",
        src_colorspace=SWSCALE_MATRIX[layout.colour.matrix],
        src_color_range=1,
        dst_color_range=2,
        interpolation="BILINEAR",
    )
    return shown.to_ndarray().astype(np.uint8, copy=False)


def encode_image(rgb: NDArray[np.uint8], suffix: str) -> bytes:
    """An image file of 8-bit R'G'B': ".png" or ".jpg"."""
    options = [cv2.IMWRITE_JPEG_QUALITY, JPEG_QUALITY] if suffix == ".jpg" else []
    _, data = cv2.imencode(suffix, cv2.cvtColor(rgb, cv2.COLOR_RGB2BGR), options)
    return data.tobytes()
