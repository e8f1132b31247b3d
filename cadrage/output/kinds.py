"""Kinds of file: what each is made with, and what it allows."""

from dataclasses import dataclass, field
from typing import Literal

from cadrage.pixels.planes import CHROMA_420, LUMA, Subsampling

KindName = Literal[
    "mp4-h264",
    "mov-h264",
    "mp4-h265",
    "mov-h265",
    "webm-vp9",
    "webm-av1",
    "mov-prores",
    "mov-prores-4444",
    "mov-dnxhr",
    "mxf-dnxhr",
    "mkv-ffv1",
    "avi-mjpeg",
    "png-stills",
]
SoundName = Literal["keep", "aac-192", "aac-256", "opus", "pcm-16", "pcm-24", "none"]
Depth = Literal[8, 10, 16]
QualityWord = Literal["draft", "good", "high", "nearly_lossless"]
QUALITY_WORDS: tuple[QualityWord, ...] = ("draft", "good", "high", "nearly_lossless")


@dataclass(frozen=True, slots=True)
class PixelFormat:
    """How samples are stored.

    Attributes:
        name: as FFmpeg's libraries call it.
        depth: bits of a sample as it is composed.
        chroma: where chroma lies.
        composed: the format that is composed in, where this one is no Y'CbCr.
        alpha: whether it holds coverage, as a fourth plane of the same depth.
        resolve: what readers decode it to, where that is another.
    """

    name: str
    depth: int
    chroma: Subsampling
    composed: str = ""
    alpha: bool = False
    resolve: str = ""

    @property
    def drawn(self) -> str:
        """The format that is composed in, before it is turned into this one."""
        return self.composed or self.name


STILLS = "stills"
LAMBDA = 118  # of FFmpeg's libraries for one step of a quantiser, FF_QP2LAMBDA
CHROMA_422 = Subsampling.left(2, 1)
CENTRED_422 = Subsampling(2, 1)  # as JFIF 1.02 has it
FORMATS = {
    one.name: one
    for one in (
        PixelFormat("yuv420p", 8, CHROMA_420),
        PixelFormat("yuv420p10le", 10, CHROMA_420),
        PixelFormat("yuvj422p", 8, CENTRED_422),
        PixelFormat("yuv422p", 8, CHROMA_422),
        PixelFormat("yuv422p10le", 10, CHROMA_422),
        PixelFormat("yuv444p", 8, LUMA),
        PixelFormat("yuv444p10le", 10, LUMA, resolve="yuv444p12le"),  # ProRes 4444 is decoded to 12 bits
        PixelFormat("yuva420p", 8, CHROMA_420, alpha=True),
        PixelFormat("yuva444p10le", 10, LUMA, alpha=True, resolve="yuva444p12le"),
        PixelFormat("rgb24", 10, LUMA, "yuv444p10le"),
        PixelFormat("rgba", 10, LUMA, "yuva444p10le", alpha=True),
        PixelFormat("rgb48be", 10, LUMA, "yuv444p10le", resolve="rgb48le"),
        PixelFormat("rgba64be", 10, LUMA, "yuva444p10le", alpha=True, resolve="rgba64le"),
    )
}
"""Every format that is written, by its name."""


@dataclass(frozen=True, slots=True)
class Profile:
    """One way of an encoder.

    Attributes:
        name: what people call it; empty where there is only one.
        formats: pixel formats by depth, the usual first.
        options: the encoder's own for it.
        alphas: pixel formats with coverage by depth; empty where there are none.
    """

    name: str
    formats: dict[Depth, str]
    options: tuple[tuple[str, str], ...] = ()
    alphas: dict[Depth, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class OutputFormat:
    """A kind of file.

    Attributes:
        name: what settings call it.
        title: what people call it.
        suffix: of the file's name.
        muxer, encoder: as FFmpeg's libraries call them.
        profiles: the usual one first.
        sounds: what its sound can be, the usual first.
        quality: the encoder's options for each plain word; empty where a profile says it all.
        rated: whether a bit rate can be asked for.
        smallest: the smallest width and height.
    """

    name: KindName
    title: str
    suffix: str
    muxer: str
    encoder: str
    profiles: tuple[Profile, ...]
    sounds: tuple[SoundName, ...]
    quality: dict[QualityWord, dict[str, str]]
    rated: bool = False
    smallest: tuple[int, int] = (16, 16)

    def profile(self, name: str) -> Profile | None:
        """A profile by its name; None where there is none of that name."""
        return next((profile for profile in self.profiles if profile.name == name), None)

    def numbered(self, number: int) -> dict[str, str]:
        """The options for a number of the encoder's own scale."""
        first = next(iter(self.quality["high"]))
        return {first: str(number * LAMBDA if first == "global_quality" else number)}

    @property
    def two_passes(self) -> bool:
        """Whether a rate can be kept by measuring the whole clip first: our writer reaches only these encoders' way."""
        return self.encoder in ("libx264", "libx265")

    @property
    def capped(self) -> bool:
        """Whether a ceiling, or one rate throughout, can be asked for; SVT-AV1 keeps to a mean rate only."""
        return self.rated and self.encoder != "libsvtav1"

    @property
    def alpha(self) -> bool:
        """Whether it can hold coverage."""
        return any(profile.alphas for profile in self.profiles)

    @property
    def folder(self) -> bool:
        """Whether it is a folder of stills, not one file."""
        return self.muxer == STILLS

    @property
    def coloured(self) -> bool:
        """Whether it can say which primaries and which curve it has; else it is shown as BT.709."""
        return self.encoder not in ("mjpeg", "png")

    @property
    def square(self) -> bool:
        """Whether pixels must be square: our writer of these containers has no place for another shape."""
        return self.muxer in ("matroska", "webm", "mxf", STILLS)


def _by_word(option: str, numbers: tuple[int, int, int, int], **more: str) -> dict[QualityWord, dict[str, str]]:
    return {word: {option: str(number), **more} for word, number in zip(QUALITY_WORDS, numbers, strict=True)}


# Numbers for the plain words, on each encoder's own scale of constant quality (common practice, no source).
X264 = _by_word("crf", (26, 22, 18, 12), preset="medium")
X265 = _by_word("crf", (29, 25, 21, 14), preset="medium")
VP9 = _by_word("crf", (40, 34, 27, 16), b="0", **{"cpu-used": "3", "row-mt": "1"})
AV1 = _by_word("crf", (44, 36, 28, 18), preset="8")
JPEG = _by_word("global_quality", (7 * LAMBDA, 4 * LAMBDA, 3 * LAMBDA, 2 * LAMBDA), flags="+qscale")

IN_MP4: tuple[SoundName, ...] = ("keep", "aac-192", "aac-256", "none")
IN_MOV: tuple[SoundName, ...] = ("keep", "aac-192", "aac-256", "pcm-16", "pcm-24", "none")
IN_STUDIO: tuple[SoundName, ...] = ("pcm-24", "pcm-16", "none")

# "stitchable" keeps the headers of all parts of a clip alike, as its encoder's documentation says.
H264 = (Profile("", {8: "yuv420p"}, (("x264-params", "stitchable=1"),)),)
H265 = (Profile("", {8: "yuv420p", 10: "yuv420p10le"}, (("x265-params", "log-level=error"),)),)
TEN_422: dict[Depth, str] = {10: "yuv422p10le"}
PRORES = tuple(
    Profile(name, TEN_422, (("profile", number), ("vendor", "apl0")))
    for name, number in (("standard", "2"), ("LT", "1"), ("HQ", "3"))
)
PRORES_4444 = Profile("", {10: "yuv444p10le"}, (("profile", "4"), ("vendor", "apl0")), {10: "yuva444p10le"})
DNXHR = (
    *(Profile(name, {8: "yuv422p"}, (("profile", f"dnxhr_{name.lower()}"),)) for name in ("SQ", "LB", "HQ")),
    Profile("HQX", TEN_422, (("profile", "dnxhr_hqx"),)),
)
FFV1 = Profile(
    "",
    {8: "yuv420p", 10: "yuv422p10le"},
    (("level", "3"), ("slices", "4"), ("slicecrc", "1"), ("g", "1")),
)

OUTPUT_FORMATS: dict[KindName, OutputFormat] = {
    kind.name: kind
    for kind in (
        OutputFormat("mp4-h264", "MP4, H.264", ".mp4", "mp4", "libx264", H264, IN_MP4, X264, rated=True),
        OutputFormat("mov-h264", "MOV, H.264", ".mov", "mov", "libx264", H264, IN_MOV, X264, rated=True),
        OutputFormat("mp4-h265", "MP4, H.265", ".mp4", "mp4", "libx265", H265, IN_MP4, X265, rated=True),
        OutputFormat("mov-h265", "MOV, H.265", ".mov", "mov", "libx265", H265, IN_MOV, X265, rated=True),
        OutputFormat(
            "webm-vp9",
            "WebM, VP9",
            ".webm",
            "webm",
            "libvpx-vp9",
            (Profile("", {8: "yuv420p"}, alphas={8: "yuva420p"}),),
            ("opus", "none"),
            VP9,
            rated=True,
        ),
        OutputFormat(
            "webm-av1",
            "WebM, AV1",
            ".webm",
            "webm",
            "libsvtav1",
            (Profile("", {8: "yuv420p", 10: "yuv420p10le"}),),
            ("opus", "none"),
            AV1,
            rated=True,
            smallest=(64, 64),
        ),
        OutputFormat("mov-prores", "MOV, ProRes 422", ".mov", "mov", "prores_ks", PRORES, IN_STUDIO, {}),
        OutputFormat("mov-prores-4444", "MOV, ProRes 4444", ".mov", "mov", "prores_ks", (PRORES_4444,), IN_STUDIO, {}),
        OutputFormat("mov-dnxhr", "MOV, DNxHR", ".mov", "mov", "dnxhd", DNXHR, IN_STUDIO, {}, smallest=(256, 120)),
        OutputFormat("mxf-dnxhr", "MXF, DNxHR", ".mxf", "mxf", "dnxhd", DNXHR, IN_STUDIO, {}, smallest=(256, 120)),
        OutputFormat(
            "mkv-ffv1",
            "MKV, FFV1, lossless",
            ".mkv",
            "matroska",
            "ffv1",
            (FFV1,),
            ("pcm-24", "pcm-16", "keep", "none"),
            {},
        ),
        OutputFormat(
            "avi-mjpeg",
            "AVI, motion JPEG",
            ".avi",
            "avi",
            "mjpeg",
            (Profile("", {8: "yuvj422p"}),),
            ("pcm-16", "none"),
            JPEG,
        ),
        OutputFormat(
            "png-stills",
            "PNG, numbered stills",
            "",
            STILLS,
            "png",
            (Profile("", {8: "rgb24", 16: "rgb48be"}, (("pred", "mixed"),), alphas={8: "rgba", 16: "rgba64be"}),),
            ("none",),
            {},
        ),
    )
}
"""Every kind by its name, in the order offered."""
