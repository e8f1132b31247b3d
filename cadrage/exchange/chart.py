"""A chart of a frame's guides, to load into a camera or a monitor, as SVG or PNG with nothing behind the lines."""

import io
from dataclasses import dataclass
from fractions import Fraction
from xml.sax.saxutils import escape

from PIL import Image, ImageDraw, ImageFont

from cadrage.formats import Frame, Guide
from cadrage.geometry import Box, FrameRect, Raster, active_picture

COLOURS = {
    "frame edge": "#ffffff",
    "active": "#ffffff",
    "action": "#9ad29c",
    "title": "#f2c879",
    "thirds": "#c8c8c8",
    "centre": "#ffffff",
    "frame": "#9cc4e4",
    "margins": "#e79a82",
}
LINE_SHARE, TEXT_SHARE = 540, 48  # parts of the shorter side: common practice, no source
CROSS = Fraction(1, 40)
LEGEND_X, LEGEND_Y = Fraction(13, 100), Fraction(41, 100)


@dataclass(frozen=True, slots=True)
class Line:
    """A straight line, in pixels of the chart."""

    x1: float
    y1: float
    x2: float
    y2: float
    colour: str


@dataclass(frozen=True, slots=True)
class Label:
    """Words; x and y are their lower left corner, in pixels of the chart."""

    x: float
    y: float
    text: str
    colour: str


@dataclass(frozen=True, slots=True)
class Chart:
    """All that is drawn.

    Attributes:
        width, height: pixels.
        lines, labels: what is drawn.
        stroke: width of a line in pixels.
        size: height of the words in pixels.
    """

    width: int
    height: int
    lines: tuple[Line, ...]
    labels: tuple[Label, ...]
    stroke: int
    size: int


def chart_of(frame: Frame, guides: tuple[Guide, ...], raster: Raster | None = None) -> Chart:
    """Lay a frame and its guides out at the frame's own size, or as large as they go inside another raster."""
    target = raster or frame.raster
    shown = FrameRect.whole(target) if raster is None else active_picture(raster, frame.raster.display_aspect)
    across, down = shown.width / frame.width, shown.height / frame.height
    shorter = min(target.width, target.height)
    size = max(10, shorter // TEXT_SHARE)
    edge = Box(x=Fraction(0), y=Fraction(0), width=Fraction(frame.width), height=Fraction(frame.height))
    outlines: dict[Box, list[tuple[str, str]]] = {edge: [("frame edge", _edge_name(frame))]}
    for guide in guides:
        outlines.setdefault(guide.box, []).append((guide.kind, f"{guide.name}, {guide.source}".rstrip(", ")))
    lines, labels = [], []
    x, y = float(shown.x + shown.width * LEGEND_X), float(shown.y + shown.height * LEGEND_Y)
    for box, named in outlines.items():
        kind = named[0][0]
        left, top = float(shown.x + box.x * across), float(shown.y + box.y * down)
        sides = (left, top, left + float(box.width * across), top + float(box.height * down))
        lines += _lines(kind, sides, shown, COLOURS[kind])
        if kind not in ("thirds", "centre"):
            labels.append(Label(x, y, " = ".join(name for _, name in named), COLOURS[kind]))
            y += 1.5 * size
    return Chart(target.width, target.height, tuple(lines), tuple(labels), max(1, shorter // LINE_SHARE), size)


def _edge_name(frame: Frame) -> str:
    return f"{frame.name} {frame.width} x {frame.height}".strip()


def _lines(kind: str, sides: tuple[float, float, float, float], shown: FrameRect, colour: str) -> list[Line]:
    left, top, right, bottom = sides
    if kind == "centre":
        reach = float(min(shown.width, shown.height) * CROSS)
        return [
            Line(left - reach, top, left + reach, top, colour),
            Line(left, top - reach, left, top + reach, colour),
        ]
    if kind == "thirds":
        first, last = float(shown.x), float(shown.right)
        above, below = float(shown.y), float(shown.bottom)
        return [Line(x, above, x, below, colour) for x in (left, right)] + [
            Line(first, y, last, y, colour) for y in (top, bottom)
        ]
    corners = [(left, top), (right, top), (right, bottom), (left, bottom)]
    return [Line(*start, *end, colour) for start, end in zip(corners, [*corners[1:], corners[0]], strict=True)]


def to_svg(chart: Chart) -> str:
    """The chart as an SVG document."""
    parts = [
        f'<line x1="{line.x1:g}" y1="{line.y1:g}" x2="{line.x2:g}" y2="{line.y2:g}" stroke="{line.colour}"/>'
        for line in chart.lines
    ]
    parts += [
        f'<text x="{label.x:g}" y="{label.y:g}" fill="{label.colour}">{escape(label.text)}</text>'
        for label in chart.labels
    ]
    size = f'width="{chart.width}" height="{chart.height}" viewBox="0 0 {chart.width} {chart.height}"'
    style = f'stroke-width="{chart.stroke}" font-family="sans-serif" font-size="{chart.size}"'
    body = "\n".join(parts)
    return f'<svg xmlns="http://www.w3.org/2000/svg" {size}>\n<g fill="none" {style}>\n{body}\n</g>\n</svg>\n'


def to_png(chart: Chart) -> bytes:
    """The chart as a PNG, transparent between its lines."""
    image = Image.new("RGBA", (chart.width, chart.height), (0, 0, 0, 0))
    pen = ImageDraw.Draw(image)
    for line in chart.lines:
        # All lines run along the raster. One along the very edge would be half outside; it is moved in.
        left, right = _inside(line.x1, line.x2, chart.stroke, chart.width)
        top, bottom = _inside(line.y1, line.y2, chart.stroke, chart.height)
        pen.rectangle((left, top, right, bottom), fill=line.colour)
    font = ImageFont.load_default(chart.size)
    for label in chart.labels:
        pen.text((label.x, label.y), label.text, fill=label.colour, font=font, anchor="ls")
    data = io.BytesIO()
    image.save(data, "PNG")
    return data.getvalue()


def _inside(one: float, other: float, stroke: int, length: int) -> tuple[int, int]:
    """First and last pixel of a line's extent in one direction, both inside the chart."""
    low, high = sorted((one, other))
    first = min(max(round(low - stroke / 2), 0), length - stroke)
    return first, min(max(round(high - stroke / 2), 0), length - stroke) + stroke - 1
