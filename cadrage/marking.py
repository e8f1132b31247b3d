"""Our mark in small files, so that they can be told from those of others."""

import struct
import zlib

MARK = "made-by-cadrage"
"""Stands somewhere in every file that Cadrage writes for people."""
PNG, JPEG = b"\x89PNG\r\n\x1a\n", b"\xff\xd8"
PNG_HEADER_ENDS = 33  # signature, and the IHDR chunk of 25 bytes, which comes first (ISO/IEC 15948, 5.6)


def marked(data: bytes) -> bytes:
    """A PNG, JPEG, SVG or HTML file with our mark in it; anything else as it is."""
    if data.startswith(PNG):
        return data[:PNG_HEADER_ENDS] + _png_text() + data[PNG_HEADER_ENDS:]
    if data.startswith(JPEG):
        return JPEG + _jpeg_comment() + data[len(JPEG) :]
    if data.startswith((b"<svg", b"<!doctype html")):
        return data.rstrip(b"\n") + f"<!-- {MARK} -->\n".encode()
    return data


def _png_text() -> bytes:
    """A tEXt chunk (ISO/IEC 15948, 11.3.4.3)."""
    body = b"tEXtSoftware\0" + MARK.encode()
    return struct.pack(">I", len(body) - 4) + body + struct.pack(">I", zlib.crc32(body))


def _jpeg_comment() -> bytes:
    """A COM segment (ITU-T T.81, B.2.4.5)."""
    return struct.pack(">HH", 0xFFFE, 2 + len(MARK)) + MARK.encode()
