"""Logs with time, level, person and message, as lines or as JSON."""

import json
import logging
import re
import time
from collections.abc import Callable
from contextvars import ContextVar

from django.http import HttpRequest, HttpResponse

from server.studio.methods import SAFE

person: ContextVar[str] = ContextVar("person", default="-")
"""Name of the person whose request is being handled."""
SLOW = 5.0
CONTROLS = re.compile(r"[\x00-\x1f\x7f-\x9f\u2028\u2029]")
log = logging.getLogger(__name__)


class Who(logging.Filter):
    """Adds the person to every log line."""

    def filter(self, record: logging.LogRecord) -> bool:
        """Pass every record, escaped to one line, so that request data cannot forge log lines."""
        record.person = _on_one_line(person.get())
        record.msg, record.args = _on_one_line(record.getMessage()), ()
        return True


def _on_one_line(text: str) -> str:
    """Return text with escaped control characters."""
    return CONTROLS.sub(lambda found: found[0].encode("unicode_escape").decode(), text)


class AsJson(logging.Formatter):
    """A line as one JSON object."""

    def format(self, record: logging.LogRecord) -> str:
        """Return a record as JSON."""
        fields = {
            "time": time.strftime("%Y-%m-%dT%H:%M:%SZ", time.gmtime(record.created)),
            "level": record.levelname.lower(),
            "person": getattr(record, "person", "-"),
            "from": record.name,
            "message": record.getMessage(),
        }
        if record.exc_info:
            fields["error"] = self.formatException(record.exc_info)
        return json.dumps(fields, ensure_ascii=False)


class Log:
    """Logs every request that changes something, fails or is slow."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Handle a request and log it."""
        token = person.set(request.user.get_username() or "-")
        begun = time.monotonic()
        try:
            response = self.get_response(request)
            took = time.monotonic() - begun
            if request.method not in SAFE or response.status_code >= 500 or took > SLOW:
                log.info("%s %s %d in %.0f ms", request.method, request.path, response.status_code, 1000 * took)
            return response
        finally:
            person.reset(token)
