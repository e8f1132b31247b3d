"""What is asked for: a plan, the clip it is about, and how the file is written."""

from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Literal

from cadrage.compose import Compositor
from cadrage.compose.extending import plate_states
from cadrage.compose.framed import bare_frame, without_bars
from cadrage.compose.identity import clips_of, result_key
from cadrage.compose.layers import PictureAlone, layer_plan
from cadrage.compose.target import target_colour
from cadrage.footage import EMPTY, ClipIdentity, Interpretation, Library, MediaInfo, SoundInfo, picture_times, probe
from cadrage.footage.media_info import SubtitleInfo
from cadrage.footage.timecode import Timecode, nominal_of
from cadrage.formats import Frame
from cadrage.output.settings import DEFAULT, EncoderConfig, Settings, encoder_config
from cadrage.pixels.planes import Layout
from cadrage.plan import Plan
from cadrage.render.encoder import stored_colour
from cadrage.render.frame_timing import FrameTiming, frame_timing
from cadrage.render.written_tracks import WrittenTrack, written_tracks

TIMECODED = ("mp4", "mov", "mxf", "matroska")  # containers that have a place for a time code
SUBTITLED = ("mp4", "mov", "matroska", "webm")  # containers that have a place for subtitles
INDEXED = ("mov", "mxf")  # containers that list every picture


@dataclass(frozen=True, slots=True)
class RenderRequest:
    """What was asked for.

    Attributes:
        plan: the framing.
        source: the clip.
        info: what it is.
        library: what else the plan may use.
        settings: how the file is written.
        clip: what the clip is called; as its file, where empty.
        identity: which file the clip was; asked of the file itself, where nobody says.
    """

    plan: Plan
    source: Path
    info: MediaInfo
    library: Library = EMPTY
    settings: Settings = DEFAULT
    clip: str = ""
    identity: ClipIdentity | None = None

    @property
    def identities(self) -> dict[str, ClipIdentity]:
        """Which files it is made of now, by the names that the plan has for them; "" is the clip.

        Raises:
            BadRequest, MissingSource: one is not to be had.
        """
        own = ClipIdentity.of(self.source, self.identity)
        return {"": own} | {name: self.library.material(name).identity_now for name in self.plan.asset_refs if name}

    @property
    def key(self) -> str:
        """What two orders share just where they make the same file, whatever it is called."""
        own = ClipIdentity.of(self.source, self.identity)
        how = self.settings.model_dump(mode="json", exclude={"name", "filename_template"})
        clips = clips_of(self.plan, own, self.library) | plate_states(self.written, self.info, self.library)
        return result_key(self.plan, clips, settings=how)

    @property
    def interpretation(self) -> Interpretation:
        """What the clip is taken to be; its fields are each a moment of their own where fields are delivered."""
        stated = self.plan.interpretation
        in_fields = self.plan.frame.fields != "progressive" and stated.deinterlace == "one_per_pair"
        return stated.model_copy(update={"deinterlace": "one_per_field"}) if in_fields else stated

    @property
    def sources(self) -> tuple[Path, ...]:
        """Every file that it is made of."""
        return (self.source, *(self.library.material(name).path for name in self.plan.asset_refs))

    @property
    def written(self) -> Plan:
        """The plan whose frame is exactly what the file holds."""
        return plan_written(self.plan, self.info, self.settings)

    @property
    def encoder_config(self) -> EncoderConfig:
        """The settings, settled."""
        return encoder_config(self.settings, self.written.frame, self.clip or self.source.name)

    @property
    def tracks(self) -> tuple[WrittenTrack, ...]:
        """The tracks of sound that are written, with what each is made of."""
        if self.encoder_config.sound == "none":
            return ()
        return written_tracks(self.info.sounds, self.settings.track_groups)

    @property
    def sounds(self) -> tuple[SoundInfo, ...]:
        """The tracks of sound that are written, each as one track of the clip would be."""
        return tuple(track.info for track in self.tracks)

    @property
    def subtitles(self) -> tuple[SubtitleInfo, ...]:
        """The tracks of subtitles that are written."""
        held = self.settings.subtitles == "keep" and self.encoder_config.kind.muxer in SUBTITLED
        return tuple(track for track in self.info.subtitles if track.is_text) if held else ()

    @property
    def converted_sound(self) -> str | None:
        """How sound is written that should be kept and cannot be; None where it is kept, or was not to be."""
        return self.encoder_config.sound if self.settings.sound != self.encoder_config.sound else None

    @property
    def timing(self) -> FrameTiming:
        """When each frame shows what."""
        plan = self.plan.model_copy(update={"interpretation": self.interpretation})
        return frame_timing(plan, self.info, self.settings)

    @property
    def picture_times(self) -> list[Fraction] | None:
        """When each picture of the clip comes, in seconds from the first; None where they last equally long."""
        return picture_times(self.source, self.info) if self.timing.varies else None

    @property
    def wanted(self) -> MediaInfo:
        """The clip as it is to be delivered."""
        return self.timing.info

    @property
    def timecode(self) -> Timecode | None:
        """The time code of the file's first picture; None where it has none."""
        timing, asked, info = self.timing, self.settings.timecode, self.info
        if asked == "none" or timing.info.rate_varies or self.encoder_config.kind.muxer not in TIMECODED:
            return None
        if asked != "keep":
            return Timecode.read(asked, timing.info.rate)
        own = Timecode.read(info.timecode, info.rate)
        if own is None or nominal_of(info.rate) == nominal_of(timing.info.rate):
            return own and own.later(round(timing.start * info.rate)).at_rate(timing.info.rate)
        return own.at_rate(timing.info.rate).later(round(timing.start * timing.info.rate))

    @property
    def layout(self) -> Layout:
        """The samples that are composed for the file."""
        plan, writing = self.written, self.encoder_config
        colour = stored_colour(writing, target_colour(plan.frame))
        return Layout(plan.frame.width, plan.frame.height, writing.format.depth, writing.format.chroma, colour)

    def compositor(self, source: Layout) -> Compositor | PictureAlone:
        """A compositor whose frames are what the file stores.

        Args:
            source: the layout of the clip's pictures as decoded.
        """
        plan, layer = self.written, self.settings.layer
        if layer == "picture_alone":
            return PictureAlone(plan, source, self.info, self.layout, library=self.library)
        drawn = layer_plan(plan, layer)
        picture: Literal["over", "left_out"] = "left_out" if layer == "surround_alone" else "over"
        return Compositor(drawn, source, self.info, self.layout, library=self.library, picture=picture)


def frame_written(frame: Frame, settings: Settings) -> Frame:
    """The frame that a file holds."""
    return bare_frame(frame) if settings.bars == "active_picture_only" else frame


def plan_written(plan: Plan, info: MediaInfo, settings: Settings) -> Plan:
    """The plan whose frame is exactly what the file holds."""
    return without_bars(plan, info) if settings.bars == "active_picture_only" else plan


def info_to_render(source: Path, *, whole: bool = True) -> MediaInfo:
    """What a clip is, known well enough to render it: its pictures are counted to the last.

    Those of containers that have a complete index are counted by it, and of a clip of which only a part is delivered by
    its packets; damage in them is read past when it is met.

    Args:
        source: the clip.
        whole: whether all of it is delivered.

    Raises:
        MissingSource, UnreadableFile: see `probe`.
    """
    info = probe(source)
    by_packets = not whole or info.demuxer in INDEXED
    if info.counted == "decoded" or (info.counted == "packets" and by_packets):
        return info
    return probe(source, thorough=not by_packets, counted=by_packets)
