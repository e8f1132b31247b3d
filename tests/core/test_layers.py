"""A framing taken apart and put together again, and files with what is transparent."""

from fractions import Fraction as F

import av
import numpy as np
import pytest

from cadrage.errors import BadRequest
from cadrage.files import files_of
from cadrage.finish import Edge, Finish, Grade
from cadrage.finish.specification import Shadow
from cadrage.footage import open_footage, probe
from cadrage.footage.still_files import read_rgba
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.inspection import inspect_file
from cadrage.inspection.coverage import covered_share
from cadrage.output import Settings
from cadrage.plan import Plan
from cadrage.render import RenderRequest, render
from cadrage.render.segments import finish
from cadrage.render.workspace import RenderWorkspace

PLANS = [
    Plan(frame=Frame(width=320, height=320)),
    Plan(frame=Frame(width=320, height=320), placement=Placement(tightness=F(1, 3), angle=F(7))),
    Plan(
        frame=Frame(width=320, height=320),
        finish=Finish(
            edge=Edge(left=6, right=6, corners=10, outline=4), shadow=Shadow(opacity=60), grade=Grade(exposure=-0.2)
        ),
    ),
    Plan(frame=Frame(width=320, height=320, active=F(2)), placement=Placement(tightness=F(1, 2))),
]


def drawn(clip, plan, **settings):
    order = RenderRequest(plan, clip, probe(clip), settings=Settings(kind="mov-prores-4444", sound="none", **settings))
    with open_footage(clip, order.info) as reader:
        picture = reader.frame_at(F(1, 2))
    return order, picture.planes, order.compositor(picture.planes.layout).compose(picture.planes, time=F(1, 2))


@pytest.mark.parametrize("plan", PLANS, ids=range(len(PLANS)))
def test_the_layers_laid_over_one_another_are_the_framing_again(small_clip, plan):
    _, _, whole = drawn(small_clip, plan)
    _, _, below = drawn(small_clip, plan, layer="surround_alone")
    order, source, above = drawn(small_clip, plan, layer="picture_alone")
    share = order.compositor(source.layout).coverage_at(F(1, 2))
    for one, under, over in zip(whole.arrays, below.arrays, above.arrays, strict=True):
        again = under * (1 - share) + over * share
        # Of 10 bits: what rounding twice leaves, and at soft edges a little more.
        assert np.abs(again - one).max() <= 12
        assert np.abs(again - one).mean() <= 0.5


def alphas(path):
    """Coverage of every frame as it is decoded, 0 to 1."""
    info = probe(path)
    with av.open(str(path)) as container:
        stream = container.streams.video[0]
        own = stream.codec_context
        decoder = av.CodecContext.create("libvpx-vp9", "r") if info.codec == "vp9" else own
        for packet in container.demux(stream):
            for frame in decoder.decode(packet):
                plane, bits = frame.planes[3], frame.format.components[3].bits
                memory = np.frombuffer(plane, np.uint8 if bits == 8 else np.uint16)
                rows = memory.reshape(frame.height, -1)[:, : frame.width]
                yield rows / (2**bits - 1)


@pytest.mark.parametrize("kind", ["mov-prores-4444", "webm-vp9"])
def test_what_is_transparent_survives_parts_and_joining(small_clip, tmp_path, kind):
    suffix = ".mov" if kind.startswith("mov") else ".webm"
    settings = Settings(kind=kind, layer="picture_alone", sound="none", quality="nearly_lossless")
    order = RenderRequest(PLANS[2], small_clip, probe(small_clip), settings=settings)
    target = tmp_path / f"out{suffix}"
    finish(RenderWorkspace.create_or_resume(tmp_path / "workspace", order, seconds=F(1, 3)), target)
    with open_footage(small_clip, order.info) as reader:
        wanted = order.compositor(reader.frame_at(F(0)).planes.layout).coverage_at(F(0))
    found = list(alphas(target))
    assert len(found) == 25
    assert max(np.abs(one - wanted).mean() for one in found) < 0.005
    inspection = inspect_file(target, order)
    assert inspection.right, [line for line in inspection.lines if line.verdict == "wrong"]


@pytest.mark.parametrize("depth", [8, 16])
def test_numbered_stills_are_the_composed_frames(small_clip, tmp_path, depth):
    """PNG loses nothing; what is left is the rounding of Y'CbCr to R'G'B' of 8 bits, at most a code or two."""
    settings = Settings(kind="png-stills", depth=depth, layer="picture_alone", sound="none")
    order, _, _ = drawn(small_clip, PLANS[1])
    order = RenderRequest(PLANS[1], small_clip, order.info, settings=settings)
    target = tmp_path / "out"
    finish(RenderWorkspace.create_or_resume(tmp_path / "workspace", order, seconds=F(1, 2)), target)
    names = [path.name for path in files_of(target)]
    assert (len(names), names[0], names[-1]) == (25, "out.000001.png", "out.000025.png")
    with open_footage(small_clip, order.info) as reader:
        first = reader.frame_at(F(0)).planes
    compositor = order.compositor(first.layout)
    composed = compositor.compose(first, time=F(0))
    y, cb, cr = ((plane.astype(float) / 4) for plane in composed.arrays)
    # BT.601-7, 2.5.1 to 2.5.3: a frame of 320 lines is of that matrix.
    red = 1.164384 * (y - 16) + 1.596027 * (cr - 128)
    green = 1.164384 * (y - 16) - 0.391762 * (cb - 128) - 0.812968 * (cr - 128)
    blue = 1.164384 * (y - 16) + 2.017232 * (cb - 128)
    wanted = np.clip(np.stack([red, green, blue], axis=-1), 0, 255)
    found = read_rgba(target / names[0])
    assert np.abs(found[..., :3] - wanted).max() <= 2
    assert np.abs(found[..., 3] / 255 - compositor.coverage_at(F(0))).max() <= 2 / 255
    inspection = inspect_file(target, order)
    assert inspection.right, [line for line in inspection.lines if line.verdict == "wrong"]


def test_a_file_without_coverage_has_none(small_clip):
    assert covered_share(small_clip, probe(small_clip)) is None


def test_a_kind_that_has_no_place_for_it_is_refused_with_those_that_have(small_clip, tmp_path):
    settings = Settings(kind="mp4-h264", layer="picture_alone")
    with pytest.raises(BadRequest, match="MOV, ProRes 4444"):
        render(PLANS[0], small_clip, tmp_path / "out.mp4", probe(small_clip), settings=settings)
