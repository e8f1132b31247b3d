"""Panels, titles and captions on composed frames, and whether they can be read."""

from fractions import Fraction as F

import numpy as np
import pytest
from PIL import Image

from cadrage.compose import Compositor
from cadrage.compose.legible import legibility, readable
from cadrage.compose.quiet import Sample
from cadrage.compose.title_places import new_title
from cadrage.errors import BadRequest, UnreadableFile
from cadrage.finish import Captions, Finish, Title
from cadrage.footage import ClipReader, Material, library_of_files, probe
from cadrage.formats import Frame
from cadrage.geometry import Opening, Placement, place
from cadrage.geometry.free import chosen_places, free_places
from cadrage.geometry.shapes import FrameRect, Raster
from cadrage.pixels.contrast import contrast, luminance
from cadrage.plan import Plan
from cadrage.surrounds import AnimatedPattern, Graphic, Plain
from tests.clips import write_clip

WIDE, TALL = Frame(width=640, height=360), Frame(width=360, height=640)
DARK = Plain(colour="#101010")


@pytest.fixture(scope="module")
def clips(tmp_path_factory):
    folder = tmp_path_factory.mktemp("words")

    def grey(width, height):
        return lambda _: np.full((height, width, 3), 128, np.uint8)

    up = write_clip(folder / "up.mp4", size=(180, 320), frames=4, paint=grey(180, 320), sound=None)
    wide = write_clip(folder / "wide.mp4", size=(320, 180), frames=4, paint=grey(320, 180), sound=None)
    return {WIDE: up, TALL: wide}


def drawn(clips, frame, time=F(0), **plan):
    path = clips[frame]
    info = probe(path)
    with ClipReader(path, info) as reader:
        stored = reader.frame_at(F(0)).planes
    library = library_of_files(Material(path, info))
    made = Compositor(Plan(frame=frame, **plan), stored.layout, info, library=library)
    return made.compose(stored, time=time).arrays[0].astype(int)


def sample(clips, frame):
    path = clips[frame]
    info = probe(path)
    return Sample.of(Plan(frame=frame).interpretation, info, path, library_of_files(Material(path, info)))


def where(luma, over=100):
    """Rows and columns in which something light stands: first and last of each."""
    rows, columns = np.flatnonzero((luma > over).any(axis=1)), np.flatnonzero((luma > over).any(axis=0))
    return rows[0], rows[-1], columns[0], columns[-1]


def beside(placed, opening):
    return free_places(FrameRect.around(placed.corners), placed.frame, opening, F(5, 100), F(9))


def test_free_places_lie_beside_the_picture_inside_the_safe_area():
    placed = place(Raster(180, 320), Raster(640, 360), Placement())
    opening = Opening(FrameRect.whole(placed.frame), F(1))
    free = beside(placed, opening)
    assert set(free) == {"left", "right"}
    assert (free["left"].x, free["left"].right) == (32, placed.rect.x - 9)
    assert chosen_places(free) == (free["left"], free["right"])
    aside = place(Raster(180, 320), Raster(640, 360), Placement(offset_x=F(-150)))
    assert chosen_places(beside(aside, opening)) == (beside(aside, opening)["right"],)
    fills = place(Raster(640, 360), Raster(640, 360), Placement())
    assert chosen_places(beside(fills, opening)) == ()


@pytest.mark.parametrize("frame", [WIDE, TALL])
@pytest.mark.parametrize("align", ["left", "centre", "right"])
def test_a_panel_stays_in_the_free_place_and_the_safe_area(clips, frame, align):
    panel = Graphic(
        heading="The restored depot", subtitle="Opens in May", small_print="Brackwater", ground=DARK, align=align
    )
    blank = drawn(clips, frame, surround=DARK)
    made = drawn(clips, frame, surround=panel)
    touched = np.argwhere(made != blank)
    assert len(touched) > 200
    (top, left), (bottom, right) = touched.min(axis=0), touched.max(axis=0)
    assert top >= 0.05 * frame.height - 2
    assert bottom <= 0.95 * frame.height + 2
    assert left >= 0.05 * frame.width - 2
    assert right <= 0.95 * frame.width + 2
    picture = (slice(80, 280), slice(224, 416)) if frame is WIDE else (slice(224, 416), slice(80, 280))
    assert (made[picture] == blank[picture]).all()


def test_a_panel_on_one_side_only(clips):
    made = drawn(
        clips, WIDE, surround=Graphic(heading="Depot", subtitle="A", small_print="B", place="right", ground=DARK)
    )
    assert where(made[:, 425:])[2] >= 0
    assert made[:, :215].max() <= 40


def test_long_words_are_made_smaller_until_they_fit(clips):
    made = drawn(
        clips, WIDE, surround=Graphic(heading="Strassenbahnbetriebswerkstatt", size=20, place="left", ground=DARK)
    )
    assert where(made[:, :215])[3] <= 640 * 0.341
    said = legibility(
        Plan(frame=WIDE, surround=Graphic(heading="Strassenbahnbetriebswerkstatt", size=20)), sample(clips, WIDE)
    )
    assert "made smaller" in said[0].summary or "does not fit" in said[0].summary


def test_a_logo_is_laid_with_what_is_transparent_in_it(clips, tmp_path):
    logo = np.zeros((50, 100, 4), np.uint8)
    logo[:, :50] = (255, 255, 255, 255)
    logo[:, 50:] = (255, 0, 0, 0)
    Image.fromarray(logo).save(tmp_path / "logo.png")
    panel = Graphic(heading="", rule=False, logo=str(tmp_path / "logo.png"), logo_size=20, place="left", ground=DARK)
    made = drawn(clips, WIDE, surround=panel)
    top, bottom, left, right = where(made[:, :215])
    assert bottom - top + 1 == pytest.approx(72, abs=2)
    assert right - left + 1 == pytest.approx(72, abs=2)  # the other half is not there


def test_a_drawing_with_scripts_is_no_logo(clips, tmp_path):
    drawing = tmp_path / "logo.svg"
    drawing.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script><image href="http://x/y"/></svg>'
    )
    with pytest.raises(UnreadableFile, match=r"logo\.svg") as caught:
        drawn(clips, WIDE, surround=Graphic(logo=str(drawing)))
    assert "PNG" in caught.value.remedy


def test_words_come_and_go_with_their_fades(clips):
    title = Title(text="Nine", x=50, y=50, size=20, start=1, end=5, fade=1)
    finish, seen = Finish(titles=(title,)), {}
    for time in (0, 1, 1.5, 3, 4.5, 5):
        luma = drawn(clips, WIDE, time=F(str(time)), finish=finish, surround=DARK)
        seen[time] = int(luma[:, 220:420].max()) - 126
    assert seen[0] <= 2
    assert seen[1] <= 2
    assert seen[5] <= 2
    assert seen[1.5] == pytest.approx(seen[3] / 2, abs=3)
    assert seen[4.5] == pytest.approx(seen[3] / 2, abs=3)
    assert seen[3] > 80


def test_a_title_stands_where_it_is_put_at_every_size(clips):
    path = clips[WIDE]
    info = probe(path)
    with ClipReader(path, info) as reader:
        stored = reader.frame_at(F(0)).planes
    plan = Plan(frame=WIDE, surround=DARK, finish=Finish(titles=(Title(text="HH", x=20, y=30, size=10),)))
    for width in (320, 640, 1280):
        luma = Compositor(plan, stored.layout, info, (width, width * 9 // 16)).compose(stored).arrays[0]
        _, _, left, right = where(luma[:, : width // 3].astype(int))
        assert (left + right + 1) / 2 / width == pytest.approx(0.2, abs=0.004)


def captions(folder, text):
    path = folder / "c.srt"
    path.write_text(text)
    return Finish(captions=Captions(of=str(path), plate=0, size=5))


SRT = "1\n00:00:00,000 --> 00:00:02,000\nFirst\n\n2\n00:00:01,000 --> 00:00:03,000\nSecond\n"


def test_captions_stand_in_the_free_bar_and_together_where_they_overlap(clips, tmp_path):
    finish = captions(tmp_path, SRT)
    blank = drawn(clips, TALL, surround=DARK)
    heights = {}
    for time in (F(1, 2), F(3, 2), F(5, 2), F(4)):
        touched = np.argwhere(drawn(clips, TALL, time=time, surround=DARK, finish=finish) != blank)
        heights[time] = 0 if not len(touched) else touched[:, 0].max() - touched[:, 0].min() + 1
        if len(touched):
            assert touched[:, 0].min() > 421  # under the picture, which ends at row 421
    assert heights[F(3, 2)] > 1.7 * heights[F(1, 2)]
    assert heights[F(4)] == 0


def test_captions_stand_low_where_no_bar_is_free_and_come_later_when_told(clips, tmp_path):
    finish = captions(tmp_path, SRT)
    later = finish.model_copy(update={"captions": finish.captions.model_copy(update={"later": 10.0})})
    fill = Placement(tightness=F(1))
    blank = drawn(clips, WIDE, placement=fill)
    touched = np.argwhere(drawn(clips, WIDE, time=F(1, 2), placement=fill, finish=finish) != blank)
    assert 0.8 * 360 < touched[:, 0].min() <= touched[:, 0].max() <= 0.95 * 360 + 1
    assert (drawn(clips, WIDE, time=F(1, 2), placement=fill, finish=later) == blank).all()
    assert (drawn(clips, WIDE, time=F(21, 2), placement=fill, finish=later) != blank).any()


def test_a_letter_no_font_has_is_told_before_anything_is_drawn(clips, tmp_path):
    late = "1\n00:00:01,000 --> 00:00:02,000\nGood\n\n2\n00:50:00,000 --> 00:50:02,000\nБад\n"
    with pytest.raises(BadRequest, match=r"c\.srt: Line 6: Archivo has no"):
        drawn(clips, WIDE, finish=captions(tmp_path, late))


def test_contrast_is_as_the_guidelines_compute_it():
    """WCAG 2.2: black on white 21:1; #767676 on white is the lightest grey that passes 4.5:1 (common practice)."""
    white, grey, lighter, black = (luminance(np.full(3, code / 255)) for code in (255, 0x76, 0x77, 0))
    assert contrast(white, black) == pytest.approx(21)
    assert contrast(white, grey) == pytest.approx(4.54, abs=0.01)
    assert contrast(white, lighter) < 4.5


def test_words_that_cannot_be_read_are_found_and_made_readable(clips):
    seen = sample(clips, WIDE)
    bad = Plan(
        frame=WIDE,
        surround=Graphic(heading="Depot", colour="#777777", ground=Plain(colour="#8a8a8a")),
        finish=Finish(titles=(Title(text="Nine", colour="#909090"),)),
    )
    before = legibility(bad, seen)
    assert [one.what for one in before] == ["panel", "title 1"]
    assert not any(one.readable for one in before)
    assert all("under 4.5:1" in one.summary for one in before)
    after = legibility(readable(bad, seen), seen)
    assert all(one.ratio >= 4.5 for one in after)


def test_a_busy_ground_counts_by_its_worst_parts(clips):
    seen = sample(clips, WIDE)
    calm, busy = (
        legibility(Plan(frame=WIDE, surround=Graphic(heading="Depot", ground=ground)), seen)[0].ratio
        for ground in (
            Plain(colour="#404040"),
            AnimatedPattern(pattern="water_light", first="#000000", second="#c0c0c0"),
        )
    )
    assert busy < calm


def test_words_without_a_place_say_so(clips):
    filled = Plan(frame=WIDE, placement=Placement(tightness=F(1)), surround=Graphic())
    assert "no place is free" in legibility(filled, sample(clips, WIDE))[0].summary
    out = Plan(frame=WIDE, finish=Finish(titles=(Title(text="A title at the very edge", x=2),)))
    assert "title-safe" in legibility(out, sample(clips, WIDE))[0].summary


@pytest.mark.parametrize("active", [F(239, 100), F(185, 100), F(4, 3), None])
@pytest.mark.parametrize("words", ["title", "captions"])
def test_words_stand_clear_of_the_edge_of_the_active_picture(clips, tmp_path, active, words):
    """Neither across it nor behind it, wherever they stand to begin with."""
    frame = WIDE.model_copy(update={"active": active})
    finish = Finish(titles=(new_title(frame, "Depot"),))
    if words == "captions":
        path = tmp_path / "words.srt"
        path.write_text("1\n00:00:00,000 --> 00:00:01,000\nDepot and square\n")
        finish = Finish(captions=Captions(of=str(path), place="low"))
    plan = {"surround": DARK, "finish": finish}
    clips = {frame: clips[WIDE]}
    with_words = drawn(clips, frame, **plan)
    without = drawn(clips, frame, surround=DARK)
    top, bottom, left, right = where(np.abs(with_words - without), 20)
    rect = frame.active_rect
    assert rect.y + rect.height / 2 < top
    assert bottom < rect.bottom - rect.height / 50
    assert rect.x < left < right < rect.right
