"""Settings: how a file is written, under a name."""

from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, Field

from cadrage.compose.layers import LayerName
from cadrage.errors import BadRequest, UnreadableFile
from cadrage.footage import MediaInfo
from cadrage.formats import Frame
from cadrage.output.kinds import (
    FORMATS,
    OUTPUT_FORMATS,
    Depth,
    KindName,
    OutputFormat,
    PixelFormat,
    Profile,
    QualityWord,
    SoundName,
)
from cadrage.output.names import USUAL, checked_pattern
from cadrage.output.rate_control import joined, rate_options
from cadrage.output.weaving import WEAVING
from cadrage.values import Value, VisibleText, named_or_read, read_form

RateControl = Literal["quality", "rate", "constant_rate"]
MOST_KBPS, LEAST_KBPS, MOST_NUMBER = 1_000_000, 100, 63
Numbers = Annotated[str, Field(pattern=r"^([1-9]\d?(\+[1-9]\d?){0,15})?$")]
TrackGroups = Annotated[str, Field(pattern=r"^([1-9]\d?([+/][1-9]\d?){0,31})?$")]
Kbps = Annotated[int, Field(ge=LEAST_KBPS, le=MOST_KBPS)]


class Settings(Value):
    """How a file is written.

    Attributes:
        version: of this form, 2; settings of version 1 are read as well.
        name: of the settings.
        kind: of file; see `OUTPUT_FORMATS`.
        profile: of the encoder, by name; empty for the usual one.
        depth: bits of a sample; the usual of the profile where None.
        rate_control: what decides how much is written: constant quality, a mean rate, or the same rate throughout.
        quality: in plain words.
        number: the encoder's own number in place of the word.
        rate: mean rate of the picture, in kilobits a second.
        ceiling: highest rate, in the same; 0 for none.
        passes: how often a clip is gone through where a rate is asked for: with 2 it is measured first, so that
            each part gets its share. Kinds that cannot do so go through it once.
        sound: kept as it is where the kind can hold it, else written the kind's usual way; encoded anew; or left out.
        stereo: whether sound of more or fewer channels is mixed to two, as ITU-R BS.775 says.
        channels: numbers of the channels of each track that are kept, like "3+4"; all where empty.
        tracks: numbers of the tracks of sound that are kept, like "1+2/3+4"; all where empty. Mono tracks with a +
            between them become one stereo, 5.1 or other track.
        loudness: in LUFS, to which all of each track is brought, by EBU R 128, measured behind its codec, with its true
            peak held; as it is where None.
        rate_change: how a clip fits a frame's own rate: whole frames are repeated and dropped, neighbours are
            blended, or it runs faster or slower with the pitch of its sound kept.
        range: the part of the clip that was marked, or all of it.
        layer: what is drawn; the picture alone comes with its coverage.
        bars: with an active picture, the whole frame with its bars, or exactly the active picture. Nothing is
            rendered of such a frame before somebody has said which; see `check_decided`.
        damage: whether what is damaged in a clip is read past, the last good picture staying, or stops the render.
        subtitles: whether tracks of subtitles with words are carried, where the kind has a place for them.
        timecode: of the first picture: going on from the clip's, none, or one that is set.
        filename_template: of files, as a pattern; see `names`.
    """

    version: Literal[2] = 2
    name: Annotated[VisibleText, Field(min_length=1, max_length=80)] = "MP4, H.264"
    kind: KindName = "mp4-h264"
    profile: Annotated[str, Field(max_length=20)] = ""
    depth: Depth | None = None
    rate_control: RateControl = "quality"
    quality: QualityWord = "high"
    number: Annotated[int, Field(ge=0, le=MOST_NUMBER)] | None = None
    rate: Kbps = 12_000
    ceiling: Annotated[int, Field(ge=0, le=MOST_KBPS)] = 0
    passes: Literal[1, 2] = 2
    sound: SoundName = "keep"
    stereo: bool = False
    channels: Numbers = ""
    tracks: TrackGroups = ""
    loudness: Annotated[float, Field(ge=-40, le=-5)] | None = None
    rate_change: Literal["whole_frames", "blended", "speed"] = "whole_frames"
    range: Literal["as_marked", "whole_clip"] = "as_marked"
    layer: LayerName = "everything"
    bars: Literal["undecided", "whole_frame", "active_picture_only"] = "undecided"
    damage: Literal["read_past", "stop"] = "read_past"
    subtitles: Literal["keep", "none"] = "keep"
    timecode: Annotated[str, Field(pattern=r"^(keep|none|[0-2]\d:[0-5]\d:[0-5]\d[:;]\d\d)$")] = "keep"
    filename_template: Annotated[str, Field(min_length=1, max_length=120), AfterValidator(checked_pattern)] = USUAL

    @property
    def picked_channels(self) -> tuple[int, ...]:
        """The channels that are kept, from 1; all where empty."""
        return _numbers(self.channels)

    @property
    def track_groups(self) -> tuple[tuple[int, ...], ...]:
        """Groups of tracks of sound that are kept, by numbers from 1; all tracks, each by itself, where empty."""
        return tuple(_numbers(group) for group in self.tracks.split("/")) if self.tracks else ()


def _numbers(text: str) -> tuple[int, ...]:
    return tuple(int(part) for part in text.split("+")) if text else ()


@dataclass(frozen=True, slots=True)
class EncoderConfig:
    """Settings, settled: everything an encoder needs.

    Attributes:
        settings: as requested.
        kind, profile, format: what it comes to.
    """

    settings: Settings
    kind: OutputFormat
    profile: Profile
    format: PixelFormat

    @property
    def sound(self) -> SoundName:
        """How sound is written: the usual way of the kind where it shall be kept and the kind cannot hold it."""
        asked = self.settings.sound
        return self.kind.sounds[0] if asked == "keep" and asked not in self.kind.sounds else asked

    @property
    def sound_encoded(self) -> SoundName:
        """How sound is encoded that is not kept, or cannot be."""
        return self.kind.sounds[0] if self.sound == "keep" else self.sound

    @property
    def options(self) -> dict[str, str]:
        """The encoder's options."""
        asked, found = self.settings, dict(self.profile.options)
        if not self.kind.quality:
            return found
        if asked.rate_control == "quality":
            found |= self.kind.quality[asked.quality]
            if asked.number is not None:
                found |= self.kind.numbered(asked.number)
            return found
        found |= {name: value for name, value in self.kind.quality["high"].items() if name in EFFORT}
        rated = rate_options(self.kind, asked.rate, asked.ceiling, throughout=asked.rate_control == "constant_rate")
        return joined(found, rated)

    @property
    def measured_first(self) -> bool:
        """Whether the clip is gone through twice; a rate that is the same throughout has nothing to share out."""
        mean = self.settings.rate_control == "rate" and self.bits_per_second is not None
        return mean and self.settings.passes == 2 and self.kind.two_passes

    @property
    def bits_per_second(self) -> int | None:
        """The mean rate asked for; None where quality decides."""
        return None if self.settings.rate_control == "quality" or not self.kind.quality else self.settings.rate * 1000


MOST_FRAMES_OF_FIELDS = 30  # ITU-R BT.709-6, part 1
HDR_DEPTH = 10  # ITU-R BT.2100-2, table 9: 10 or 12 bits

EFFORT = ("preset", "cpu-used", "row-mt")
"""Options that say how hard an encoder tries, whatever decides the amount."""


def encoder_config(settings: Settings, frame: Frame, clip: str | None = None) -> EncoderConfig:
    """Settle settings for a frame.

    Raises:
        BadRequest: the kind of file does not allow them, or cannot hold such a frame.
    """
    kind = OUTPUT_FORMATS[settings.kind]
    profile = kind.profile(settings.profile) if settings.profile else kind.profiles[0]
    if profile is None:
        names = ", ".join(one.name for one in kind.profiles if one.name)
        raise _bad(
            f"{kind.title} has no profile {settings.profile!r}.",
            f"Choose from {names}." if names else "Leave it empty.",
            clip,
        )
    depth = _usual_depth(profile, frame) if settings.depth is None else settings.depth
    if settings.layer == "picture_alone" and not kind.alpha:
        holders = ", ".join(one.title for one in OUTPUT_FORMATS.values() if one.alpha)
        raise _bad(f"{kind.title} cannot hold transparency.", f"Choose from {holders}.", clip)
    name = (profile.alphas if settings.layer == "picture_alone" else profile.formats).get(depth)
    if name is None:
        held = " or ".join(str(depth) for depth in profile.formats)
        raise _bad(
            f"{kind.title} {profile.name} holds {held} bits, not {depth}.".replace("  ", " "), f"Ask for {held}.", clip
        )
    if settings.sound != "keep" and settings.sound not in kind.sounds:
        raise _bad(
            f"{kind.title} cannot hold sound as {settings.sound}.", f"Choose from {', '.join(kind.sounds)}.", clip
        )
    if settings.rate_control != "quality" and not kind.rated:
        raise _bad(f"A rate cannot be asked of {kind.title}.", "Let its quality or its profile decide.", clip)
    if (
        settings.rate_control != "quality"
        and (settings.rate_control == "constant_rate" or settings.ceiling)
        and not kind.capped
    ):
        raise _bad(f"{kind.title} keeps to a mean rate only.", "Ask for a mean rate without a ceiling.", clip)
    writing = EncoderConfig(settings, kind, profile, FORMATS[name])
    _check_size(writing, frame, clip)
    _check_colour(writing, frame, clip)
    _check_fields(writing, frame, clip)
    return writing


def _usual_depth(profile: Profile, frame: Frame) -> Depth:
    """The profile's first; of HDR its deepest."""
    return max(profile.formats) if frame.hdr else next(iter(profile.formats))


def _check_fields(writing: EncoderConfig, frame: Frame, clip: str | None) -> None:
    if frame.fields == "progressive":
        return
    if writing.kind.encoder not in WEAVING:
        raise _bad(
            f"{writing.kind.title} is not written in fields.",
            "Choose H.264, ProRes or FFV1, or a frame of whole pictures.",
            clip,
        )
    if frame.rate is not None and frame.rate > MOST_FRAMES_OF_FIELDS:
        raise _bad(
            f"Frames of fields are at most {MOST_FRAMES_OF_FIELDS} a second, each of two fields.",
            "Choose 25, or 29.97, for 50 or 59.94 fields.",
            clip,
        )
    if writing.format.alpha:
        raise _bad("Transparency is written in progressive pictures only.", "Write everything.", clip)


def _check_colour(writing: EncoderConfig, frame: Frame, clip: str | None) -> None:
    kind, name = writing.kind, {"bt2020": "BT.2020", "hlg": "HLG", "pq": "PQ"}.get(frame.colour, "")
    if frame.colour != "sdr" and not kind.coloured:
        raise _bad(
            f"{kind.title} cannot say that its colours are {name}.", "Choose another kind of file, or SDR.", clip
        )
    if frame.hdr and writing.format.depth < HDR_DEPTH:
        raise _bad(
            f"{kind.title} {writing.profile.name} with {writing.format.depth} bits would show steps in {name}.".replace(
                "  ", " "
            ),
            f"Choose a kind of {HDR_DEPTH} bits, such as MP4, H.265, or an SDR frame, into which HDR is converted.",
            clip,
        )
    if frame.hdr and writing.format.alpha:
        raise _bad("Transparency is written in SDR only.", "Write everything, or choose an SDR frame.", clip)


def _check_size(writing: EncoderConfig, frame: Frame, clip: str | None) -> None:
    kind, chroma = writing.kind, writing.format.chroma
    size = f"A frame of {frame.width}×{frame.height} cannot be written as {kind.title}"
    if frame.width % chroma.across or frame.height % chroma.down:
        sampling = {(2, 2): "4:2:0", (2, 1): "4:2:2"}[chroma.across, chroma.down]
        even = "both sides" if chroma.down == 2 else "the width"
        raise _bad(f"{size} with {sampling} chroma.", f"Make {even} even, or use ProRes 4444, which takes any.", clip)
    if kind.square and frame.pixel_aspect != 1:
        raise _bad(
            f"{kind.title} cannot say that pixels are not square.",
            "Choose MP4 or MOV, or a frame of square pixels.",
            clip,
        )
    if frame.width < kind.smallest[0] or frame.height < kind.smallest[1]:
        raise _bad(
            f"{size}, which begins at {kind.smallest[0]}×{kind.smallest[1]}.", "Choose another kind of file.", clip
        )


def check_decided(settings: Settings, frame: Frame, clip: str | None = None) -> None:
    """Check that nobody gets burned-in bars without choosing them.

    Raises:
        BadRequest: the frame has an active picture with bars around it, and nothing is said of them.
    """
    if settings.bars == "undecided" and frame.has_bars:
        drawn = frame.drawn_rect
        raise _bad(
            f"{frame.name or 'The frame'} of {frame.width}×{frame.height} has an active picture of "
            f"{int(drawn.width)}×{int(drawn.height)}: its files would have bars burned in.",
            "Say which they hold: the whole frame with its bars, or exactly the active picture.",
            clip,
        )


def check_undamaged(settings: Settings, info: MediaInfo, clip: str | None = None) -> None:
    """See that nothing of a clip is lost, where that stops a render.

    Raises:
        UnreadableFile: something is.
    """
    if settings.damage == "stop" and info.damage:
        first = info.damage[0]
        raise UnreadableFile(
            f"It is damaged, at {float(first.start):.3f} s for the first time, and damage shall stop a render.",
            remedy="Copy it again from where it came, or let damage be read past.",
            clip=clip,
        )


def read_settings(given: dict[str, Any]) -> Settings:
    """Read settings that were written as JSON.

    Raises:
        BadRequest: they are of a newer version, or no settings at all.
    """
    return read_form(Settings, given, "set of settings")


def _bad(problem: str, remedy: str, clip: str | None) -> BadRequest:
    return BadRequest(problem, remedy=remedy, clip=clip)


SHIPPED = (
    Settings(name="Wide HD upload", kind="mp4-h264", quality="high", sound="aac-192", stereo=True),
    Settings(
        name="Upright short upload",
        kind="mp4-h264",
        rate_control="rate",
        rate=10_000,
        ceiling=16_000,
        sound="aac-192",
        stereo=True,
    ),
    Settings(name="UHD master", kind="mov-prores", profile="HQ", sound="pcm-24"),
    Settings(
        name="Cinema 2.39 without bars",
        kind="mov-prores",
        profile="standard",
        sound="pcm-24",
        bars="active_picture_only",
    ),
    Settings(name="SD for the old monitor", kind="avi-mjpeg", quality="nearly_lossless", sound="pcm-16"),
    Settings(name="Archive, lossless", kind="mkv-ffv1", depth=10, sound="pcm-24"),
)
"""Settings that come with Cadrage."""

DEFAULT = Settings()


def find_settings(name: str | None) -> Settings:
    """Settings that come with Cadrage, by their name, or some from a file, by its path; the usual where none are named.

    Raises:
        BadRequest: there are neither, or the file holds none that can be read.
    """
    return DEFAULT if name is None else named_or_read(Settings, SHIPPED, name, "set of settings")
