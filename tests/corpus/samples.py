"""Samples, colours, sizes, shapes, fields, and pictures that lie on their side."""

import struct
from collections.abc import Callable
from math import cos, radians, sin
from pathlib import Path

from tests.corpus.making import MPEG2, SD, X264, X265, Maker, Member, encoded

LAYOUTS, COLOURS, SIZES, SHAPES, FIELDS = "Sample layouts", "Colours", "Sizes", "Turning and pixel shapes", "Fields"

PIXELS = (
    *("yuv420p", "yuv422p", "yuv444p", "yuv410p", "yuv411p", "yuv440p", "gray", "gray10le", "gray16le", "gray12le"),
    *("yuv420p10le", "yuv422p10le", "yuv444p10le", "yuv420p12le", "yuv422p12le", "yuv444p12le", "yuv444p16le"),
    *("yuv420p16le", "yuva420p", "yuva422p", "yuva444p", "bgra", "bgr0", "gbrp", "gbrp10le", "gbrp12le", "gbrp16le"),
)
RAW = (
    "nv12",
    "yuyv422",
    "uyvy422",
    "rgb24",
    "bgr24",
    "argb",
    "rgb565le",
    "rgb555le",
    "monob",
    "pal8",
    "p010le",
    "gray",
)


def _layouts() -> list[Member]:
    made = [Member(f"MKV: FFV1, {name}", LAYOUTS, "clip.mkv", encoded(f"ffv1 -pix_fmt {name}")) for name in PIXELS]
    for name in RAW:
        more = "-f nut" if name != "nv12" else ""
        suffix = "nut" if more else "mkv"
        made.append(
            Member(f"uncompressed {name}", LAYOUTS, f"clip.{suffix}", encoded(f"rawvideo -pix_fmt {name}", more=more))
        )
    for name in ("yuvj420p", "yuvj422p", "yuvj444p"):
        make = encoded(f"mjpeg -q:v 2 -pix_fmt {name}")
        made.append(Member(f"AVI: motion JPEG, {name}", LAYOUTS, "clip.avi", make))
    for name in ("yuv420p10le", "yuv422p", "yuv422p10le", "yuv444p", "gray"):
        make = encoded(f"{X264} -pix_fmt {name}", "aac")
        made.append(Member(f"MP4: H.264, {name}", LAYOUTS, "clip.mp4", make))
    for name in ("yuv420p10le", "yuv422p10le", "yuv444p12le", "gray"):
        make = encoded(f"{X265} -pix_fmt {name}", "aac")
        made.append(Member(f"MKV: H.265, {name}", LAYOUTS, "clip.mkv", make))
    return made


def _colours() -> list[Member]:
    made = []
    for matrix in ("bt709", "smpte170m", "bt470bg", "smpte240m", "fcc", "bt2020nc", "ycgco", "gbr", "bt2020c"):
        pixels = " -pix_fmt gbrp" if matrix == "gbr" else ""
        video = f"{'libx264rgb -preset ultrafast -crf 12 -pix_fmt rgb24' if matrix == 'gbr' else X264}"
        make = encoded(f"{video} -colorspace {matrix}" if not pixels else video)
        made.append(Member(f"matrix {matrix}", COLOURS, "clip.mp4", make))
    for transfer in ("smpte2084", "arib-std-b67", "linear", "iec61966-2-1", "gamma28", "log100"):
        make = encoded(
            f"{X265} -pix_fmt yuv420p10le -color_trc {transfer} -color_primaries bt2020 -colorspace bt2020nc"
        )
        made.append(Member(f"transfer {transfer}", COLOURS, "clip.mp4", make))
    for primaries in ("bt470m", "bt470bg", "smpte170m", "film", "smpte432", "bt2020"):
        make = encoded(f"{X264} -color_primaries {primaries}")
        made.append(Member(f"primaries {primaries}", COLOURS, "clip.mp4", make))
    for span in ("tv", "pc"):
        for suffix in ("mp4", "mkv"):
            make = encoded(f"{X264} -color_range {span}")
            made.append(Member(f"{suffix.upper()}: range {span}", COLOURS, f"clip.{suffix}", make))

    def contradicting(maker: Maker, path: Path) -> None:
        source = maker.source("tagged.mp4", X264 + " -colorspace bt709 -color_primaries bt709 -color_trc bt709", "aac")
        maker.copy(source, path, "-bsf:v", "h264_metadata=matrix_coefficients=6:colour_primaries=6")

    made.append(Member("container and stream contradict each other", COLOURS, "clip.mov", contradicting))
    return made


def _sizes() -> list[Member]:
    made = []
    for size in ((16, 16), (17, 17), (18, 300), (300, 18), (321, 181), (130, 66), (640, 16)):
        make = encoded("ffv1", size=size, frames=12)
        name = f"{size[0]}×{size[1]}"
        made.append(Member(f"MKV: FFV1, {name}", SIZES, "clip.mkv", make, count=min(size) > 100))
    for size in ((98, 50), (1918, 1078), (4096, 64), (8192, 64), (2048, 1152)):
        make = encoded(X264, "aac", size=size, frames=12)
        made.append(Member(f"MP4: {size[0]}×{size[1]}", SIZES, "clip.mp4", make))
    for size in ((1, 1), (2, 2), (15, 400), (16384, 16), (8200, 20)):
        make = encoded("ffv1", size=size, frames=3)
        made.append(Member(f"MKV: FFV1, {size[0]}×{size[1]}", SIZES, "clip.mkv", make, "refused"))

    def cropped(maker: Maker, path: Path) -> None:
        source = maker.source("uncropped.mp4", X264, "aac")
        maker.copy(source, path, "-bsf:v", "h264_metadata=crop_top=8:crop_bottom=10:crop_left=4:crop_right=2")

    made.append(Member("MP4: H.264 cropped in its parameter sets", SIZES, "clip.mp4", cropped))
    made.append(Member("MKV: H.264 cropped in its parameter sets", SIZES, "clip.mkv", cropped))
    return made


def _turned(degrees: int, suffix: str) -> Callable[[Maker, Path], None]:
    def make(maker: Maker, path: Path) -> None:
        _with_matrix(maker.source(f"upright.{suffix}", X264, "aac"), path, degrees)

    return make


def _with_matrix(source: Path, path: Path, degrees: int) -> None:
    """A display matrix written into the track header, as phones do (ISO/IEC 14496-12, tkhd)."""
    data = bytearray(source.read_bytes())
    at = data.index(b"tkhd") + 4 + 4 + 36
    a, b = round(cos(radians(degrees)) * 65536), round(sin(radians(degrees)) * 65536)
    struct.pack_into(">9i", data, at, a, b, 0, -b, a, 0, 0, 0, 1 << 30)
    path.write_bytes(data)


def _by_sei(video: str, bsf: str) -> Callable[[Maker, Path], None]:
    def make(maker: Maker, path: Path) -> None:
        maker.copy(maker.source(f"plain-{video[:7]}.mp4", video, "aac"), path, "-bsf:v", bsf)

    return make


def _shapes() -> list[Member]:
    made = []
    for degrees in (90, 180, 270, 45, 10):
        for suffix in ("mp4", "mov"):
            name = f"{suffix.upper()}: turned {degrees}° by its matrix"
            made.append(Member(name, SHAPES, f"clip.{suffix}", _turned(degrees, suffix)))
    for suffix in ("ts", "mkv", "mp4"):
        for name, option in (("90°", "rotate=90"), ("180°", "rotate=180"), ("mirrored", "flip=horizontal")):
            bsf = f"h264_metadata=display_orientation=insert:{option}"
            made.append(Member(f"{suffix.upper()}: H.264 says {name}", SHAPES, f"clip.{suffix}", _by_sei(X264, bsf)))
    for aspect in ("16/15", "64/45", "8/9", "32/27", "4/3", "2/1", "1/2"):
        for suffix, video in (("mp4", X264), ("mkv", X264), ("mpg", MPEG2), ("mov", "prores_ks")):
            if suffix != "mpg" or aspect in ("16/15", "64/45"):
                make = encoded(f"{video} -vf setsar={aspect}", size=SD if suffix == "mpg" else (192, 108), frames=12)
                made.append(Member(f"{suffix.upper()}: pixels {aspect}", SHAPES, f"clip.{suffix}", make))
    return made


def _fields() -> list[Member]:
    made = []
    for order, flag in (("upper", "1"), ("lower", "0")):
        coded = f"-flags +ilme+ildct -top {flag} -vf setfield={'tff' if flag == '1' else 'bff'}"
        for suffix, audio in (
            ("mpg", "mp2"),
            ("ts", "mp2"),
            ("mov", "pcm_s16le"),
            ("mxf", "pcm_s16le"),
            ("mkv", "mp2"),
        ):
            make = encoded(f"mpeg2video -q:v 2 -bf 2 {coded}", audio, size=SD)
            made.append(Member(f"{suffix.upper()}: MPEG-2, {order} field first", FIELDS, f"clip.{suffix}", make))
        x264 = f"{X264} -flags +ilme+ildct -x264-params {'tff' if flag == '1' else 'bff'}=1"
        for suffix in ("mp4", "ts", "mkv"):
            make = encoded(x264, "aac", size=(192, 128))
            made.append(Member(f"{suffix.upper()}: H.264, {order} field first", FIELDS, f"clip.{suffix}", make))
        prores = f"prores_ks -flags +ildct -top {flag} -vf setfield={'tff' if flag == '1' else 'bff'}"
        made.append(Member(f"MOV: ProRes, {order} field first", FIELDS, "clip.mov", encoded(prores, size=SD)))
    telecine = "-vf telecine=pattern=23 -r 30000/1001"
    make = encoded(f"{MPEG2} {telecine}", "mp2", size=(720, 480))
    made.append(Member("MPG: film telecined to 29.97", FIELDS, "clip.mpg", make, count=False))
    return made


def members() -> list[Member]:
    """All of these."""
    return [*_layouts(), *_colours(), *_sizes(), *_shapes(), *_fields()]
