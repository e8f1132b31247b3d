"""Pictures of made clips to follow things in: places, people, things that pass."""

from functools import cache

import cv2
import numpy as np

SKIN, HAIR = (224, 172, 140), (60, 40, 30)


@cache
def place(seed: int, width: int, height: int) -> np.ndarray:
    """A place: soft fields of colour, hard shapes and fine texture, (height, width, 3), codes of 8 bits."""
    random = np.random.default_rng(seed)
    small = random.uniform(50, 190, (5, 9, 3)).astype(np.float32)
    wide = cv2.resize(small, (width, height), interpolation=cv2.INTER_CUBIC)
    for _ in range(width * height // 4000):
        x, y = int(random.integers(0, width)), int(random.integers(0, height))
        side = int(random.integers(6, 46))
        colour = tuple(float(code) for code in random.uniform(20, 220, 3))
        cv2.rectangle(wide, (x, y), (x + side, y + side // 2 + 5), colour, -1 if random.random() < 0.6 else 2)
    wide += cv2.GaussianBlur(random.normal(0, 14, (height, width, 1)).astype(np.float32), (3, 3), 0)[..., None]
    return np.clip(wide, 0, 255).astype(np.uint8)


@cache
def face() -> np.ndarray:
    """A real face, (128, 128, 3), with an oval mask beside it in a fourth plane."""
    from skimage import data  # the picture of E. Collins that comes with scikit-image (NASA, public domain)

    head = data.astronaut()[45:205, 145:305]
    head = cv2.resize(head, (128, 128), interpolation=cv2.INTER_AREA)
    mask = np.zeros((128, 128), np.uint8)
    cv2.ellipse(mask, (64, 64), (50, 62), 0, 0, 360, 255, -1)
    return np.dstack([head, cv2.GaussianBlur(mask, (5, 5), 0)])


def put_face(image: np.ndarray, x: float, y: float, side: float) -> None:
    """Draw the face about a point, `side` pixels tall; at sub-pixel places."""
    scale = side / 128
    matrix = np.array([[scale, 0, x - side / 2], [0, scale, y - side / 2]])
    rows, columns = image.shape[:2]
    small = face() if scale > 0.5 else cv2.GaussianBlur(face(), (0, 0), 0.4 / scale)
    drawn = cv2.warpAffine(small, matrix, (columns, rows), flags=cv2.INTER_LINEAR)
    share = drawn[..., 3:].astype(np.float32) / 255
    image[:] = (share * drawn[..., :3] + (1 - share) * image).astype(np.uint8)


def put_walker(
    image: np.ndarray, x: float, y: float, tall: float, number: int, colour: tuple[int, int, int], *, gait: float = 0.35
) -> None:
    """Draw somebody who walks, seen from the side, the middle of the body at a point; arms and legs swing."""

    def at(across: float, down: float) -> tuple[int, int]:
        return round((x + across * tall) * 16), round((y + down * tall) * 16)

    thick = max(2, int(tall * 0.09))
    swing = 0.16 * np.sin(number * gait)
    for side in (1, -1):
        cv2.line(image, at(0, 0.1), at(side * swing, 0.5), tuple(int(c * 0.6) for c in colour), thick, cv2.LINE_AA, 4)
        cv2.line(image, at(0, -0.2), at(-side * swing, 0.08), colour, max(2, thick * 2 // 3), cv2.LINE_AA, 4)
    axes = (int(tall * 0.1 * 16), int(tall * 0.2 * 16))
    cv2.ellipse(image, at(0, -0.08), axes, 0, 0, 360, colour, -1, cv2.LINE_AA, 4)
    cv2.circle(image, at(0, -0.38), int(tall * 0.085 * 16), SKIN, -1, cv2.LINE_AA, 4)
    cv2.ellipse(
        image, at(-0.01, -0.42), (int(tall * 0.085 * 16), int(tall * 0.05 * 16)), 0, 180, 360, HAIR, -1, cv2.LINE_AA, 4
    )
    cv2.line(image, at(-0.05, -0.1), at(0.05, -0.1), (250, 250, 240), max(1, thick // 3), cv2.LINE_AA, 4)


def put_trolley(image: np.ndarray, x: float, y: float, tall: float, number: int, colour: tuple[int, int, int]) -> None:
    """Draw a small car with wheels that turn, its middle at a point."""
    half = tall * 0.9
    left, right, top, low = int(x - half), int(x + half), int(y - tall / 2), int(y + tall * 0.35)
    cv2.rectangle(image, (left, top), (right, low), colour, -1)
    cv2.rectangle(image, (left + 4, top + 4), (int(x), int(y - tall * 0.05)), (190, 220, 235), -1)
    for wheel in (x - half * 0.55, x + half * 0.55):
        centre = int(wheel), int(y + tall * 0.35)
        cv2.circle(image, centre, max(3, int(tall * 0.18)), (30, 30, 30), -1, cv2.LINE_AA)
        away = np.array([np.cos(number * 0.5), np.sin(number * 0.5)]) * tall * 0.15
        cv2.line(image, centre, (int(wheel + away[0]), int(centre[1] + away[1])), (200, 200, 200), 2, cv2.LINE_AA)
