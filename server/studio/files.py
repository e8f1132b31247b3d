"""Sending files, whole or in part (RFC 9110, section 14), in constant memory."""

import io
import re
from pathlib import Path
from urllib.parse import quote

from django.conf import settings
from django.http import FileResponse, HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from django.utils.http import content_disposition_header

ONE_RANGE = re.compile(r"bytes=(\d{0,18})-(\d{0,18})", re.ASCII)
"""One range of bytes. What is no such range is left out of account, as RFC 9110, 14.2 has it."""


def attachment(name: str) -> str:
    """What a header says of a file that is to be kept under a name."""
    return content_disposition_header(as_attachment=True, filename=name) or "attachment"


def send_file(request: HttpRequest, path: Path, kind: str, download_as: str | None) -> HttpResponseBase:
    """A file as a response; a browser that asks for one range of bytes gets that range.

    A proxy that hands out files itself is told which; otherwise the server takes the file over, and no thread waits
    for a slow line.
    """
    if settings.ACCEL and path.is_relative_to(settings.MEDIA_DIR):
        inside = quote(f"{settings.ACCEL.rstrip('/')}/{path.relative_to(settings.MEDIA_DIR)}")
        response: HttpResponseBase = HttpResponse(content_type=kind, headers={"X-Accel-Redirect": inside})
    else:
        size = path.stat().st_size
        first, last, status = 0, size - 1, 200
        asked = ONE_RANGE.fullmatch(request.headers.get("Range", ""))
        if asked and any(asked.groups()):
            first, last, status = *_range(asked, size), 206
            if first > last:
                return HttpResponse(status=416, headers={"Content-Range": f"bytes */{size}"})
        response = FileResponse(Part(path, first, last + 1), status=status, content_type=kind)
        response.headers["Accept-Ranges"] = "bytes"
        if status == 206:
            response.headers["Content-Range"] = f"bytes {first}-{last}/{size}"
    if download_as:
        response.headers["Content-Disposition"] = attachment(download_as)
    return response


def _range(asked: re.Match[str], size: int) -> tuple[int, int]:
    """First and last byte; "-500" means the last 500."""
    if not asked[1]:
        return max(0, size - int(asked[2])), size - 1
    return int(asked[1]), min(int(asked[2]) if asked[2] else size - 1, size - 1)


class Part(io.RawIOBase):
    """The bytes of a file from one on and before another, as if they were a file."""

    def __init__(self, path: Path, first: int, end: int) -> None:
        super().__init__()
        self._file = path.open("rb", buffering=0)
        self._first, self._end = first, end
        self._file.seek(first)

    def readable(self) -> bool:
        """They can be read."""
        return True

    def seekable(self) -> bool:
        """Any of them can be gone to."""
        return True

    def tell(self) -> int:
        """Where the next one is, counted from the first."""
        return self._file.tell() - self._first

    def seek(self, offset: int, whence: int = io.SEEK_SET) -> int:
        """Go to one of them."""
        begin = {io.SEEK_SET: self._first, io.SEEK_CUR: self._file.tell(), io.SEEK_END: self._end}[whence]
        return self._file.seek(begin + offset) - self._first

    def read(self, size: int = -1) -> bytes:
        """So many of them, or all that are left."""
        left = max(0, self._end - self._file.tell())
        return self._file.read(left if size < 0 else min(size, left))

    def close(self) -> None:
        """Give the file back."""
        self._file.close()
        super().close()
