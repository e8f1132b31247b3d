"""A broadcast stream with closed captions in its pictures, made byte by byte."""

import subprocess
from pathlib import Path

START = b"\0\0\0\1"


def sei(data):
    """ITU-T T.35 user data of the United States, provider 0x31, as an H.264 SEI: ITU-T H.264, D.1.6."""
    payload = b"\xb5\x00\x31" + data
    return START + b"\x06\x04" + bytes([len(payload)]) + payload + b"\x80"


def odd(value):
    """A byte of CEA-608 with its odd parity."""
    return value | (0x80 if value.bit_count() % 2 == 0 else 0)


def pair(first, second):
    return bytes((odd(first), odd(second)))


def pop_on(text):
    """Pairs that make a caption and show it: RCL, ENM, row 15, letters, EOC (47 CFR 15.119, from memory)."""
    letters = text.encode() + b"\0" * (len(text) % 2)
    made = [pair(0x14, 0x20)] * 2 + [pair(0x14, 0x2E)] * 2 + [pair(0x14, 0x70)] * 2
    made += [pair(*letters[at : at + 2]) for at in range(0, len(letters), 2)]
    return made + [pair(0x14, 0x2F)] * 2


ERASE = [pair(0x14, 0x2C)] * 2  # EDM


def write_captioned(folder: Path) -> Path:
    """A broadcast stream of six seconds with two captions in its pictures."""
    path, raw = folder / "captioned.ts", folder / "raw.h264"
    drawn = ["-f", "lavfi", "-i", "testsrc2=s=192x108:r=30000/1001:d=6", "-pix_fmt", "yuv420p"]
    plain = folder / "plain.h264"
    encoder = ["-c:v", "libx264", "-bf", "0", "-aud", "1"]
    subprocess.run(["ffmpeg", "-v", "error", "-y", *drawn, *encoder, plain], check=True)
    begun = {30: pop_on("HELLO TRAM"), 90: ERASE, 120: pop_on("ON TIME")}
    delimiter, waiting, pictures = START + b"\x09", [], []
    for number, part in enumerate(plain.read_bytes().split(delimiter)[1:]):
        waiting += begun.get(number, [])
        data = b"GA94\x03\x41\xff\xfc" + (waiting.pop(0) if waiting else pair(0, 0)) + b"\xff"
        pictures.append(delimiter + part[:1] + sei(data) + part[1:])
    raw.write_bytes(b"".join(pictures))
    subprocess.run(["ffmpeg", "-v", "error", "-r", "30000/1001", "-i", raw, "-c", "copy", path], check=True)
    return path
