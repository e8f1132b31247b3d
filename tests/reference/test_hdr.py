"""HDR and wide colour beside `colour-science` and the figures of the ITU's reports."""

import warnings
from fractions import Fraction as F

import numpy as np
import pytest

from cadrage.compose import Compositor
from cadrage.compose.target import HD, HLG, PQ, SD_525, SD_625, WIDE
from cadrage.footage import Interpretation, probe
from cadrage.formats import Frame
from cadrage.pixels.colour import Colour, rgb_from_ycc
from cadrage.pixels.gamut import GAMUT_OF_CODE, gamut_change
from cadrage.pixels.light import WHITE, codes_of, relit
from cadrage.pixels.planes import LUMA, Layout, Planes, Subsampling
from cadrage.pixels.relight import LightChange
from cadrage.pixels.transfer import hlg_coded, hlg_scene, pq_coded, pq_light, rolled_off
from cadrage.plan import Plan
from cadrage.surrounds import Plain
from tests.clips import write_clip

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    import colour
    from colour.models import eotf_inverse_ST2084, eotf_ST2084, oetf_BT2100_HLG, oetf_inverse_BT2100_HLG

SPACES = {
    "bt709": "ITU-R BT.709",
    "bt601-525": "SMPTE 240M",  # has the primaries of SMPTE 170M
    "bt601-625": "ITU-R BT.470 - 625",
    "bt2020": "ITU-R BT.2020",
    "p3-d65": "P3-D65",
    "ntsc-1953": "NTSC (1953)",
}
COLOURS = np.array([(r, g, b) for r in (0.1, 0.5, 0.9) for g in (0.1, 0.5, 0.9) for b in (0.1, 0.5, 0.9)])


@pytest.mark.parametrize("source", sorted(SPACES))
@pytest.mark.parametrize("target", ["bt709", "bt2020", "bt601-625"])
def test_primaries_are_those_of_colour_science(source, target):
    one, other = colour.RGB_COLOURSPACES[SPACES[source]], colour.RGB_COLOURSPACES[SPACES[target]]
    wanted = colour.matrix_RGB_to_RGB(one, other, chromatic_adaptation_transform="Bradford")
    assert np.abs(gamut_change(source, target) - wanted).max() < 2e-4  # its tables are rounded


def test_bt709_in_bt2020_is_what_the_itu_prints():
    """ITU-R BT.2087-0, annex 2, the matrix M2; from memory."""
    printed = [[0.6274, 0.3293, 0.0433], [0.0691, 0.9195, 0.0114], [0.0164, 0.0880, 0.8956]]
    assert np.abs(gamut_change("bt709", "bt2020") - printed).max() < 1e-4


def test_every_code_of_primaries_has_its_gamut():
    assert set(GAMUT_OF_CODE) == {1, 4, 5, 6, 7, 8, 9, 11, 12, 22}  # ITU-T H.273, table 2, but for XYZ


def test_curves_are_those_of_colour_science():
    light = np.array([0, 0.005, 0.1, 1, 18, 100, 203, 1000, 4000, 10000.0])
    assert np.abs(pq_coded(light) - eotf_inverse_ST2084(light)).max() < 1e-9
    codes = np.linspace(0, 1, 65)
    assert np.abs(pq_light(codes) - eotf_ST2084(codes)).max() < 1e-6
    scene = np.linspace(1 / 64, 1, 64)
    with np.errstate(invalid="ignore"):
        wanted = oetf_BT2100_HLG(scene)
    assert np.abs(hlg_coded(scene) - wanted).max() < 1e-6
    assert np.abs(hlg_scene(codes) - oetf_inverse_BT2100_HLG(codes)).max() < 1e-6


def test_graphics_white_is_where_the_itu_has_it():
    """ITU-R BT.2408-7, table 1: 203 cd/m² is 58% of PQ and 75% of HLG; SDR's 100% goes there (5.1.1)."""
    assert relit(np.ones(3), WHITE, PQ) == pytest.approx([0.58] * 3, abs=0.002)
    assert relit(np.ones(3), WHITE, HLG) == pytest.approx([0.75] * 3, abs=0.002)
    for target, wanted in ((PQ, 0.5807), (HLG, 0.7499)):
        y, cb, cr = codes_of("#ffffff", target, 10)
        assert (y - 64) / 876 == pytest.approx(wanted, abs=0.0005)
        assert (cb, cr) == pytest.approx((512, 512), abs=0.01)


def eetf(coded, source_peak, target_peak):
    """The EETF of ITU-R BT.2390-10, 5.4.1, step by step, on PQ codes; from memory."""
    top = float(eotf_inverse_ST2084(source_peak))
    e1 = min(coded / top, 1)
    most = float(eotf_inverse_ST2084(target_peak)) / top
    knee = 1.5 * most - 0.5
    if e1 < knee:
        return coded
    t = (e1 - knee) / (1 - knee)
    p = (2 * t**3 - 3 * t**2 + 1) * knee + (t**3 - 2 * t**2 + t) * (1 - knee) + (-2 * t**3 + 3 * t**2) * most
    return p * top


@pytest.mark.parametrize("peak", [400, 1000, 4000, 10000])
def test_hdr_is_rolled_off_as_the_itu_says(peak):
    for light in (0.01, 1, 20, 80, 100, 203, 400, 900, 4000):
        if light <= peak:
            wanted = eotf_ST2084(eetf(float(eotf_inverse_ST2084(light)), peak, 203))
            assert rolled_off(np.array(float(light)), peak, 203) == pytest.approx(wanted, rel=1e-6)
    assert rolled_off(np.array(float(peak)), peak, 203) == pytest.approx(203)


@pytest.mark.parametrize(
    ("source", "target"),
    [
        (PQ, HD),
        (HLG, HD),
        (WIDE, HD),
        (SD_525, HD),
        (SD_625, HD),
        (HD, SD_525),
        (HD, PQ),
        (HD, HLG),
        (PQ, HLG),
        (HLG, PQ),
    ],
)
def test_pictures_are_converted_as_single_colours_are(source, target):
    """What tables do, beside the formula; colours inside both ranges, within 1 code of 10 bits."""
    low = 0.1 if target.curve == source.curve == "sdr" else 0.05
    rgb = low + (0.72 - low) * COLOURS
    if target.curve == "sdr":  # little of BT.2020's colours lies in BT.709
        rgb = rgb.mean(axis=1, keepdims=True) + 0.3 * (rgb - rgb.mean(axis=1, keepdims=True))
    layout = Layout(len(rgb), 4, 16, LUMA, source)
    stored = Planes.empty(layout)
    codes = rgb @ np.linalg.inv(rgb_from_ycc(source.matrix)).T
    black, luma, chroma = source.code_range(16)
    for plane, (origin, unit) in enumerate(((black, luma), (32768, chroma), (32768, chroma))):
        stored.arrays[plane][:] = np.rint(origin + unit * codes[:, plane])[None, :]
    made = LightChange(layout, target).apply(stored)
    wanted = relit(rgb, source, target) @ np.linalg.inv(rgb_from_ycc(target.matrix)).T
    black, luma, chroma = target.code_range(16)
    for plane, (origin, unit) in enumerate(((black, luma), (32768, chroma), (32768, chroma))):
        far = np.abs(made.arrays[plane][1].astype(float) - (origin + unit * wanted[:, plane]))
        assert far.max() <= 64, (source, target, plane)  # a code of 10 bits


@pytest.mark.parametrize(
    ("source", "space"),
    [(SD_525, "SMPTE 240M"), (SD_625, "ITU-R BT.470 - 625"), (WIDE, "ITU-R BT.2020")],
)
def test_primaries_in_an_hd_frame_beside_colour_science(tmp_path, source, space):
    """Composed beside what `colour-science` makes of the same light, within 1 code of 8 bits."""
    info = probe(write_clip(tmp_path / "hd.mp4", size=(64, 64), frames=1, tags=(6, 6, 6)))
    for rgb in ((0.5, 0.5, 0.5), (0.7, 0.6, 0.5), (0.5, 0.55, 0.5), (0.5, 0.45, 0.5)):
        linear = np.array(rgb) ** 2.4
        wide = colour.RGB_to_RGB(linear, space, "ITU-R BT.709", chromatic_adaptation_transform=None)
        y, cb, cr = np.linalg.inv(rgb_from_ycc("bt709")) @ (np.clip(wide, 0, None) ** (1 / 2.4))
        drawn = _through(info, source, rgb)
        for plane, wanted in zip(drawn, (16 + 219 * y, 128 + 224 * cb, 128 + 224 * cr), strict=True):
            assert np.abs(plane - wanted).max() <= 1


def _through(info, colour_of_clip, rgb):
    layout = Layout(64, 64, 10, Subsampling.left(2, 2), colour_of_clip)
    stored = Planes.empty(layout)
    y, cb, cr = np.linalg.inv(rgb_from_ycc(colour_of_clip.matrix)) @ np.array(rgb)
    for array, code in zip(stored.arrays, (64 + 876 * y, 512 + 896 * cb, 512 + 896 * cr), strict=True):
        array[:] = round(code)
    taken = info.model_copy(
        update={
            "matrix": colour_of_clip.matrix_code,
            "primaries": colour_of_clip.primaries,
            "transfer": colour_of_clip.transfer,
        }
    )
    plan = Plan(frame=Frame(width=1280, height=1280), placement={"tightness": F(1)}, surround=Plain())
    drawn = Compositor(plan, layout, taken).compose(stored)
    return [array[8:-8, 8:-8].astype(float) for array in drawn.arrays]


def test_what_an_interpretation_says_of_colour_counts():
    from cadrage.footage.interpretation import colour_of

    info = _untagged()
    assert colour_of(info).curve == "sdr"
    said = colour_of(info, Interpretation(transfer="pq"))
    assert (said.curve, said.matrix, said.gamut) == ("pq", "bt2020", "bt2020")
    assert colour_of(info, Interpretation(primaries="p3-d65")).gamut == "p3-d65"


def _untagged():
    from cadrage.footage import MediaInfo

    return MediaInfo(
        container="mov", codec="hevc", width=1920, height=1080, pixel_aspect=F(1), rotation=0, rotation_flag=0,
        mirrored=False, rate=F(25), rate_stated=True, rate_varies=False, shortest_frame=F(1, 25),
        longest_frame=F(1, 25), duration=F(1), frames=25, field_order="progressive", pixel_format="yuv420p10le",
        depth=10, chroma="4:2:0", matrix=2, primaries=2, transfer=2, full_range=False, sounds=(),
    )  # fmt: skip


def test_colours_of_words_keep_their_looks_in_frames_of_other_primaries():
    assert codes_of("#808080", SD_525, 8) == pytest.approx(codes_of("#808080", HD, 8), abs=0.01)
    assert codes_of("#c04040", Colour("bt601"), 8) == pytest.approx(
        codes_of("#c04040", Colour("bt601", primaries=1), 8)
    )
