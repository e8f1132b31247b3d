"""Files of fields: which moment each field shows, and what ffprobe says of their order."""

import subprocess
from fractions import Fraction as F

import numpy as np
import pytest

from cadrage.errors import BadRequest
from cadrage.footage import Interpretation, probe
from cadrage.formats import Frame
from cadrage.inspection import inspect_file
from cadrage.output import Settings, encoder_config
from cadrage.plan import Plan, Range
from cadrage.render import RenderRequest, render
from cadrage.render.segments import finish
from cadrage.render.workspace import RenderWorkspace
from tests.film import HEIGHT, WIDTH, decoded, number_of, picture, write
from tests.sampling import a_part_of

KINDS = {"mp4": "mp4-h264", "mov": "mov-prores", "mkv": "mkv-ffv1"}
ORDERS = ("upper_first", "lower_first")


@pytest.fixture(scope="module")
def fifty(tmp_path_factory):
    """Fifty whole pictures a second, each with its number."""
    path = tmp_path_factory.mktemp("fifty") / "p50.mp4"
    return write(path, map(picture, range(60)), "-c:v", "libx264", "-crf", "8", rate="50")


def numbers(path, order):
    """The numbers that the fields of a file carry, in the order in which they are shown."""
    shown = []
    for luma in decoded(path):
        fields = [np.repeat(luma[line::2], 2, axis=0) for line in (0, 1)]
        shown += [number_of(field) for field in (fields if order == "upper_first" else fields[::-1])]
    return shown


def said(path):
    asked = ("-show_entries", "stream=field_order:frame=interlaced_frame,top_field_first", "-of", "csv=p=0")
    command = ["ffprobe", "-v", "error", "-select_streams", "v", *asked, "-read_intervals", "%+#1", str(path)]
    return subprocess.run(command, check=True, capture_output=True, text=True).stdout.split()


@pytest.mark.parametrize("kind", a_part_of(sorted(KINDS), 2))
@pytest.mark.parametrize("order", ORDERS)
def test_each_field_shows_its_own_moment(fifty, tmp_path, kind, order):
    target = tmp_path / f"out.{kind}"
    plan = Plan(frame=Frame(width=WIDTH, height=HEIGHT, rate=25, fields=order))
    settings = Settings(kind=KINDS[kind], sound="none", quality="nearly_lossless")
    info = probe(fifty)
    render(plan, fifty, target, info, settings=settings)
    assert numbers(target, order) == list(range(60))
    inspection = inspect_file(target, RenderRequest(plan, fifty, info, settings=settings))
    assert inspection.right, [line for line in inspection.lines if line.verdict == "wrong"]
    assert probe(target).rate == 25
    frame, stream = said(target)[0].rstrip(","), said(target)[-1]
    assert frame.startswith("1,1" if order == "upper_first" else "1,0")
    assert stream.rstrip(",") in {"upper_first": ("tt", "tb"), "lower_first": ("bb", "bt")}[order]


def test_fields_of_a_tape_stay_moments_of_their_own(tmp_path):
    """50 fields in, 50 fields out, at another size: nothing static and nothing is mixed."""
    moments = [picture(number) for number in range(60)]
    frames = []
    for first, second in zip(moments[::2], moments[1::2], strict=True):
        frames.append(second.copy())
        frames[-1][::2] = first[::2]
    tape = write(tmp_path / "tape.mkv", frames, "-c:v", "ffv1", rate="25")
    plan = Plan(
        frame=Frame(width=WIDTH, height=HEIGHT, fields="upper_first"),
        interpretation=Interpretation(fields="upper_first"),
    )
    target = tmp_path / "out.mov"
    render(plan, tape, target, probe(tape), settings=Settings(kind="mov-prores", sound="none"))
    assert probe(target).rate == 25
    assert numbers(target, "upper_first") == list(range(60))


def test_parts_and_ranges_of_fields(fifty, tmp_path):
    plan = Plan(
        frame=Frame(width=WIDTH, height=HEIGHT, rate=25, fields="upper_first"), range=Range(start=F(2, 5), end=F(1))
    )
    order = RenderRequest(plan, fifty, probe(fifty), settings=Settings(sound="none", quality="nearly_lossless"))
    workspace = RenderWorkspace.create_or_resume(tmp_path / "workspace", order, seconds=0.25)
    finish(workspace, tmp_path / "out.mp4")
    assert numbers(tmp_path / "out.mp4", "upper_first") == list(range(20, 50))


def test_what_knows_no_fields_is_refused():
    frame = Frame(width=WIDTH, height=HEIGHT, rate=25, fields="upper_first")
    for kind in ("webm-vp9", "mp4-h265", "mov-dnxhr", "png-stills"):
        with pytest.raises(BadRequest, match="fields"):
            encoder_config(Settings(kind=kind, sound="none"), frame)
    with pytest.raises(BadRequest, match="at most 30"):
        encoder_config(Settings(), frame.model_copy(update={"rate": F(50)}))
