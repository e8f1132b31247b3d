"""Sending files, whole or in part (RFC 9110, section 14), in constant memory."""

import re
from collections.abc import Iterator
from pathlib import Path

from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from django.http.response import HttpResponseBase
from django.utils.http import content_disposition_header

PIECE = 256 * 1024
ONE_RANGE = re.compile(r"bytes=(\d*)-(\d*)")


def attachment(name: str) -> str:
    """What a header says of a file that is to be kept under a name."""
    return content_disposition_header(as_attachment=True, filename=name) or "attachment"


def send_file(request: HttpRequest, path: Path, kind: str, download_as: str | None) -> HttpResponseBase:
    """A file as a response; a browser that asks for one range of bytes gets that range."""
    size = path.stat().st_size
    first, last, status = 0, size - 1, 200
    asked = ONE_RANGE.fullmatch(request.headers.get("Range", ""))
    if asked and any(asked.groups()):
        first, last, status = *_range(asked, size), 206
        if first > last:
            return HttpResponse(status=416, headers={"Content-Range": f"bytes */{size}"})
    response = StreamingHttpResponse(_pieces(path, first, last), status=status, content_type=kind)
    response["Accept-Ranges"] = "bytes"
    response["Content-Length"] = str(last - first + 1)
    if status == 206:
        response["Content-Range"] = f"bytes {first}-{last}/{size}"
    if download_as:
        response["Content-Disposition"] = attachment(download_as)
    return response


def _range(asked: re.Match[str], size: int) -> tuple[int, int]:
    """First and last byte; "-500" means the last 500."""
    if not asked[1]:
        return max(0, size - int(asked[2])), size - 1
    return int(asked[1]), min(int(asked[2]) if asked[2] else size - 1, size - 1)


def _pieces(path: Path, first: int, last: int) -> Iterator[bytes]:
    with path.open("rb") as file:
        file.seek(first)
        left = last - first + 1
        while left > 0 and (piece := file.read(min(PIECE, left))):
            left -= len(piece)
            yield piece
