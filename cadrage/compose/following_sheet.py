"""A sheet of a window that follows: moments of a clip with the window on each, all outside it dimmed, and its way."""

import io
from fractions import Fraction
from math import ceil
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw, ImageEnhance

from cadrage.compose.path import PathPoint, path_of
from cadrage.compose.preview import Previewer
from cadrage.compose.shots import track_of
from cadrage.footage import MediaInfo, effective_timing, resolve
from cadrage.geometry import window_of
from cadrage.lettering.fonts import font
from cadrage.plan import Plan

COLUMNS, MOST = 4, 48
EACH = Fraction(2, 3)
"""Seconds from one moment to the next, in clips that are short enough for that."""
WIDE, MARGIN, CAPTION = 320, 12, 22
TEXT = ("archivo-latin", 13.0, (500, 100))
PAPER, INK, RUST, WINDOW = "#f4f0e6", "#24211c", "#9c3b1c", "#f4f0e6"
DIMMED = 0.38
DOUBTFUL = 70


def following_sheet(plan: Plan, path: Path, info: MediaInfo) -> bytes:
    """Moments of a clip with the window that a plan opens on each, as one PNG."""
    moments = _moments(plan, info)
    way = path_of(plan, info)
    tiles = [_tile(plan, path, info, time, way) for time in moments]
    columns, rows = min(COLUMNS, len(tiles)), ceil(len(tiles) / COLUMNS)
    tall = tiles[0].height + CAPTION
    size = columns * (WIDE + MARGIN) + MARGIN, rows * (tall + MARGIN) + MARGIN
    whole = Image.new("RGB", size, PAPER)
    pen = ImageDraw.Draw(whole)
    for number, (tile, time) in enumerate(zip(tiles, moments, strict=True)):
        x, y = MARGIN + number % COLUMNS * (WIDE + MARGIN), MARGIN + number // COLUMNS * (tall + MARGIN)
        whole.paste(tile, (x, y))
        sure = sure_at(plan, time)
        text = f"{float(time):.2f} s" + ("" if sure is None else f"   {sure}% sure")
        pen.text((x, y + tile.height + 3), text, fill=RUST if (sure or 100) < DOUBTFUL else INK, font=font(*TEXT))
    data = io.BytesIO()
    whole.save(data, "PNG")
    return data.getvalue()


def sure_at(plan: Plan, time: Fraction) -> int | None:
    """How sure a window that follows is at a time, percent; None where it does not follow."""
    shots = [shot for shot in plan.shots if shot.start <= time]
    follow = (plan.of_shot(shots[-1]) if shots else plan).motion.follow
    ways = [way for way in follow.path if way.start <= time] if follow else []
    if not ways or not ways[-1].sure:
        return None
    return ways[-1].sure[min(int(time - ways[-1].start), len(ways[-1].sure) - 1)]


def _moments(plan: Plan, info: MediaInfo) -> list[Fraction]:
    """Moments throughout what is delivered, none of them on a cut."""
    taken = effective_timing(info, plan.interpretation)
    start, length = plan.range.start, plan.range.length(taken.duration)
    count = min(MOST, max(1, round(length / EACH)))
    return [start + length * (2 * number + 1) / (2 * count) for number in range(count)]


def _tile(plan: Plan, path: Path, info: MediaInfo, time: Fraction, way: tuple[PathPoint, ...]) -> Image.Image:
    reading = resolve(info, plan.interpretation)
    data = Previewer().picture(path, info, plan.interpretation, time, WIDE)
    bright = Image.open(io.BytesIO(data)).convert("RGB")
    across, down = bright.width / float(reading.picture.width), bright.height / float(reading.picture.height)
    track = track_of(plan, info)
    window = window_of(track.at(time)).corners(reading.picture.pixel_aspect)
    corners = [(float(x) * across, float(y) * down) for x, y in window]
    inside = Image.new("L", bright.size, 0)
    ImageDraw.Draw(inside).polygon(corners, fill=255)
    tile = Image.composite(bright, ImageEnhance.Brightness(bright).enhance(DIMMED), inside)
    pen = ImageDraw.Draw(tile)
    shot = track.shot_at(time)
    line = [(point.x * across, point.y * down) for point in way if point.shot == shot]
    if len(line) > 1 and float(np.ptp(line, axis=0).max()) > 1:
        pen.line(line, fill=RUST, width=2)
    pen.line([*corners, corners[0]], fill=WINDOW, width=2)
    middle = sum(x for x, _ in corners) / 4, sum(y for _, y in corners) / 4
    pen.ellipse((middle[0] - 4, middle[1] - 4, middle[0] + 4, middle[1] + 4), fill=RUST, outline=WINDOW)
    return tile
