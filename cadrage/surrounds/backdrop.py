"""Drawing another picture behind the clip: covering, whole or in tiles, and as soft as is wanted."""

from dataclasses import replace
from fractions import Fraction
from math import ceil
from typing import Literal

import cv2
import numpy as np

from cadrage.footage.interpretation import read_as
from cadrage.footage.library import Material
from cadrage.footage.upright import Upright
from cadrage.geometry import FrameRect, Picture
from cadrage.geometry.placement import centred, fill_scale, whole_scale
from cadrage.pixels.colour import codes_of
from cadrage.pixels.mapping import Area, Coverage
from cadrage.pixels.planes import Layout, Planes, Samples, samples
from cadrage.surrounds.base import Scene
from cadrage.surrounds.blurred import blurring
from cadrage.surrounds.toning import Tone, Toned

Fit = Literal["cover", "whole", "tiled"]
SMALLEST_TILE = 8  # luma samples


class Backdrop:
    """Draws pictures of one clip over the areas of a scene.

    Args:
        toned: how it is toned; its base is what a whole picture leaves empty.
        scene: what is painted.
        material: what the pictures are of.
        stored: their layout as decoded.
        fit: covering the opening, whole inside it, or in tiles over it.
        size: percent of that size; of tiles, percent of the frame's height.
        softness: standard deviation of a blur, in percent of the frame's height.
    """

    def __init__(
        self, toned: Toned, scene: Scene, material: Material, stored: Layout, *, fit: Fit, size: float, softness: float
    ) -> None:
        assert material.facts is not None
        reading = read_as(material.facts, material.interpretation)
        self.upright = Upright(stored, reading, scene.canvas.colour, mirror=reading.mirror)
        self.scene, self.areas, self.tones = scene, scene.areas, toned.tones(scene.canvas)
        picture = Picture(reading.cut.rect, reading.picture.pixel_aspect)
        factor = Fraction(str(size)) / 100
        self.tile: _Tiles | None = None
        self.outside: _Outside | None = None
        if fit == "tiled":
            self.tile = _Tiles(scene, picture, self.upright.layout, factor, softness)
            return
        scale = fill_scale if fit == "cover" else whole_scale
        rect = centred(picture, scene.opening, scale(picture, scene.opening) * factor, Fraction(0), Fraction(0))
        self.outside = _Outside(toned, scene, rect)
        self.planes = blurring(replace(scene, source=self.upright.layout), scene.on_canvas(rect), softness)

    def draw(self, upright: Planes, canvas: Planes) -> None:
        """Draw one picture, made ready by `upright`, over the areas."""
        if self.tile:
            self.tile.draw(upright, canvas, self.tones)
            return
        for painter, tone, source, target in zip(self.planes, self.tones, upright.arrays, canvas.arrays, strict=True):
            painter.paint(source, target, tone)
        if self.outside:
            self.outside.paint(canvas)


class _Outside:
    """Fills what a picture leaves empty with the base colour."""

    def __init__(self, toned: Toned, scene: Scene, rect: FrameRect) -> None:
        self.areas = scene.areas
        self.codes = codes_of(toned.base, scene.canvas.colour, scene.canvas.depth)
        self.coverage = [Coverage.of(scene.canvas, plane, scene.on_canvas(rect)) for plane in range(3)]

    def paint(self, canvas: Planes) -> None:
        for areas, code, share, plane in zip(self.areas, self.codes, self.coverage, canvas.arrays, strict=True):
            for area in areas:
                rows, columns = share.rows[area.top : area.bottom], share.columns[area.left : area.right]
                if (rows == 1).all() and (columns == 1).all():
                    continue
                covered = rows[:, None] * columns[None, :]
                under = plane[area.slices]
                np.copyto(
                    under, np.rint(code + covered * (under.astype(np.float32) - np.float32(code))).astype(plane.dtype)
                )


class _Tiles:
    """Draws a picture once, small, and lays it next to itself."""

    def __init__(self, scene: Scene, picture: Picture, layout: Layout, factor: Fraction, softness: float) -> None:
        self.scene = scene
        frame, (across, down) = scene.placed.frame, scene.scale
        opening = scene.opening
        lines = opening.height * factor
        width = lines * picture.display_width / picture.height / opening.pixel_aspect
        self.width, self.height = (_even(width * across), _even(lines * down))
        self.layout = Layout(self.width, self.height, scene.canvas.depth, scene.canvas.chroma, scene.canvas.colour)
        rect = scene.on_canvas(opening.rect)
        self.first = (
            round((rect.x + rect.width / 2 - Fraction(self.width, 2)) / 2) * 2,
            round((rect.y + rect.height / 2 - Fraction(self.height, 2)) / 2) * 2,
        )
        whole = FrameRect(Fraction(0), Fraction(0), Fraction(self.width), Fraction(self.height))
        areas = tuple((Area(0, *self.layout.shape(plane)[:1], 0, self.layout.shape(plane)[1]),) for plane in range(3))
        inner = replace(scene, source=layout, canvas=self.layout, areas=areas)
        self.planes = blurring(inner, whole, 0)
        spread = softness / 100 * frame.height
        self.sigma = (spread * float(across) / float(frame.pixel_aspect), spread * float(down))

    def draw(self, upright: Planes, canvas: Planes, tones: tuple[Tone, ...]) -> None:
        tile = Planes.empty(self.layout)
        for plane, painter in enumerate(self.planes):
            painter.paint(upright.arrays[plane], tile.arrays[plane], tones[plane])
            by = self.layout.subsampling(plane)
            soft = _softened(tile.arrays[plane], (self.sigma[0] / by.across, self.sigma[1] / by.down))
            rows, columns = soft.shape
            for area in self.scene.areas[plane]:
                down = (np.arange(area.top, area.bottom) - self.first[1] // by.down) % rows
                across = (np.arange(area.left, area.right) - self.first[0] // by.across) % columns
                canvas.arrays[plane][area.slices] = soft[down[:, None], across[None, :]]


def _even(length: Fraction) -> int:
    return max(SMALLEST_TILE, round(length / 2) * 2)


def _softened(plane: Samples, sigma: tuple[float, float]) -> Samples:
    """A tile blurred as if it went on beside itself."""
    if max(sigma) < 0.1:
        return plane
    pad = [(ceil(4 * length) + 1,) * 2 for length in (sigma[1], sigma[0])]
    around = cv2.GaussianBlur(
        np.pad(plane, pad, "wrap"), (0, 0), sigmaX=max(sigma[0], 1e-3), sigmaY=max(sigma[1], 1e-3)
    )
    rows, columns = plane.shape
    return samples(around[pad[0][0] : pad[0][0] + rows, pad[1][0] : pad[1][0] + columns])
