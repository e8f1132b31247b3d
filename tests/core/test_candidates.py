from fractions import Fraction

import pytest

from cadrage.footage import Interpretation, candidates, describe, probe, resolve
from cadrage.formats import SOURCES
from tests.clips import write_clip

# ITU-T H.264, table E-1, sample aspect ratio indicator; from memory.
TABLE_E1 = [
    "1",
    "12/11",
    "10/11",
    "16/11",
    "40/33",
    "24/11",
    "20/11",
    "32/11",
    "80/33",
    "18/11",
    "15/11",
    "64/33",
    "160/99",
    "4/3",
    "3/2",
    "2",
]


def shapes(path):
    return {candidate.pixel_aspect: candidate for candidate in candidates(probe(path))}


def tape(folder, aspect, size=(720, 576)):
    return write_clip(folder / "tape.mp4", size=size, frames=2, pixel_aspect=Fraction(aspect), sound=None)


def test_sampled_aspects_are_those_of_the_standard():
    published = {Fraction(text) for text in TABLE_E1}
    assert all(row.pixel_aspect in published for row in SOURCES if row.convention != "stated")


@pytest.mark.parametrize(
    ("height", "shape", "sampled"),
    [(480, "4:3", "10/11"), (480, "16:9", "40/33"), (576, "4:3", "12/11"), (576, "16:9", "16/11")],
)
def test_704_samples_carry_the_picture_in_one_convention_and_720_in_the_other(height, shape, sampled):
    """Two conventions for one raster (ITU-R BT.601-7 and arithmetic; from memory)."""
    across, down = map(int, shape.split(":"))
    rows = [row for row in SOURCES if (row.width, row.height) == (720, height) and row.name.endswith(shape)]
    aspects = {row.convention: row.pixel_aspect for row in rows}
    assert aspects["sampled"] == Fraction(sampled)
    assert 704 * aspects["sampled"] / height == Fraction(across, down)
    assert 720 * aspects["stated"] / height == Fraction(across, down)


def test_a_tape_has_both_conventions_in_both_shapes(tmp_path):
    found = shapes(tape(tmp_path, "12/11"))
    assert set(found) == {Fraction(text) for text in ("12/11", "16/15", "16/11", "64/45", "1")}
    first = next(iter(found.values()))
    assert first.pixel_aspect == Fraction(12, 11)
    assert first.evidence == ("the file says so", "625-line 4:3, as sampled")
    assert found[Fraction(16, 15)].shape == "4:3"


def test_a_statement_that_fits_no_known_format_is_doubted(tmp_path):
    found = shapes(tape(tmp_path, "3/2"))
    assert found[Fraction(3, 2)].evidence == ("the file says so",)
    assert found[Fraction(3, 2)].doubts == ("no known format of this size has it",)


def test_container_and_stream_that_contradict_each_other_are_both_shown(tmp_path):
    info = probe(tape(tmp_path, "12/11")).model_copy(update={"stream_aspect": Fraction(16, 15)})
    found = {candidate.pixel_aspect: candidate for candidate in candidates(info)}
    assert found[Fraction(12, 11)].evidence[0] == "the container says so"
    assert found[Fraction(16, 15)].evidence[0] == "the stream says so"
    assert all("contradict" in found[Fraction(text)].doubts[0] for text in ("12/11", "16/15"))


def test_a_full_aperture_raster_may_be_anamorphic(tmp_path):
    assert shapes(tape(tmp_path, "1", (512, 384)))[Fraction(2)].shape == "2.67"


@pytest.mark.parametrize("aspect", ["1000", "1/50"])
def test_a_pixel_aspect_that_nothing_has_is_not_believed(tmp_path, aspect):
    info = probe(tape(tmp_path, "1")).model_copy(update={"pixel_aspect": Fraction(aspect), "stream_aspect": None})
    assert resolve(info, Interpretation()).picture.pixel_aspect == 1
    assert "nothing has" in next(fact.value for fact in describe(info) if fact.name == "Pixel aspect")
    assert Fraction(aspect) not in {candidate.pixel_aspect for candidate in candidates(info)}


def test_hd_squeezed_on_tape(tmp_path):
    found = shapes(tape(tmp_path, "1", (1440, 1080)))
    assert found[Fraction(4, 3)].shape == "16:9"


def test_an_upright_flag_turns_the_shape(small_clip, tmp_path):
    path = write_clip(tmp_path / "up.mp4", size=(640, 360), frames=2, rotation=90)
    assert shapes(path)[Fraction(1)].shape == "9:16"
