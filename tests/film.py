"""Film whose pictures carry their number in light and dark squares, spread over fields or stretched by flags."""

import subprocess

import numpy as np

WIDTH, HEIGHT, BITS = 360, 240, 8
NTSC_FILM, NTSC_VIDEO = "24000/1001", "30000/1001"


def picture(number):
    """Luma of one picture: its number, and something that moves."""
    luma = np.full((HEIGHT, WIDTH), 90, np.int16)
    luma += (20 * np.sin(np.arange(WIDTH) / 9 + 0.9 * number)).astype(np.int16)[None, :]
    left = number * 7 % (WIDTH - 60)
    luma[100:160, left : left + 50] = 230
    for bit in range(BITS):
        luma[8:40, 20 + 36 * bit : 44 + 36 * bit] = 220 if number >> bit & 1 else 30
    return luma.astype(np.uint8)


def number_of(luma):
    """The number that a picture carries, of codes of 8 bits in its own size."""
    squares = [luma[8:40, 24 + 36 * bit : 40 + 36 * bit].mean() for bit in range(BITS)]
    return sum((mean > 125) << bit for bit, mean in enumerate(squares))


def combing(luma):
    """How much lines differ from the mean of their neighbours, in codes."""
    lines = luma.astype(int)
    return float(np.abs(2 * lines[1:-1] - lines[:-2] - lines[2:]).mean() / 2)


def in_fields(numbers, order, *, threes=1):
    """Pictures spread over fields, two and three in turn, and woven; `threes` says which of two lasts three."""
    fields = [number for place, number in enumerate(numbers) for _ in range(3 if place % 2 == threes else 2)]
    frames = []
    for first, second in zip(fields[::2], fields[1::2], strict=False):
        woven = picture(first)
        upper_first = order == "upper_first"
        woven[1 if upper_first else 0 :: 2] = picture(second)[1 if upper_first else 0 :: 2]
        frames.append(woven)
    return frames


def write(path, frames, *arguments, rate=NTSC_VIDEO):
    """Encode luma by ffmpeg, without colour."""
    grey = np.full(HEIGHT * WIDTH // 2, 128, np.uint8).tobytes()
    form = ("-f", "rawvideo", "-pix_fmt", "yuv420p", "-s", f"{WIDTH}x{HEIGHT}", "-r", rate, "-i", "-")
    data = b"".join(frame.tobytes() + grey for frame in frames)
    subprocess.run(["ffmpeg", "-v", "error", "-y", *form, *arguments, str(path)], input=data, check=True)
    return path


def write_stretched(path, count, folder):
    """Film in MPEG-2 whose flags repeat a field of every second picture. ISO/IEC 13818-2, 6.3.5 and 6.3.10."""
    plain = folder / "plain.m2v"
    write(plain, map(picture, range(count)), "-c:v", "mpeg2video", "-q:v", "2", "-bf", "2", "-g", "12")
    stream = bytearray(plain.read_bytes())
    base, highest, shown, at = 0, -1, 0, 0
    while (at := stream.find(b"\x00\x00\x01", at)) >= 0 and at + 8 < len(stream):
        kind, extension = stream[at + 3], stream[at + 4] >> 4
        if kind == 0xB8:  # a group: pictures are counted from there
            base, highest = base + highest + 1, -1
        elif kind == 0x00:
            shown = stream[at + 4] << 2 | stream[at + 5] >> 6
            highest = max(highest, shown)
        elif kind == 0xB5 and extension == 1:
            stream[at + 5] &= ~0x08  # progressive_sequence
        elif kind == 0xB5 and extension == 8:
            place = (base + shown) % 4
            stream[at + 7] = stream[at + 7] & 0x7D | (place in (0, 3)) << 7 | (place in (0, 2)) << 1
            stream[at + 8] |= 0x80  # progressive_frame
        at += 3
    flagged = folder / "flagged.m2v"
    flagged.write_bytes(stream)
    copied = ("-fflags", "+genpts", "-i", str(flagged), "-c", "copy", str(path))
    subprocess.run(["ffmpeg", "-v", "error", "-y", *copied], check=True)
    return path


def decoded(path, size=(WIDTH, HEIGHT)):
    """Every picture of a file as ffmpeg decodes it."""
    form = ("-f", "rawvideo", "-pix_fmt", "gray", "-fps_mode", "passthrough", "-")
    data = subprocess.run(["ffmpeg", "-v", "error", "-i", str(path), *form], check=True, capture_output=True).stdout
    return np.frombuffer(data, np.uint8).reshape(-1, size[1], size[0])
