"""What a file says of a track of sound or subtitles."""

from cadrage.footage.media_info import SoundInfo, SubtitleInfo

QUICKTIME_LANGUAGES = {
    "deu": "ger",
    "nld": "dut",
    "ell": "gre",
    "isl": "ice",
    "zho": "chi",
    "swe": "sve",
    "fas": "per",
    "hye": "arm",
    "ron": "rum",
    "slk": "slo",
    "eus": "baq",
    "cym": "wel",
    "sqi": "alb",
    "mya": "bur",
}
"""Languages that FFmpeg's writer of MOV knows by another name than ISO 639-2/T."""


def tags_of(info: SoundInfo | SubtitleInfo, muxer: str) -> dict[str, str]:
    """What a file says of a track; MP4 and MOV have a place for its title in the name of its handler."""
    language = QUICKTIME_LANGUAGES.get(info.language, info.language) if muxer == "mov" else info.language
    title = "handler_name" if muxer in ("mp4", "mov") else "title"
    return {name: value for name, value in (("language", language), (title, info.title)) if value}
