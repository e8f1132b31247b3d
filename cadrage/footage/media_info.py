"""Properties of a media file, from its headers and from counting its packets."""

from typing import Literal

from cadrage.footage.decoding import ShownBy
from cadrage.footage.findings import Finding
from cadrage.values import Exact, Value, format_rate

FieldOrder = Literal["unknown", "progressive", "upper_first", "lower_first"]

Siting = Literal["left", "centre", "top_left", "top", "bottom_left", "bottom"]
"""ITU-T H.273, figure 2: chroma sample location types 0 to 5."""

FIELD_ORDER_OF_CODE: dict[int, FieldOrder] = {
    1: "progressive",
    2: "upper_first",
    3: "lower_first",
    4: "upper_first",
    5: "lower_first",
}
"""libavcodec's AVFieldOrder. 4 and 5 are stored in the opposite order; the field that is shown first counts here."""


def first_name(names: str) -> str:
    """The first of the names of a container format, as its demuxer gives them: "mov" of "mov,mp4,m4a,3gp,3g2,mj2"."""
    return names.split(",", maxsplit=1)[0]


class SoundInfo(Value):
    """One audio stream.

    Attributes:
        codec: the decoder's name for it, such as "aac".
        rate: samples a second.
        channels: number of channels.
        start: seconds from the first picture to the first sound; negative where sound comes first.
        duration: seconds, or None if it is not stated.
        stream: its number among all streams of the file; None in data stored by older versions.
        language: an ISO 639-2 code; empty if it is not stated.
        title: its title in the file.
    """

    codec: str
    rate: int
    channels: int
    start: Exact
    duration: Exact | None
    stream: int | None = None
    language: str = ""
    title: str = ""


class SubtitleInfo(Value):
    """One track of subtitles.

    Attributes:
        codec: the decoder's name for it.
        stream: its number among all streams of the file.
        is_text: whether its subtitles are text; bitmap subtitles are not copied.
        language: an ISO 639-2 code; empty if it is not stated.
        title: its title in the file.
    """

    codec: str
    stream: int
    is_text: bool
    language: str = ""
    title: str = ""


class Chromaticity(Value):
    """A colour without its light. CIE 1931, x and y."""

    x: Exact
    y: Exact


class Mastering(Value):
    """The display that HDR was made on. SMPTE ST 2086.

    Attributes:
        red, green, blue, white: its primaries, and its white.
        lowest, highest: cd/m² it can show.
    """

    red: Chromaticity
    green: Chromaticity
    blue: Chromaticity
    white: Chromaticity
    lowest: Exact
    highest: Exact


class ContentLight(Value):
    """The most light in HDR, in cd/m²: of any sample, and on average of any picture. CTA-861.3, MaxCLL and MaxFALL."""

    brightest: int
    mean: int


class MediaInfo(Value):
    """Properties of a media file, from its headers and from counting its packets.

    Attributes:
        kind: a clip that moves, one still picture, or a sequence of numbered stills.
        container: names of the container format, as its demuxer gives them.
        codec: the decoder's name of the picture stream.
        width, height: stored size in pixels, before any rotation.
        pixel_aspect: width of a stored pixel over its height, or None where the file does not say.
        stream_aspect: the same as the coded stream itself says, where that is more than its container.
        rotation: degrees clockwise (0, 90, 180, 270) to turn the stored picture so that it stands upright.
        rotation_flag: the same as the file states it, which need not be a quarter turn.
        mirrored: whether left and right change places after that.
        rate: frames a second, exact.
        rate_stated: whether the file states a rate; if not, `rate` is worked out from its timestamps.
        rate_varies: whether frames last unequally long, beyond the rounding of the file's clock.
        shortest_frame, longest_frame: seconds between neighbouring frames.
        duration: seconds from the first picture to the end of the last.
        frames: number of pictures.
        field_order: as the stream flags it.
        pixel_format: the decoder's name of the sample layout.
        depth: bits of a sample.
        chroma: chroma format, such as "4:2:0".
        matrix, primaries, transfer: ITU-T H.273 code points; 2 is unspecified.
        full_range: whether samples are of the full range, as flagged, or as is usual where the stream has no flag.
        siting: position of chroma samples among luma samples; None in data stored by older versions.
        alpha: whether samples have an alpha channel.
        mastering, content_light: light metadata of HDR; None if there is none.
        sounds: the audio streams that can be decoded.
        counted: whether pictures were decoded, counted by their packets, or estimated because the file is long.
        shown_by: the kind of time stamps that give the time of a picture.
        seekable: whether pictures can be read from the middle; where the clock jumps they are read from the start.
        findings: damage and unusual properties.
        subtitles: tracks of them.
        timecode: of the first picture; empty if it is not stated.
        others: kinds of the streams that are neither picture nor sound, as its demuxer calls them.
    """

    kind: Literal["clip", "still", "sequence"] = "clip"
    container: str
    codec: str
    width: int
    height: int
    pixel_aspect: Exact | None
    stream_aspect: Exact | None = None
    rotation: Literal[0, 90, 180, 270]
    rotation_flag: int = 0
    mirrored: bool = False
    rate: Exact
    rate_stated: bool
    rate_varies: bool
    shortest_frame: Exact
    longest_frame: Exact
    duration: Exact
    frames: int
    field_order: FieldOrder
    pixel_format: str
    depth: int
    chroma: str
    matrix: int
    primaries: int
    transfer: int
    full_range: bool
    siting: Siting | None = None
    alpha: bool = False
    mastering: Mastering | None = None
    content_light: ContentLight | None = None
    sounds: tuple[SoundInfo, ...]
    counted: Literal["decoded", "packets", "estimated"] = "decoded"
    shown_by: ShownBy = "presentation"
    seekable: bool = True
    findings: tuple[Finding, ...] = ()
    subtitles: tuple[SubtitleInfo, ...] = ()
    timecode: str = ""
    others: tuple[str, ...] = ()

    @property
    def demuxer(self) -> str:
        """The first of the container's names."""
        return first_name(self.container)

    @property
    def damage(self) -> tuple[Finding, ...]:
        """Findings that mean lost pictures or sound."""
        return tuple(one for one in self.findings if one.damage)

    @property
    def summary(self) -> str:
        """The file in few words: stored size, how it is turned, pixel shape, rate."""
        size = f"{self.width}×{self.height}"
        turned = f" turned {self.rotation}°" if self.rotation else ""
        aspect = self.pixel_aspect or 1
        pixels = "" if aspect == 1 else f", {aspect.numerator}:{aspect.denominator} pixels"
        if self.kind == "still":
            return f"{size}{turned}{pixels}, still"
        rate = format_rate(self.rate)
        stills = f", {self.frames} stills" if self.kind == "sequence" else ""
        return f"{size}{turned}{pixels}, {rate} fps{' varying' if self.rate_varies else ''}{stills}"
