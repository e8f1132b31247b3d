"""Colours that a clip itself suggests for what surrounds it."""

from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np

from cadrage.compose.preview import Previewer, picture_alone
from cadrage.footage import Interpretation, MediaInfo, effective_timing

COUNT = 5
MOMENTS = 3
WIDTH = 96
SEED = 5
ROUNDS = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, 40, 0.2)


def suggested_colours(previewer: Previewer, path: Path, info: MediaInfo, reading: Interpretation) -> tuple[str, ...]:
    """Five colours of a clip's own, darkest first, as "#203040".

    They are the middles of its colours gathered in five heaps (k-means in CIELAB, where distances are as they are
    seen), from three moments of the picture alone.
    """
    lasts = effective_timing(info, reading).duration
    pictures = []
    for number in range(MOMENTS):
        time = lasts * Fraction(2 * number + 1, 2 * MOMENTS)
        pictures.append(previewer.rgb(picture_alone(info, reading), path, info, time, WIDTH).reshape(-1, 3))
    colours = np.concatenate(pictures).astype(np.float32) / 255
    lab = cv2.cvtColor(colours[None], cv2.COLOR_RGB2LAB)[0]
    cv2.setRNGSeed(SEED)
    _, _, middles = cv2.kmeans(lab, COUNT, None, ROUNDS, 2, cv2.KMEANS_PP_CENTERS)  # type: ignore[call-overload]
    ordered = middles[np.argsort(middles[:, 0])]
    rgb = (
        np.clip(cv2.cvtColor(ordered[None].astype(np.float32), cv2.COLOR_LAB2RGB)[0] * 255, 0, 255).round().astype(int)
    )
    return tuple(f"#{red:02x}{green:02x}{blue:02x}" for red, green, blue in rgb)
