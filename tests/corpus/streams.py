"""Layouts of sound, and streams beside the one that counts."""

from pathlib import Path

from tests.corpus.making import MPEG2, X264, Maker, Member, encoded

SOUND, BESIDE = "Sound", "Streams beside"

CHANNELS = (
    *(("mp4", "aac", 1), ("mp4", "aac", 6), ("mp4", "aac", 8), ("mov", "pcm_s24le", 1), ("mov", "pcm_s16le", 6)),
    *(("mov", "pcm_s16le", 4), ("mov", "pcm_s16le", 8), ("mov", "pcm_s24le", 12), ("mkv", "flac", 3)),
    *(("mkv", "ac3", 6), ("mkv", "libopus", 6), ("mkv", "libvorbis", 6), ("ts", "ac3", 6), ("ts", "aac", 6)),
    *(("mp4", "eac3", 6), ("mkv", "pcm_s16le", 16), ("mkv", "truehd -strict -2", 6), ("ts", "mp2", 1)),
)
RATES = (
    *(("mp4", "aac", 44_100), ("mp4", "aac", 96_000), ("mp4", "aac", 22_050), ("mp4", "aac", 8_000)),
    *(
        ("mov", "pcm_s16le", 44_100),
        ("mov", "pcm_s16le", 11_025),
        ("mov", "pcm_s24le", 96_000),
        ("mov", "pcm_s16le", 32_000),
    ),
    *(
        ("avi", "libmp3lame", 22_050),
        ("avi", "libmp3lame", 44_100),
        ("avi", "pcm_s16le", 44_100),
        ("avi", "mp2", 32_000),
    ),
    *(("mkv", "libmp3lame", 16_000), ("mkv", "flac", 192_000), ("ts", "mp2", 44_100), ("ts", "mp2", 32_000)),
    *(("mpg", "mp2", 44_100), ("flv", "libmp3lame", 22_050)),
)


def _sounds() -> list[Member]:
    made = []
    for suffix, codec, channels in CHANNELS:
        name = f"{suffix.upper()}: {codec.split()[0]}, {channels} channels"
        video = MPEG2 if suffix == "mpg" else X264
        heard = codec[:6] != "truehd"  # today's FFmpeg does not decode what that older one makes of 5.1; it is told
        made.append(Member(name, SOUND, f"clip.{suffix}", encoded(video, codec, sound=(48_000, channels)), sound=heard))
    for suffix, codec, rate in RATES:
        name = f"{suffix.upper()}: {codec}, {rate} Hz"
        video = MPEG2 if suffix == "mpg" else "flv1 -q:v 2" if suffix == "flv" else X264
        made.append(Member(name, SOUND, f"clip.{suffix}", encoded(video, codec, sound=(rate, 2))))
    return made


def _two(maker: Maker, path: Path, *more: str) -> None:
    """Two pictures of different sizes, and two sounds."""
    big, small = maker.pictures(), maker.pictures((128, 72))
    maker.ffmpeg("-i", small, "-i", big, "-i", maker.clicks(), "-i", maker.clicks(44_100, 1), *more, path)


MAPS = ("-map", "0:v", "-map", "1:v", "-map", "2:a", "-map", "3:a", "-c:v", *X264.split(), "-c:a", "aac")


def _covered(maker: Maker, path: Path) -> None:
    cover = maker.folder / "cover.png"
    maker.ffmpeg("-i", maker.pictures((64, 64), 1), "-frames:v", "1", cover)
    maker.ffmpeg(
        *("-i", maker.source("for-cover.mp4", X264, "aac"), "-i", cover, "-map", "0", "-map", "1", "-c", "copy"),
        *("-disposition:v:1", "attached_pic", path),
    )


def _subtitled(maker: Maker, path: Path) -> None:
    words = maker.folder / "words.srt"
    words.write_text("1\n00:00:00,200 --> 00:00:01,000\nOn rails\n\n")
    codec = {".mkv": "srt", ".mp4": "mov_text", ".mov": "mov_text"}[path.suffix]
    maker.ffmpeg(
        *("-i", maker.source("for-words.mp4", X264, "aac"), "-i", words, "-map", "0", "-map", "1", "-c", "copy"),
        *("-c:s", codec, path),
    )


def _chaptered(maker: Maker, path: Path) -> None:
    marks = maker.folder / "chapters.txt"
    marks.write_text(";FFMETADATA1\n[CHAPTER]\nTIMEBASE=1/1000\nSTART=0\nEND=900\ntitle=First\n")
    maker.ffmpeg(
        *("-i", maker.source("for-words.mp4", X264, "aac"), "-i", marks, "-map", "0", "-map_metadata", "1"),
        *("-map_chapters", "1", "-c", "copy", path),
    )


def _timed(maker: Maker, path: Path) -> None:
    source = maker.source("for-words.mp4", X264, "aac")
    maker.ffmpeg("-i", source, "-c", "copy", "-timecode", "10:00:00:00", path)


def _programmes(maker: Maker, path: Path) -> None:
    _two(
        *(maker, path, *MAPS, "-program", "title=One:st=0:st=2", "-program", "title=Two:st=1:st=3", "-f", "mpegts"),
    )


def members() -> list[Member]:
    """All of these."""
    made = _sounds()
    for suffix in ("mp4", "mkv", "mov", "ts"):
        make = lambda maker, path: _two(maker, path, *MAPS)  # noqa: E731
        picture = "0:v:1" if suffix == "ts" else "0:v:0"
        made.append(
            Member(f"{suffix.upper()}: two pictures, two sounds", BESIDE, f"clip.{suffix}", make, picture=picture)
        )
    made.append(Member("TS: two programmes", BESIDE, "clip.ts", _programmes, picture="0:v:1"))
    for suffix in ("mp4", "mkv", "mov"):
        made.append(Member(f"{suffix.upper()}: chapters", BESIDE, f"clip.{suffix}", _chaptered))
        made.append(Member(f"{suffix.upper()}: subtitles", BESIDE, f"clip.{suffix}", _subtitled))
    made += [
        Member("MP4: cover picture", BESIDE, "clip.mp4", _covered),
        Member("MKV: cover picture", BESIDE, "clip.mkv", _covered, picture="0:v:0"),
        Member("MOV: track of time codes", BESIDE, "clip.mov", _timed),
        Member("MP4: track of time codes", BESIDE, "clip.mp4", _timed),
    ]
    return made
