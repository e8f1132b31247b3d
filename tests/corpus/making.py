"""What a member of the corpus is, and the tools that make one."""

import subprocess
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Literal

from tests.corpus.drawing import FRAMES, RATE, SIZE, write_clicks, write_pictures

Expected = Literal["read", "refused", "either", "damaged"]


@dataclass(frozen=True)
class Member:
    """One input.

    Attributes:
        name: in a few words, as the page of which footage works has it.
        group: it belongs to.
        file: its name.
        make: writes it to a path.
        expected: that it is read and delivered exactly; that it is refused in words; either; or that it is read as far
            as can be, and what is damaged is told.
        picture: which stream of pictures counts, as ffmpeg calls it.
        sound: whether its sound is compared; not where the two readers rightly differ.
        count: whether its pictures are compared one by one; not where they carry no number.
        numbers: that its pictures carry, where that is known without the other reader.
    """

    name: str
    group: str
    file: str
    make: Callable[["Maker", Path], None]
    expected: Expected = "read"
    picture: str = "0:V"
    sound: bool = True
    count: bool = True
    numbers: tuple[int, ...] = ()


class Maker:
    """Makes members out of pictures and clicks that are drawn once.

    Args:
        folder: for what is drawn.
    """

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        folder.mkdir(parents=True, exist_ok=True)

    def pictures(self, size: tuple[int, int] = SIZE, frames: int = FRAMES, rate: Fraction = RATE) -> Path:
        """Numbered pictures, as YUV4MPEG2."""
        path = self.folder / f"p{size[0]}x{size[1]}-{frames}-{rate.numerator}-{rate.denominator}.y4m"
        return path if path.exists() else write_pictures(path, size, frames, rate)

    def clicks(self, rate: int = 48_000, channels: int = 2, seconds: float = 2.0) -> Path:
        """Clicks, as WAV."""
        path = self.folder / f"c{rate}-{channels}-{seconds}.wav"
        return path if path.exists() else write_clicks(path, rate, channels, seconds)

    def ffmpeg(self, *arguments: str | Path) -> None:
        """Run ffmpeg."""
        command = ["ffmpeg", "-v", "error", "-nostdin", "-y", *map(str, arguments)]
        subprocess.run(command, check=True, capture_output=True, timeout=60)

    def encode(
        self,
        path: Path,
        video: str,
        audio: str = "",
        *,
        more: str = "",
        before: str = "",
        size: tuple[int, int] = SIZE,
        frames: int = FRAMES,
        rate: Fraction = RATE,
        sound: tuple[int, int] = (48_000, 2),
        late: float = 0.0,
    ) -> None:
        """Encode pictures and clicks.

        Args:
            path: to write.
            video, audio: options of the encoders; no sound where empty.
            more: options of the file.
            before: options before the pictures are read.
            size, frames, rate: of the pictures.
            sound: rate and channels.
            late: seconds by which the sound begins after the picture; negative for before.
        """
        inputs: list[str | Path] = [*before.split(), "-i", self.pictures(size, frames, rate)]
        if audio:
            seconds = float(frames / rate)
            inputs += ["-itsoffset", str(late), "-i", self.clicks(*sound, seconds=seconds)]
        maps = ["-map", "0:v", *(("-map", "1:a") if audio else ())]
        audios = ["-c:a", *audio.split()] if audio else []
        self.ffmpeg(*inputs, *maps, "-c:v", *video.split(), *audios, *more.split(), path)

    def copy(self, source: Path, path: Path, *more: str, before: str = "") -> None:
        """Put the packets of a file into another."""
        self.ffmpeg(*before.split(), "-i", source, "-map", "0", "-c", "copy", *more, path)

    def source(self, name: str, video: str, audio: str = "", **options: object) -> Path:
        """A file to make others of, encoded once."""
        path = self.folder / name
        if not path.exists():
            part = path.with_name(f"part-{name}")
            self.encode(part, video, audio, **options)  # type: ignore[arg-type]
            part.rename(path)
        return path


def encoded(video: str, audio: str = "", **options: object) -> Callable[[Maker, Path], None]:
    """A member that is just encoded."""
    return lambda maker, path: maker.encode(path, video, audio, **options)  # type: ignore[arg-type]


X264 = "libx264 -preset ultrafast -crf 12"
X265 = "libx265 -preset ultrafast -crf 14 -x265-params log-level=error"
MPEG2 = "mpeg2video -q:v 2 -bf 2 -g 12"
MPEG4 = "mpeg4 -q:v 2"
VP9 = "libvpx-vp9 -deadline realtime -cpu-used 8 -b:v 1M"
AV1 = "libsvtav1 -preset 12"
SD = (720, 576)
