"""Names of files and the delivery sheet."""

import csv
import io
import json
from datetime import UTC, datetime
from fractions import Fraction

import numpy as np
import pytest
from pydantic import ValidationError

from cadrage.compose import Previewer
from cadrage.compose.shots import telling_moments
from cadrage.footage import probe
from cadrage.formats import Frame
from cadrage.inspection import Inspection, Line
from cadrage.inspection.sheet import SheetRow, sheet_csv, sheet_html, sheet_json
from cadrage.motion import Motion, Push
from cadrage.output import OUTPUT_FORMATS, Settings
from cadrage.output.names import file_name
from cadrage.plan import Plan, Shot
from cadrage.render import RenderRequest, estimate, render
from tests.clips import moving_square, write_clip

PARTS = {"project": "Wall", "clip": "Number 7", "frame": "Foyer"}


def test_names_are_made_by_a_pattern_and_never_taken_twice():
    assert file_name("{project}_{clip}_{frame}", PARTS, ".mov") == "Wall_Number 7_Foyer.mov"
    taken = {"Number 7.mp4", "Number 7 2.mp4"}
    assert file_name("{clip}", PARTS, ".mp4", taken) == "Number 7 3.mp4"


@pytest.mark.parametrize("clip", ["../../etc/passwd", "a/b", "..", "con\x00trol", "x" * 400, "<b>"])
def test_no_name_leads_elsewhere(clip):
    name = file_name("{clip}", {"clip": clip}, ".mp4")
    assert "/" not in name
    assert "\x00" not in name
    assert not name.startswith(".")
    assert len(name) <= 130


@pytest.mark.parametrize("pattern", ["{clip.__class__}", "{clip!r}", "{clip:>99}", "{owner}", "{0}", "{clip", ""])
def test_patterns_hold_only_what_there_is(pattern):
    with pytest.raises(ValidationError):
        Settings(filename_template=pattern)


ROW = SheetRow(
    file="Wall <1>.mp4",
    clip="=SUM(A1)",
    source="1920×1080 turned 90°",
    part="whole_clip",
    frame="Foyer 1920×1080",
    placement="whole picture",
    movement="stands",
    kept_percent=100,
    covered_percent=31.64,
    enlargement=0.5625,
    surround="blurred copy",
    finish="shadow",
    settings="MP4, H.264, 1920×1080",
    bytes=123456,
    sha256="ab" * 32,
    finished="2026-11-25T12:00:00+00:00",
    inspection=Inspection(
        file="1.mp4",
        lines=(
            Line(name="Size", asked="1920×1080", found="1920×1080", verdict="right"),
            Line(name="Rate", asked="25", found="24", verdict="wrong", remedy="Render again."),
        ),
        right=False,
    ),
)


def test_the_sheet_says_the_same_in_three_forms():
    page = sheet_html("Wall & more", [ROW], [[b"jpeg", b"late"]])
    assert "Wall &amp; more: delivery sheet" in page
    assert "Wall &lt;1&gt;.mp4" in page
    assert "Files: 1; passed: 0" in page
    assert "Fail Render again." in page
    assert ROW.sha256 in page
    assert page.count("<img") == 2
    read = json.loads(sheet_json("Wall", [ROW]))
    assert SheetRow.model_validate(read["files"][0]) == ROW
    header, values = csv.reader(io.StringIO(sheet_csv([ROW])))
    found = dict(zip(header, values, strict=True))
    assert (found["Rate"], found["right"], found["sha256"]) == ("24", "no", ROW.sha256)


def test_what_moves_is_shown_at_both_ends_of_every_shot_and_told_at_its_worst(tmp_path):
    clip = write_clip(tmp_path / "clip.mp4", frames=50, sound=None)
    info = probe(clip)
    still = Plan(frame=Frame(width=180, height=320))
    assert telling_moments(still, info) == (Fraction(1),)
    moving = still.model_copy(update={"motion": Motion(move=Push(percent=Fraction(100)))})
    assert telling_moments(moving, info) == (0, Fraction(49, 50), Fraction(49, 25))
    cut = still.model_copy(update={"shots": (Shot(start=Fraction(0)), Shot(start=Fraction(4, 5)))})
    assert telling_moments(cut, info) == tuple(Fraction(at, 50) for at in (0, 19, 38, 40, 69, 98))
    pictures = Previewer().telling(cut, clip, info, 60)
    assert len(pictures) == 6
    assert len(set(pictures)) == 6  # the square in it moves
    request = RenderRequest(moving, clip, info)
    row = SheetRow.of("out.mp4", request, clip, "ab", datetime.now(UTC), ROW.inspection)
    assert row.movement == "push in, 100%"
    assert (row.kept_percent, row.enlargement) == (50, 1.125)


def test_no_spreadsheet_takes_a_name_for_a_formula():
    assert "'=SUM(A1)" in sheet_csv([ROW])


@pytest.mark.parametrize(
    "settings",
    [
        Settings(),
        Settings(quality="draft"),
        Settings(rate_control="rate", rate=400),
        Settings(kind="mov-prores", sound="pcm-16"),
    ],
    ids=lambda one: f"{one.kind} {one.quality} {one.rate_control}",
)
def test_a_size_is_estimated_from_frames_that_are_encoded(tmp_path, settings):
    """Within a third for players' files, whose frames differ, and a tenth for studio ones, whose frames do not."""
    random = np.random.default_rng(3)

    def paint(number):
        grain = random.integers(0, 40, (180, 320, 3), np.uint8)
        return moving_square(320, 180)(number) // 2 + grain

    source = write_clip(tmp_path / "in.mp4", frames=45, paint=paint, sound=None)
    info, plan = probe(source), Plan(frame=Frame(width=320, height=180))
    found = estimate(RenderRequest(plan, source, info, settings=settings))
    target = tmp_path / f"out{OUTPUT_FORMATS[settings.kind].suffix}"
    render(plan, source, target, info, settings=settings)
    near = 0.1 if settings.kind == "mov-prores" else 0.34
    assert found.bytes == pytest.approx(target.stat().st_size, rel=near)
    assert found.measured == (settings.rate_control == "quality")
