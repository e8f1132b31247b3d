"""Stills, and folders of them."""

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import numpy as np
from PIL import Image

from tests.corpus.drawing import picture
from tests.corpus.making import Maker, Member

STILLS, SEQUENCES = "Stills", "Folders of stills"
SIZE = (192, 108)
NUMBER = 1234

Change = Callable[[Image.Image], Image.Image]


def _grey() -> Image.Image:
    return Image.fromarray(picture(NUMBER, *SIZE))


def _deep() -> Image.Image:
    return Image.fromarray(picture(NUMBER, *SIZE).astype(np.uint16) * 257)


def saved(make: Callable[[], Image.Image], **options: object) -> Callable[[Maker, Path], None]:
    """A still that is saved by Pillow."""
    return lambda _, path: make().save(path, **options)


def by_ffmpeg(layout: str, *more: str) -> Callable[[Maker, Path], None]:
    """A still of a sample layout that Pillow does not write."""

    def write(maker: Maker, path: Path) -> None:
        grey = maker.folder / "still.png"
        if not grey.exists():
            _grey().save(grey)
        maker.ffmpeg("-i", grey, "-pix_fmt", layout, *more, "-update", "1", path)

    return write


def _transparent() -> Image.Image:
    image = _grey().convert("RGBA")
    image.putalpha(255)
    return image


def _singles() -> list[Member]:
    made = [
        Member("PNG: grey, 8 bit", STILLS, "still.png", saved(_grey)),
        Member("PNG: grey, 16 bit", STILLS, "still.png", saved(_deep)),
        Member(
            "PNG: 1 bit",
            STILLS,
            "still.png",
            saved(lambda: _grey().point(lambda code: 255 * (code > 127)).convert("1")),
        ),
        Member("PNG: palette", STILLS, "still.png", saved(lambda: _grey().convert("P"))),
        Member("PNG: palette of 4 colours", STILLS, "still.png", saved(lambda: _grey().quantize(4), bits=2)),
        Member("PNG: grey with transparency", STILLS, "still.png", saved(lambda: _transparent().convert("LA"))),
        Member("PNG: colour", STILLS, "still.png", saved(lambda: _grey().convert("RGB"))),
        Member("PNG: colour with transparency", STILLS, "still.png", saved(_transparent)),
        Member("JPEG: colour", STILLS, "still.jpg", saved(lambda: _grey().convert("RGB"), quality=95)),
        Member("JPEG: grey", STILLS, "still.jpg", saved(_grey, quality=95)),
        Member("JPEG: progressive", STILLS, "still.jpg", saved(_grey, quality=95, progressive=True)),
        Member("JPEG: CMYK", STILLS, "still.jpg", saved(lambda: _grey().convert("CMYK"), quality=95)),
        Member("JPEG: 4:2:0", STILLS, "still.jpeg", saved(lambda: _grey().convert("RGB"), quality=95, subsampling=2)),
        Member("TIFF: grey, 8 bit", STILLS, "still.tif", saved(_grey)),
        Member("TIFF: grey, 16 bit", STILLS, "still.tif", saved(_deep)),
        Member("TIFF: colour", STILLS, "still.tiff", saved(lambda: _grey().convert("RGB"))),
        Member("TIFF: CMYK", STILLS, "still.tif", saved(lambda: _grey().convert("CMYK"))),
        Member(
            "TIFF: 1 bit, fax",
            STILLS,
            "still.tif",
            saved(lambda: _grey().point(lambda code: 255 * (code > 127)).convert("1"), compression="group4"),
        ),
    ]
    for kind in ("tiff_lzw", "tiff_deflate", "packbits", "jpeg"):
        make = saved(lambda: _grey().convert("RGB"), compression=kind)
        made.append(Member(f"TIFF: {kind}", STILLS, "still.tif", make))
    made += [
        Member(f"PNG: {layout}", STILLS, "still.png", by_ffmpeg(layout)) for layout in ("rgb48be", "rgba64be", "ya16be")
    ]
    made.append(Member("TIFF: rgb48le", STILLS, "still.tif", by_ffmpeg("rgb48le")))
    made += [
        Member(f"JPEG: Exif orientation {number}", STILLS, "still.jpg", _oriented(number)) for number in range(1, 9)
    ]
    made += [
        Member("PNG: cut off", STILLS, "still.png", _cut(saved(_grey)), "refused"),
        Member("JPEG: cut off", STILLS, "still.jpg", _cut(saved(_grey)), "refused"),
        Member("TIFF: cut off", STILLS, "still.tif", _cut(saved(_grey)), "refused"),
        Member("PNG: 79 million pixels, 16 bit", STILLS, "still.png", _vast, "either", count=False),
        Member("PNG: more pixels than a bomb", STILLS, "still.png", _bomb, "refused"),
    ]
    return made


def _oriented(orientation: int) -> Callable[[Maker, Path], None]:
    def write(_: Maker, path: Path) -> None:
        exif = Image.Exif()
        exif[0x0112] = orientation
        _grey().save(path, quality=95, exif=exif)

    return write


def _cut(make: Callable[[Maker, Path], None]) -> Callable[[Maker, Path], None]:
    def write(maker: Maker, path: Path) -> None:
        make(maker, path)
        path.write_bytes(path.read_bytes()[: path.stat().st_size * 6 // 10])

    return write


def _vast(_: Maker, path: Path) -> None:
    Image.fromarray(np.zeros((8000, 9875), np.uint16)).save(path, compress_level=1)


def _bomb(_: Maker, path: Path) -> None:
    Image.new("1", (16_000, 16_000)).save(path)


def _folder(
    first: int, count: int, pattern: str, *others: str, missing: int | None = None
) -> Callable[[Maker, Path], None]:
    def write(_: Maker, path: Path) -> None:
        path.mkdir()
        for number in range(first, first + count):
            if number != missing:
                Image.fromarray(picture(number, *SIZE)).save(path / (pattern % number))
        for other in others:
            (path / other).write_text("beside\n")

    return write


def _sequences() -> list[Member]:
    return [
        Member("numbered from 0", SEQUENCES, "stills", _folder(0, 12, "tram.%04d.png")),
        Member("numbered from 86400", SEQUENCES, "stills", _folder(86_400, 12, "tram_%06d.png"), count=False),
        Member("without leading zeros", SEQUENCES, "stills", _folder(5, 12, "tram%d.png")),
        Member("JPEG", SEQUENCES, "stills", _folder(1, 12, "tram.%04d.jpg")),
        Member("TIFF", SEQUENCES, "stills", _folder(1, 12, "tram.%04d.tif")),
        Member(
            "other files beside",
            SEQUENCES,
            "stills",
            _folder(0, 12, "tram.%04d.png", "notes.txt", ".DS_Store", "Thumbs.db"),
        ),
        Member("a still missing", SEQUENCES, "stills", _folder(0, 12, "tram.%04d.png", missing=6), "refused"),
        Member("only a letter", SEQUENCES, "stills", _folder(0, 0, "%d.png", "notes.txt"), "refused"),
    ]


def members() -> list[Member]:
    """All of these."""
    singles = [replace(one, numbers=(NUMBER,)) for one in _singles()]
    first = {"numbered from 0": 0, "other files beside": 0, "without leading zeros": 5}
    runs = [replace(one, numbers=tuple(range(at := first.get(one.name, 1), at + 12))) for one in _sequences()]
    return [*singles, *runs]
