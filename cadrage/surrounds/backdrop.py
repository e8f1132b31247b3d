"""Drawing another picture behind the clip: covering, whole or in tiles, and as soft as is wanted."""

from dataclasses import replace
from fractions import Fraction
from math import ceil
from typing import Literal

import cv2
import numpy as np

from cadrage.footage.interpretation import resolve
from cadrage.footage.library import Material
from cadrage.footage.orient import Orient
from cadrage.geometry import FrameRect, Picture
from cadrage.geometry.placement import centred, fill_scale, whole_scale
from cadrage.pixels.light import codes_of
from cadrage.pixels.mapping import Coverage
from cadrage.pixels.planes import Layout, Planes, Samples, samples
from cadrage.surrounds.base import Areas, Scene, all_of
from cadrage.surrounds.blurred import blurring
from cadrage.surrounds.toning import Tone, Toned

Fit = Literal["cover", "whole", "tiled"]
SMALLEST_TILE = 8  # luma samples


class Backdrop:
    """Draws pictures of one clip over areas of a scene.

    Args:
        toned: how it is toned; its base fills the parts that a whole picture leaves empty.
        scene: to paint.
        material: what the pictures are of.
        stored: their layout as decoded.
        fit: covering the opening, whole inside it, or in tiles over it.
        size: percent of that size; of tiles, percent of the frame's height.
        softness: standard deviation of a blur, in percent of the frame's height.
    """

    def __init__(
        self,
        toned: Toned,
        scene: Scene,
        material: Material,
        stored: Layout,
        *,
        fit: Fit,
        size: Fraction,
        softness: Fraction,
    ) -> None:
        assert material.info is not None
        reading = resolve(material.info, material.interpretation)
        self.upright = Orient(stored, reading, scene.canvas.colour, mirror=reading.mirror)
        self.tones = toned.tones(scene.canvas)
        picture = Picture(reading.cut.rect, reading.picture.pixel_aspect)
        factor = size / 100
        self.tile: _Tiles | None = None
        self.outside: _Outside | None = None
        if fit == "tiled":
            self.tile = _Tiles(scene, picture, self.upright.layout, factor, float(softness))
            return
        scale = fill_scale if fit == "cover" else whole_scale
        rect = centred(picture, scene.opening, scale(picture, scene.opening) * factor, Fraction(0), Fraction(0))
        self.outside = _Outside(toned, scene, rect)
        self.planes = blurring(replace(scene, source=self.upright.layout), scene.on_canvas(rect), float(softness))

    def draw(self, upright: Planes, canvas: Planes, areas: Areas) -> None:
        """Draw one picture, made ready by `upright`, over areas."""
        if self.tile:
            self.tile.draw(upright, canvas, self.tones, areas)
            return
        parts = zip(self.planes, self.tones, upright.arrays, canvas.arrays, areas, strict=True)
        for painter, tone, source, target, wanted in parts:
            painter.paint(source, target, tone, wanted)
        if self.outside:
            self.outside.paint(canvas, areas)


class _Outside:
    """Fill the parts that a picture leaves empty with the base colour."""

    def __init__(self, toned: Toned, scene: Scene, rect: FrameRect) -> None:
        self.codes = codes_of(toned.base, scene.canvas.colour, scene.canvas.depth)
        self.coverage = [Coverage.of(scene.canvas, plane, scene.on_canvas(rect)) for plane in range(3)]

    def paint(self, canvas: Planes, areas: Areas) -> None:
        for parts, code, share, plane in zip(areas, self.codes, self.coverage, canvas.arrays, strict=True):
            for area in parts:
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
        frame, (across, down) = scene.frame, scene.scale
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
        inner = replace(scene, source=layout, canvas=self.layout)
        self.planes = blurring(inner, whole, 0)
        spread = softness / 100 * frame.height
        self.sigma = (spread * float(across) / float(frame.pixel_aspect), spread * float(down))

    def draw(self, upright: Planes, canvas: Planes, tones: tuple[Tone, ...], areas: Areas) -> None:
        tile, whole = Planes.empty(self.layout), all_of(self.layout)
        for plane, painter in enumerate(self.planes):
            painter.paint(upright.arrays[plane], tile.arrays[plane], tones[plane], whole[plane])
            by = self.layout.subsampling(plane)
            soft = _softened(tile.arrays[plane], (self.sigma[0] / by.across, self.sigma[1] / by.down))
            rows, columns = soft.shape
            for area in areas[plane]:
                down = (np.arange(area.top, area.bottom) - self.first[1] // by.down) % rows
                across = (np.arange(area.left, area.right) - self.first[0] // by.across) % columns
                canvas.arrays[plane][area.slices] = soft[down[:, None], across[None, :]]


def _even(length: Fraction) -> int:
    return max(SMALLEST_TILE, round(length / 2) * 2)


def _softened(plane: Samples, sigma: tuple[float, float]) -> Samples:
    """A tile blurred as if it repeated beside itself."""
    if max(sigma) < 0.1:
        return plane
    pad = [(ceil(4 * length) + 1,) * 2 for length in (sigma[1], sigma[0])]
    around = cv2.GaussianBlur(
        np.pad(plane, pad, "wrap"), (0, 0), sigmaX=max(sigma[0], 1e-3), sigmaY=max(sigma[1], 1e-3)
    )
    rows, columns = plane.shape
    return samples(around[pad[0][0] : pad[0][0] + rows, pad[1][0] : pad[1][0] + columns])
