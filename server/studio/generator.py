"""Asking an outside generator for pictures, over a small contract that docs/extension.md describes.

Nothing is sent unless an address is configured and somebody asked for it.
"""

import base64
import json
import urllib.error
import urllib.request
from dataclasses import dataclass
from typing import Any

from cadrage.errors import BadRequest

REQUEST_SECONDS = 20
MOST_ANSWER = 4 * 2**20
MOST_PICTURE = 200 * 2**20
MOST_VARIANTS = 8
DOWN = "See whether it runs, and at which address; then ask again."


@dataclass(frozen=True, slots=True)
class Standing:
    """How far a job is.

    Attributes:
        state: "waiting", "running", "done" or "failed".
        percent: of the work.
        problem: why it failed.
        variants: how many pictures there are.
    """

    state: str
    percent: int
    problem: str
    variants: int


class Generator:
    """A generator at an address.

    Args:
        address: http or https, without a slash at its end.
    """

    def __init__(self, address: str) -> None:
        if not address.startswith(("http://", "https://")):
            raise BadRequest("The generator's address is none of the web.", remedy="Begin it with http:// or https://.")
        self.address = address.rstrip("/")

    def begin(self, still: bytes, mask: bytes, prompt: str, count: int) -> str:
        """Ask for variants; the name of the job there.

        Args:
            still: PNG with alpha, of the frame's size.
            mask: PNG of the same size, white where something is wanted, black where the picture stays.
            prompt: in words, what is wanted.
            count: how many.

        Raises:
            BadRequest: it cannot be reached, or what it answers is nothing of the contract.
        """
        sent = {
            "still": base64.b64encode(still).decode(),
            "mask": base64.b64encode(mask).decode(),
            "prompt": prompt,
            "variants": count,
        }
        answer = self._json("POST", "/jobs", sent)
        name = answer.get("id")
        if not isinstance(name, str) or not name or len(name) > 200 or "/" in name:
            raise BadRequest("The generator's answer has no name of a job.", remedy=DOWN)
        return name

    def standing(self, name: str) -> Standing:
        """How far a job is.

        Raises:
            BadRequest: see `begin`.
        """
        answer = self._json("GET", f"/jobs/{name}")
        state, percent, count = answer.get("state"), answer.get("percent", 0), answer.get("variants", 0)
        if state not in ("waiting", "running", "done", "failed") or not isinstance(percent, int | float):
            raise BadRequest("The generator's answer says nothing of its job.", remedy=DOWN)
        if not isinstance(count, int) or not 0 <= count <= MOST_VARIANTS:
            raise BadRequest("The generator's answer has no number of pictures.", remedy=DOWN)
        return Standing(state, int(min(max(percent, 0), 100)), str(answer.get("problem", ""))[:300], count)

    def picture(self, name: str, number: int) -> bytes:
        """One of the pictures that came of a job.

        Raises:
            BadRequest: see `begin`.
        """
        return self._ask("GET", f"/jobs/{name}/variants/{number}", None, MOST_PICTURE)

    def cancel(self, name: str) -> None:
        """Tell it that a job is not wanted any more; what it answers does not matter."""
        try:
            self._ask("DELETE", f"/jobs/{name}", None, MOST_ANSWER)
        except BadRequest:
            return

    def _json(self, method: str, path: str, sent: dict[str, Any] | None = None) -> dict[str, Any]:
        data = self._ask(method, path, sent, MOST_ANSWER)
        try:
            answer = json.loads(data)
        except ValueError as error:
            raise BadRequest("The generator answers something that cannot be read.", remedy=DOWN) from error
        if not isinstance(answer, dict):
            raise BadRequest("The generator answers something that cannot be read.", remedy=DOWN)
        return answer

    def _ask(self, method: str, path: str, sent: dict[str, Any] | None, most: int) -> bytes:
        body = None if sent is None else json.dumps(sent).encode()
        request = urllib.request.Request(  # noqa: S310 - the address is http or https
            self.address + path, body, {"Content-Type": "application/json"}, method=method
        )
        opener = urllib.request.build_opener(_NoRedirect)
        try:
            with opener.open(request, timeout=REQUEST_SECONDS) as answer:
                data: bytes = answer.read(most + 1)
        except urllib.error.HTTPError as error:
            raise BadRequest(f"The generator refuses it ({error.code}).", remedy=DOWN) from error
        except (OSError, ValueError) as error:
            raise BadRequest("The generator cannot be reached.", remedy=DOWN) from error
        if len(data) > most:
            raise BadRequest(f"The generator sends more than {most // 2**20} MiB.", remedy="Ask for a smaller frame.")
        return data


class _NoRedirect(urllib.request.HTTPRedirectHandler):
    """What was meant for one address goes to no other."""

    def redirect_request(self, *_: Any, **__: Any) -> None:
        return None
