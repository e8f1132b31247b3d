"""Shipped fonts, lines of text, the ink they are drawn in, and captions."""

import time
import unicodedata
from fractions import Fraction as F

import numpy as np
import pytest
from PIL import ImageFont

from cadrage.errors import BadRequest
from cadrage.lettering import FAMILIES, Lettered, TextLayer, read_captions, set_text
from cadrage.lettering.captions import TAG
from cadrage.lettering.fonts import FOLDER, axes_of, runs
from cadrage.pixels.colour import Colour
from cadrage.pixels.light import codes_of
from cadrage.pixels.planes import CHROMA_420, Layout, Planes

CANVAS = Layout(320, 180, 8, CHROMA_420, Colour("bt709"))
SAYINGS = {
    "Archivo": "Brackwater Tramway – čeština, Tiếng Việt",
    "Noto Sans": "Ελληνικά, кириллица, polszczyzna Łódź",
    "Noto Serif": "Θεσσαλονίκη, Одеса, Gdańsk",
    "Source Serif": "Ελλάδα, Україна, Türkçe",
}


@pytest.mark.parametrize("name", FAMILIES)
def test_every_family_has_its_files_weights_and_widths(name):
    family = FAMILIES[name]
    for file in family.files:
        axes = ImageFont.truetype(FOLDER / f"{file}.woff2", 20).get_variation_axes()
        spans = [(axis["minimum"], axis["maximum"]) for axis in axes]
        assert spans == [one for one in (family.weights, family.widths) if one]
    assert any(FOLDER.glob(f"{family.files[0].rsplit('-', 1)[0]}-license.txt"))
    assert "".join(part for _, part in runs(SAYINGS[name], family)) == SAYINGS[name]


def test_weight_and_width_change_the_letters():
    widths = [set_text("Tramway", Lettered(letter_width=width), 40).width for width in (62, 100, 125)]
    assert widths == sorted(widths)
    assert widths[2] > 1.4 * widths[0]
    light, heavy = (set_text("Tramway", Lettered(weight=weight), 40).coverage("left").sum() for weight in (200, 900))
    assert heavy > 1.5 * light
    assert axes_of(FAMILIES["Source Serif"], 50, 62) == (200,)


def test_a_letter_that_is_missing_is_named_with_who_has_it():
    with pytest.raises(
        BadRequest,
        match=r"Archivo has no 'Ж' \(cyrillic capital letter zhe\).*Choose Noto Sans or Noto Serif or Source",
    ):
        set_text("Ж", Lettered(), 20)
    with pytest.raises(BadRequest, match="no font here has it"):
        set_text("電車", Lettered(), 20)
    with pytest.raises(BadRequest, match="right to left"):
        set_text("שלום", Lettered(), 20)


def test_letters_are_composed_before_they_are_looked_up():
    assert set_text(unicodedata.normalize("NFD", "é"), Lettered(), 40) == set_text("é", Lettered(), 40)


def test_lines_break_between_words_evenly_and_alike_at_every_size():
    text = "The restored depot opens its doors on the first of May"
    large, small = (set_text(text, Lettered(), size, room=8 * size) for size in (200, 9))
    assert large.lines == small.lines
    assert len(large.lines) > 2
    assert max(large.widths) <= 8 * 200
    assert min(large.widths) > 0.5 * max(large.widths)
    assert set_text("Nine\nlines", Lettered(), 20).lines == ("Nine", "lines")
    broken = set_text("Funicular", Lettered(), 100, room=150).lines
    assert "".join(broken) == "Funicular"
    assert len(broken) > 1


@pytest.mark.parametrize("align", ["left", "centre", "right"])
def test_lines_stand_as_they_are_told(align):
    covered = set_text("Wide line here\nI", Lettered(), 40).coverage(align)
    second = np.flatnonzero(covered[len(covered) // 2 + 4 :].max(axis=0) > 0.2)
    middle, width = (second[0] + second[-1]) / 2, covered.shape[1]
    assert {"left": middle < width / 4, "centre": abs(middle - width / 2) < 3, "right": middle > 3 * width / 4}[align]


def planes(grey=90):
    made = Planes.empty(CANVAS)
    for array, code in zip(made.arrays, (grey, 128, 128), strict=True):
        array[:] = code
    return made


def test_ink_has_the_codes_of_its_colour_and_covers_edges_in_part():
    ink = TextLayer(CANVAS, 1.0)
    ink.wash(40, 20, 80.5, 60, "#c86428")
    made = planes()
    ink.laid().blend(made)
    for array, code, by in zip(made.arrays, codes_of("#c86428", CANVAS.colour, 8), (1, 2, 2), strict=True):
        assert np.abs(array[24 // by : 56 // by, 44 // by : 76 // by].astype(int) - code).max() <= 1
    y = codes_of("#c86428", CANVAS.colour, 8)[0]
    assert made.arrays[0][40, 80] == pytest.approx((y + 90) / 2, abs=1)
    assert (made.arrays[0][:, 82:] == 90).all()


def test_ink_is_laid_as_strong_as_it_is_told_in_either_depth():
    for depth in (8, 10):
        canvas = Layout(320, 180, depth, CHROMA_420, CANVAS.colour)
        ink = TextLayer(canvas, 1.0)
        ink.wash(0, 0, 100, 100, "#ffffff")
        made = Planes.empty(canvas)
        for array in made.arrays:
            array[:] = 0
        ink.laid().blend(made, 0.25)
        assert made.arrays[0][50, 50] == pytest.approx(0.25 * 235 * 2 ** (depth - 8), abs=1)
    assert TextLayer(CANVAS, 1.0).laid() is None


def test_ink_keeps_its_shape_on_pixels_that_are_not_square():
    """A square of 60 lines on pixels 16:15 wide covers 56.25 samples."""
    ink = TextLayer(CANVAS, 16 / 15)
    ink.wash(32, 20, 92, 80, "#ffffff")
    made = planes(16)
    ink.laid().blend(made)
    row = (made.arrays[0][50].astype(float) - 16) / 219
    assert row.sum() == pytest.approx(56.25, abs=0.1)


def written(folder, text, name="c.srt", encoding="utf-8"):
    path = folder / name
    path.write_bytes(text.encode(encoding))
    return path


SRT = (
    "\ufeff1\r\n00:00:01,000 --> 00:00:02,500\r\n<i>First</i> line\r\nand second\r\n\r\n"
    "2\r\n00:00:02,000 --> 00:00:04,000\r\n{\\an8}Over&amp;lapping\r\n"
)
VTT = """WEBVTT - tram

NOTE nothing
to see

STYLE
::cue { color: red }

one
00:01.000 --> 00:02.500 align:start position:10%
<v Ada>First line</v>
and second

01:00:02.000 --> 01:00:04.000
Late
"""


def test_captions_are_read_from_both_kinds_of_file(tmp_path):
    first, second = read_captions(written(tmp_path, SRT))
    assert (first.start, first.end, first.text, first.line) == (1, F(5, 2), "First line\nand second", 2)
    assert (second.start, second.text) == (2, "Over&lapping")
    first, second = read_captions(written(tmp_path, VTT, "c.vtt"))
    assert (first.start, first.end, first.text) == (1, F(5, 2), "First line\nand second")
    assert second.start == 3602


def test_captions_without_words_are_left_out_and_disorder_is_put_right(tmp_path):
    cues = (("05", "06", "Later"), ("02", "03", "<b></b>"), ("01", "02", "Sooner"))
    text = "\n".join(f"{n}\n00:00:{a},000 --> 00:00:{b},000\n{words}\n" for n, (a, b, words) in enumerate(cues))
    assert [cue.text for cue in read_captions(written(tmp_path, text))] == ["Sooner", "Later"]


@pytest.mark.parametrize(
    ("text", "line", "what"),
    [
        ("1\n00:00:05,000 --> 00:00:04,000\nBack\n", 2, "ends before it begins"),
        ("1\n00:00:01,000 --> 00:00:02,000\nGood\n\n2\n00:61:00,000 --> 00:62:00,000\nBad\n", 6, "are no times"),
        ("1\n00:00:01,000 --> soon\nBad\n", 2, "are no times"),
        ("1\nno times at all\nat all\n", 1, "times were expected"),
        ("1\n00:00:01,000 --> 00:00:02,000\nשלום\n", 2, "right to left"),
        ("", 1, "no caption"),
    ],
)  # fmt: skip
def test_captions_that_cannot_be_used_are_refused_with_the_line(tmp_path, text, line, what):
    with pytest.raises(BadRequest, match=f"Line {line}: .*{what}"):
        read_captions(written(tmp_path, text))


def test_captions_in_another_encoding_are_refused_with_the_line(tmp_path):
    text = "1\n00:00:01,000 --> 00:00:02,000\nnaïve\n"
    with pytest.raises(BadRequest, match=r"Line 3: this is no UTF-8"):
        read_captions(written(tmp_path, text, encoding="latin-1"))


def test_ten_thousand_captions_are_read(tmp_path):
    def stamp(at):
        return f"{at // 3600:02d}:{at // 60 % 60:02d}:{at % 60:02d},000"

    text = "\n".join(f"{n}\n{stamp(n)} --> {stamp(n + 1)}\nLine {n}\n" for n in range(1, 10_001))
    cues = read_captions(written(tmp_path, text))
    assert len(cues) == 10_000
    assert cues[-1].end == 10_001


@pytest.mark.parametrize("letter", ["<", "{", "{\\", "&", "a "])
def test_captions_of_one_letter_many_times_are_read_in_no_time(tmp_path, letter):
    """A pattern that looked at each letter once for each before it froze everybody for half a minute."""
    path = tmp_path / "long.srt"
    cues = (f"{n}\n00:00:{n:02},000 --> 00:00:{n:02},900\n{letter * 80_000}\n\n" for n in range(1, 4))
    path.write_text("".join(cues))
    began = time.monotonic()
    with pytest.raises(BadRequest, match=r"Line 3: .*too long"):
        read_captions(path)
    assert time.monotonic() - began < 2
    assert TAG.sub("", "<" * 200_000) == "<" * 200_000
    assert time.monotonic() - began < 4


@pytest.mark.parametrize(
    ("text", "what"),
    [("x" * 101, "a word of 101"), ("ab " * 334, "a line of 1,001"), ("\n".join(["ab " * 300] * 3), "the caption")],
)
def test_captions_that_nobody_could_read_are_refused(tmp_path, text, what):
    path = tmp_path / "long.srt"
    path.write_text(f"1\n00:00:01,000 --> 00:00:02,000\n{text}\n\n")
    with pytest.raises(BadRequest, match=what):
        read_captions(path)
