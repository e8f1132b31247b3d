"""Whether a surround keeps quiet beside its picture, and the least change that makes it so.

A background must not draw the eye. Five things draw it: light, contrast, sharpness, colour and movement. Each is
measured on composed frames, of the surround and of the picture beside it, and divided: the share of the picture's own
that the surround has. Each share has a limit below which editors leave it alone (common practice, no source; see
docs/quiet.md).
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from fractions import Fraction
from pathlib import Path
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from cadrage.compose.compositor import Compositor
from cadrage.compose.framed import placed_in
from cadrage.compose.moment import moment_of
from cadrage.compose.preview import preview_size
from cadrage.compose.target import screen_layout
from cadrage.finish.shape import Outline
from cadrage.footage import (
    EMPTY,
    DecodedFrame,
    Interpretation,
    Library,
    MediaInfo,
    effective_timing,
    open_footage,
    resolve,
)
from cadrage.formats import Frame
from cadrage.pixels.mapping import Area
from cadrage.pixels.planes import Layout, Planes
from cadrage.plan import Plan
from cadrage.surrounds import Background, Blurred
from cadrage.values import Value, parse_exact

Drawing = Literal["light", "contrast", "sharpness", "colour", "movement"]

LIMITS: dict[Drawing, float] = {"light": 0.8, "contrast": 0.75, "sharpness": 0.45, "colour": 0.9, "movement": 0.6}
WEIGHTS: dict[Drawing, float] = {"light": 1.0, "contrast": 0.8, "sharpness": 1.2, "colour": 0.6, "movement": 1.6}
LEAST: dict[Drawing, float] = {"light": 0.08, "contrast": 0.02, "sharpness": 0.004, "colour": 0.02, "movement": 0.004}
"""Below these a picture has nearly none of it, and shares would be of nothing; shares of white."""

WORDS: dict[Drawing, str] = {
    "light": "brighter than it should be beside the picture",
    "contrast": "as rich in contrast as the picture",
    "sharpness": "too sharp beside the picture",
    "colour": "more colourful than the picture",
    "movement": "moves as much as the picture",
}
WIDTH = 320
DEPTH, MIDDLE = 10, 512.0  # bits that are measured in, and their code of no colour
MOMENTS = 3
APART = Fraction(1, 5)  # seconds between the two pictures that movement is told from
SEEN = 0.02  # of the frame that must be surround for it to matter
SOFTEST, DARKEST = 12.0, 20.0
TRIES = 7
WIDE, UPRIGHT = Frame(width=1920, height=1080), Frame(width=1080, height=1920)


Shown = tuple[DecodedFrame, Fraction]


class Quietness(Value):
    """How quiet a surround is.

    Attributes:
        calm: whether nothing passes its limit.
        unrest: by how much all limits are passed together, weighted; 0 is calm. Orders surrounds.
        shares: of the picture's own that the surround has, of each thing that draws the eye.
        summary: one line.
    """

    calm: bool
    unrest: float
    shares: dict[Drawing, float]
    summary: str


NOTHING_SEEN = Quietness(calm=True, unrest=0, shares={}, summary="no surround in sight")


@dataclass(frozen=True, slots=True)
class Sample:
    """Pictures as decoded with the times they were asked for, in pairs a little apart: all that measuring needs."""

    info: MediaInfo
    pairs: tuple[tuple[Shown, ...], ...]
    library: Library = EMPTY

    @property
    def nbytes(self) -> int:
        """Bytes of all different pictures."""
        planes = {id(frame.planes): frame.planes.nbytes for pair in self.pairs for frame, _ in pair}
        return sum(planes.values())

    @property
    def layout(self) -> Layout:
        """Of the pictures."""
        return self.pairs[0][0][0].planes.layout

    @classmethod
    def of(cls, interpretation: Interpretation, info: MediaInfo, path: Path, library: Library = EMPTY) -> "Sample":
        """Read a few pairs throughout a clip, as it is taken to be.

        Raises:
            MissingSource, UnreadableFile: it cannot be read.
        """
        lasts = effective_timing(info, interpretation).duration
        with open_footage(path, info, interpretation) as reader:
            times = [lasts * (2 * number + 1) / (2 * MOMENTS) for number in range(MOMENTS)]
            return cls(
                info, tuple(tuple((reader.frame_at(t), t) for t in (time, time + APART)) for time in times), library
            )


def quietness(plan: Plan, sample: Sample) -> Quietness:
    """Measure a plan's surround against its picture."""
    masks = _masks(plan, sample)
    if masks is None:
        return NOTHING_SEEN
    pictures = list(_composed(plan, sample))
    own, theirs = (_measured(pictures, mask) for mask in masks)
    shares = {name: own[name] / max(theirs[name], LEAST[name]) for name in LIMITS}
    over = {name: share - LIMITS[name] for name, share in shares.items()}
    unrest = sum(WEIGHTS[name] * max(0.0, excess) / LIMITS[name] for name, excess in over.items())
    worst = max(over, key=lambda name: WEIGHTS[name] * over[name] / LIMITS[name])
    calm = over[worst] <= 0
    return Quietness(
        calm=calm,
        unrest=round(unrest, 4),
        shares={name: round(share, 3) for name, share in shares.items()},
        summary="low" if calm else _said(plan, worst, shares[worst]),
    )


def _said(plan: Plan, worst: Drawing, share: float) -> str:
    """What passes its limit most, and for light what to do about it in numbers."""
    if worst == "light":
        brightness = max(float(ground.brightness) for ground in plan.surround.backgrounds)
        return f"{WORDS[worst]}: dim to {max(1, int(brightness * LIMITS[worst] / share))}%"
    return WORDS[worst]


def quietened(plan: Plan, sample: Sample) -> Plan:
    """The plan with the least change that makes its surround calm, as far as softness, brightness and colour can.

    What can be softened is first softened, by halving between what it is and the softest; then any surround is dimmed,
    which takes light, contrast, colour and movement alike.
    """
    if quietness(plan, sample).calm:
        return plan
    plan = _least(plan, sample, "softness", SOFTEST, ("sharpness",))
    return _least(plan, sample, "brightness", DARKEST, tuple(LIMITS))


def quiet_copy(sample: Sample, interpretation: Interpretation) -> Blurred:
    """The blurred copy that a clip's framings begin with: calm in a frame of the other shape, where most is empty."""
    upright = resolve(sample.info, interpretation).picture.display_aspect < 1
    plan = Plan(interpretation=interpretation, frame=WIDE if upright else UPRIGHT)
    found = quietened(plan, sample).surround
    assert isinstance(found, Blurred)
    return found


def _least(plan: Plan, sample: Sample, field: str, end: float, wanted: tuple[Drawing, ...]) -> Plan:
    """Move one field of every ground towards an end, no further than needed for some things to keep their limits."""
    way = 1 if field == "softness" else -1
    if not any((end - getattr(ground, field, end)) * way > 0 for ground in plan.surround.backgrounds):
        return plan

    def at(part: float) -> Plan:
        def moved(ground: Background) -> Background:
            start = float(getattr(ground, field, end))
            if (end - start) * way <= 0:
                return ground
            return ground.model_copy(update={field: parse_exact(round(start + (end - start) * part, 1))})

        return plan.model_copy(update={"surround": plan.surround.map_backgrounds(moved)})

    def good(part: float) -> bool:
        shares = quietness(at(part), sample).shares
        return all(shares[name] <= LIMITS[name] for name in wanted)

    if good(0.0):
        return plan
    low, high = 0.0, 1.0
    for _ in range(TRIES):
        middle = (low + high) / 2
        low, high = (low, middle) if good(middle) else (middle, high)
    return at(high)


def _composed(plan: Plan, sample: Sample) -> Iterator[tuple[Planes, Planes]]:
    # Deep enough that no noise is laid over smooth copies, which would count as sharpness.
    canvas = replace(screen_layout(plan.frame, preview_size(plan.frame, WIDTH)), depth=DEPTH)
    compositor = Compositor(plan.without_text, sample.layout, sample.info, canvas, library=sample.library)
    for pair in sample.pairs:
        moments = [(frame.planes, moment_of(sample.info, frame, time)) for frame, time in pair]
        first, second = (compositor.compose(planes, time=moment) for planes, moment in moments)
        yield first, second


def _masks(plan: Plan, sample: Sample) -> tuple[NDArray[np.bool_], NDArray[np.bool_]] | None:
    """Where surround is seen, and where picture is; None where there is next to no surround."""
    reading = resolve(sample.info, plan.interpretation)
    placed = placed_in(plan, reading)
    canvas = screen_layout(plan.frame, preview_size(plan.frame, WIDTH))
    rows, columns = canvas.shape(0)
    covered = Outline.of(placed, placed.rect, canvas, 0).covered(Area(0, rows, 0, columns))
    inside = np.zeros((rows, columns), np.bool_)
    rect = plan.frame.surround_rect
    across, down = columns / plan.frame.width, rows / plan.frame.height
    inside[round(rect.y * down) : round(rect.bottom * down), round(rect.x * across) : round(rect.right * across)] = True
    surround, picture = (covered == 0) & inside, covered == 1
    if surround.mean() < SEEN or not picture.any():
        return None
    return surround, picture


def _measured(pairs: list[tuple[Planes, Planes]], mask: NDArray[np.bool_]) -> dict[Drawing, float]:
    """Of the part of some frames under a mask: what draws the eye, as shares of white."""
    light, contrast, sharpness, colour, movement = ([] for _ in range(5))
    for first, second in pairs:
        black, span, chroma = first.layout.colour.code_range(DEPTH)
        luma = (first.arrays[0].astype(np.float32) - black) / span
        later = (second.arrays[0].astype(np.float32) - black) / span
        light.append(float(luma[mask].mean()))
        contrast.append(float(luma[mask].std()))
        steps = np.abs(np.diff(luma, axis=1, append=luma[:, -1:])) + np.abs(np.diff(luma, axis=0, append=luma[-1:]))
        sharpness.append(float(steps[_inner(mask)].mean()))
        small = mask[: 2 * first.arrays[1].shape[0] : 2, : 2 * first.arrays[1].shape[1] : 2]
        cb, cr = (plane.astype(np.float32)[: small.shape[0], : small.shape[1]] - MIDDLE for plane in first.arrays[1:])
        colour.append(float(np.hypot(cb, cr)[small].mean()) / chroma)
        movement.append(float(np.abs(later - luma)[mask].mean()))
    values = (light, contrast, sharpness, colour, movement)
    return {name: float(np.mean(found)) for name, found in zip(LIMITS, values, strict=True)}


def _inner(mask: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """A mask without its last samples right and below, whose steps would lead out of it."""
    inner = mask.copy()
    inner[:, :-1] &= mask[:, 1:]
    inner[:-1] &= mask[1:]
    return inner if inner.any() else mask
