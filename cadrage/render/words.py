"""Kinds of file in words, for whoever offers them."""

from cadrage.formats import Frame
from cadrage.render.job import frame_written
from cadrage.render.kinds import KINDS, QUALITY_WORDS, Depth, FileKind, KindName, SoundName
from cadrage.render.settings import Settings
from cadrage.values import Value

PLAYABLE: frozenset[KindName] = frozenset(("mp4-h264", "mov-h264", "webm-vp9", "webm-av1"))
"""Kinds that browsers play (common practice, no source)."""

SOUNDS: dict[SoundName, str] = {
    "keep": "as it is, else AAC 192",
    "aac-192": "AAC, 192 kb/s",
    "aac-256": "AAC, 256 kb/s",
    "opus": "Opus, 160 kb/s",
    "pcm-16": "PCM, 16 bit",
    "pcm-24": "PCM, 24 bit",
    "none": "none",
}


class ProfileOffer(Value):
    """A profile, for whoever offers it."""

    name: str
    depths: tuple[Depth, ...]


class SoundOffer(Value):
    """A way to write sound."""

    name: SoundName
    title: str


class WordOffer(Value):
    """A plain word for quality, and the number it stands for."""

    word: str
    number: str


class FileOffer(Value):
    """A kind of file, for whoever offers it: what it allows and no more.

    Attributes:
        kind, title: its name in settings, and what people call it.
        profiles: with the depths of each; one without a name where there is no choice.
        sounds: what its sound can be.
        words: for quality; none where a profile says it all.
        scale: what the numbers behind the words are called.
        rated: whether a bit rate can be asked for.
    """

    kind: KindName
    title: str
    profiles: tuple[ProfileOffer, ...]
    sounds: tuple[SoundOffer, ...]
    words: tuple[WordOffer, ...]
    scale: str
    rated: bool


def offered_files() -> tuple[FileOffer, ...]:
    """Every kind, in the order offered."""
    return tuple(_offer(kind) for kind in KINDS.values())


def _offer(kind: FileKind) -> FileOffer:
    scale = next(iter(kind.quality["high"]), "") if kind.quality else ""
    words = [WordOffer(word=word, number=kind.quality[word][scale]) for word in QUALITY_WORDS if kind.quality]
    return FileOffer(
        kind=kind.name,
        title=kind.title,
        profiles=tuple(ProfileOffer(name=one.name, depths=tuple(one.formats)) for one in kind.profiles),
        sounds=tuple(SoundOffer(name=name, title=SOUNDS[name]) for name in kind.sounds),
        words=tuple(words),
        scale=scale.replace("global_", "").replace("_", " "),
        rated=kind.rated,
    )


def file_words(frame: Frame, settings: Settings) -> str:
    """A file in few words, with the size it will have: "MP4, H.264, 1920×1080"."""
    written = frame_written(frame, settings)
    profile = f" {settings.profile}" if settings.profile else ""
    return f"{KINDS[settings.kind].title}{profile}, {written.width}×{written.height}"
