"""Measure extending: `python -m tests.extending [--page PATH] [--sheet PNG]`. Takes some minutes."""

import argparse
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import cv2
import numpy as np

from tests.extending import completing, joins, panning, timing
from tests.extending.cases import CASES
from tests.extending.photographs import names
from tests.extending.verdicts import Judged, of_number

BEGIN, END = "<!-- measured -->", "<!-- /measured -->"
TILE = (320, 208)
JOINS = (("coffee", 0.04), ("rocket", 0.04), ("brick", 0.04), ("chelsea", 0.0))
PANS = (3.0, 5.59375)


def verdicts() -> Iterator[str]:
    """What is said of made sides."""
    with ProcessPoolExecutor() as pool:
        found: list[Judged] = list(pool.map(of_number, range(len(CASES))))
    yield "| sides | how many | fit | doubtful | do not fit |"
    yield "|---|---|---|---|---|"
    for kind in dict.fromkeys(one.kind for one in found):
        for crossed in (False, True):
            said = [
                v for one in found if one.kind == kind for _, is_crossed, v in one.verdicts if is_crossed == crossed
            ]
            if said:
                name = f"{kind}, the side that is crossed" if crossed else kind
                counts = " | ".join(str(said.count(word)) for word in ("fits", "doubtful", "unfit"))
                yield f"| {name} | {len(said)} | {counts} |"
    yield ""
    yield "| camera | step found | true | drift found | true |"
    yield "|---|---|---|---|---|"
    for one in found:
        if one.kind == "moving":
            yield f"| {one.name} | {one.step[0]:.3f} | {one.step[1]:.3f} | {one.drift[0]:.2f} | {one.drift[1]:.2f} |"
    still = [one for one in found if one.kind != "moving"]
    steps, drifts = max(one.step[0] for one in still), max(one.drift[0] for one in still)
    yield ""
    yield f"Where the camera stands, at most {steps:.3f} pixels of step and {drifts:.2f} of drift are found."


def of_joins() -> Iterator[str]:
    """How joins look."""
    yield "| join of | light varies by | step at the edge, of the picture’s own | light off by, codes |"
    yield "|---|---|---|---|"
    for name, light in JOINS:
        one = joins.measured(name, light)
        yield f"| {name} | {light:.0%} | {one.step:.2f} | {one.light:.2f} |"
    for step in PANS:
        yield ""
        off = joins.moving_error(step)
        yield f"A plate that moves with a pan of {step:g} pixels a picture is off by {off:.3f} pixels."


def of_photographs(pictures: list[np.ndarray]) -> Iterator[str]:
    """What is invented beside photographs; the pictures of it are appended."""
    yield "| photograph | slopes differ | sharpness | inner zone, of the truth’s |"
    yield "|---|---|---|---|"
    for name in (name for name in completing.TWELVE if name in names()):
        one = completing.measured(name)
        pictures.append(one.picture)
        yield f"| {name} | {one.gradients:.3f} | {one.sharpness:.2f} | {one.inner:.2f} |"


def of_pans(pictures: list[np.ndarray]) -> Iterator[str]:
    """Real pixels beside pans; the pictures are appended."""
    yield "| pan over | bars filled | PSNR, dB |"
    yield "|---|---|---|"
    for one in panning.all_measured():
        pictures.append(one.picture)
        yield f"| {one.name} | {one.filled:.0%} | {one.psnr:.1f} |"


def of_time() -> Iterator[str]:
    """How long plates take."""
    yield "| both sides of an upright picture | seconds | MiB |"
    yield "|---|---|---|"
    for name, lines, draft in (("draft", 1080, True), ("1920×1080", 1080, False), ("3840×2160", 2160, False)):
        seconds, memory = timing.measured(lines, draft=draft)
        yield f"| {name} | {seconds:.1f} | {memory:.0f} |"


def sheet(pictures: list[np.ndarray]) -> np.ndarray:
    """Pictures side by side, R'G'B'."""
    tiles = []
    for picture in pictures:
        scale = min(TILE[0] / picture.shape[1], TILE[1] / picture.shape[0])
        size = max(1, round(picture.shape[1] * scale)), max(1, round(picture.shape[0] * scale))
        tile = np.full((TILE[1], TILE[0], 3), 244, np.uint8)
        small = cv2.resize(picture, size, interpolation=cv2.INTER_AREA)
        tile[: size[1], : size[0]] = small
        tiles.append(tile)
    while len(tiles) % 4:
        tiles.append(np.full((TILE[1], TILE[0], 3), 244, np.uint8))
    return np.concatenate([np.concatenate(tiles[at : at + 4], axis=1) for at in range(0, len(tiles), 4)])


def main() -> None:
    """Print all figures, and put them into a page and a sheet."""
    parser = argparse.ArgumentParser(prog="python -m tests.extending")
    parser.add_argument("--page", type=Path, help="the page to put the figures into")
    parser.add_argument("--sheet", type=Path, help="the picture to put what was made into")
    given = parser.parse_args()
    pictures: list[np.ndarray] = []
    lines: list[str] = []
    for part in (verdicts(), of_joins(), of_photographs(pictures), of_pans(pictures), of_time()):
        for line in part:
            print(line, flush=True)
            lines.append(line)
        lines.append("")
    if given.page:
        before, _, rest = given.page.read_text().partition(BEGIN)
        _, _, after = rest.partition(END)
        given.page.write_text(f"{before}{BEGIN}\n\n" + "\n".join(lines) + f"\n{END}{after}")
    if given.sheet:
        cv2.imwrite(str(given.sheet), sheet(pictures)[..., ::-1], [cv2.IMWRITE_JPEG_QUALITY, 88])


if __name__ == "__main__":
    main()
