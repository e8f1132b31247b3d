"""Logs: when, how grave, who, what; as lines or, for machines, as JSON."""

import json
import logging
import re
import time
from collections.abc import Callable
from contextvars import ContextVar

from django.http import HttpRequest, HttpResponse

from server.studio.methods import SAFE

person: ContextVar[str] = ContextVar("person", default="-")
"""Who asks for what is being done."""
SLOW = 5.0
CONTROLS = re.compile(r"[\x00-\x1f\x7f-\x9f\u2028\u2029]")
log = logging.getLogger(__name__)


class Who(logging.Filter):
    """Says of every line who asked for what it tells."""

    def filter(self, record: logging.LogRecord) -> bool:
        """Let every line through, as one line: nobody writes lines of their own by what they send."""
        record.person = _on_one_line(person.get())
        record.msg, record.args = _on_one_line(record.getMessage()), ()
        return True


def _on_one_line(text: str) -> str:
    """Text whose control characters are written as escapes."""
    return CONTROLS.sub(lambda found: found[0].encode("unicode_escape").decode(), text)


class AsJson(logging.Formatter):
    """A line as one JSON object."""

    def format(self, record: logging.LogRecord) -> str:
        """That object."""
        told = {
            "time": time.strftime("%Y-%m-%dT%H:%M:%SZ", time.gmtime(record.created)),
            "level": record.levelname.lower(),
            "person": getattr(record, "person", "-"),
            "from": record.name,
            "message": record.getMessage(),
        }
        if record.exc_info:
            told["error"] = self.formatException(record.exc_info)
        return json.dumps(told, ensure_ascii=False)


class Log:
    """Tells of every request that changes something, that failed, or that took long: who, what, how it ended."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer, and tell."""
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
