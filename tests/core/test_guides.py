"""Guides, and the charts made of them."""

import io
from fractions import Fraction as F
from xml.etree import ElementTree as ET

import numpy as np
import pytest
from PIL import Image

from cadrage.exchange import chart_of, to_png, to_svg
from cadrage.formats import Delivery, Frame, Margins, guides_for, same_height, turned_upright
from cadrage.geometry import Raster

HD = Frame(width=1920, height=1080, name="Foyer screen")


def boxes(frame, **options):
    return {
        f"{guide.kind} {guide.name} {guide.source}".strip(): tuple(
            float(side) for side in (guide.box.x, guide.box.y, guide.box.width, guide.box.height)
        )
        for guide in guides_for(frame, **options)
    }


@pytest.mark.parametrize(
    ("name", "box"),
    [
        # SMPTE ST 2046-1: 93% and 90% of width and height; EBU R 95: 3.5% and 5% in from each edge of 1920×1080;
        # SMPTE RP 218: 90% and 80%. All from memory.
        ("action Action safe 93% SMPTE ST 2046-1", (67.2, 37.8, 1785.6, 1004.4)),
        ("title Title safe 90% SMPTE ST 2046-1", (96, 54, 1728, 972)),
        ("action Action safe, 3.5% in EBU R 95", (67.2, 37.8, 1785.6, 1004.4)),
        ("title Graphics safe, 5% in EBU R 95", (96, 54, 1728, 972)),
        ("action Action safe 90% SMPTE RP 218, for 4:3 tubes", (96, 54, 1728, 972)),
        ("title Title safe 80% SMPTE RP 218, for 4:3 tubes", (192, 108, 1536, 864)),
        ("thirds Thirds", (640, 360, 640, 360)),
        ("centre Centre", (960, 540, 0, 0)),
    ],
)
def test_safe_areas_are_those_of_the_standards(name, box):
    assert boxes(HD)[name] == pytest.approx(box)


def test_the_outline_of_another_frame_is_the_largest_crop_of_its_shape():
    found = boxes(HD, others=(Frame(width=1080, height=1920, name="Totem"),))
    assert found["frame Totem 9:16"] == pytest.approx((656.25, 0, 607.5, 1080))
    inside = HD.model_copy(update={"active": F("2.39")})
    found = boxes(inside, others=(Frame(width=1080, height=1920, name="Totem"),))
    height = 1920 / 2.39
    assert found["frame Totem 9:16"][3] == pytest.approx(height)
    assert found["active Active picture 2.39"] == (0, 138, 1920, 804)


def test_own_margins():
    found = boxes(HD, delivery=Delivery(margins=Margins(left=F(10), bottom=F(5))))
    assert found["margins Covered by the screen's edge"] == pytest.approx((192, 0, 1728, 1026))


def test_frames_derived_from_others():
    tape = Frame(width=720, height=576, pixel_aspect=F(12, 11), name="Tape")
    assert turned_upright(tape).raster == Raster(576, 720, F(11, 12))
    assert (same_height(HD, F(4, 3)).width, same_height(HD, F(4, 3)).height) == (1440, 1080)
    assert same_height(HD, F("2.39")).width % 2 == 0


def test_a_chart_as_svg_holds_every_guide_to_scale():
    guides = guides_for(HD)
    root = ET.fromstring(to_svg(chart_of(HD, guides, Raster(4096, 2160))))
    assert (root.get("width"), root.get("height")) == ("4096", "2160")
    lines = [
        {key: float(line.get(key)) for key in ("x1", "y1", "x2", "y2")}
        for line in root.iter("{http://www.w3.org/2000/svg}line")
    ]
    # The 16:9 frame lies in the middle of the wider raster: 3840 of 4096.
    assert min(line["x1"] for line in lines) == 128
    assert {"x1": 128 + 192, "y1": 108, "x2": 128 + 3648, "y2": 108} in lines
    words = " ".join(text.text for text in root.iter("{http://www.w3.org/2000/svg}text"))
    assert "SMPTE ST 2046-1" in words
    assert "Foyer screen" in words


def test_a_chart_as_png_is_transparent_between_its_lines():
    with Image.open(io.BytesIO(to_png(chart_of(HD, guides_for(HD))))) as image:
        pixels = np.asarray(image)
    assert pixels.shape == (1080, 1920, 4)
    assert pixels[54, 500:1400, 3].min() > 200
    assert pixels[300, 300, 3] == 0
    assert pixels[0, :, 3].min() > 200
    assert pixels[-1, :, 3].min() > 200
