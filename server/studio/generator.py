"""Asking an outside generator for pictures, over a small contract that docs/extension.md describes.

Nothing is sent unless an address is configured and a person asked for it.
"""

import base64
import http.client
import json
import time
import urllib.error
import urllib.request
from typing import Annotated, Any, Literal, TypeVar
from urllib.parse import quote

from pydantic import AfterValidator, BaseModel, Field, ValidationError

from cadrage.errors import BadRequest
from cadrage.values import visible

REQUEST_SECONDS = 20
PICTURE_SECONDS = 300
MOST_ANSWER = 4 * 2**20
MOST_PICTURE = 200 * 2**20
MOST_VARIANTS = 8
PIECE = 1 << 16
DOWN = "See whether it runs, and at which address; then ask again."


class Begun(BaseModel):
    """Its answer to an order: the name of a job."""

    id: Annotated[str, Field(min_length=1, max_length=200, pattern=r"^[^/]+$")]


class Standing(BaseModel):
    """Its answer to how far a job is.

    Attributes:
        state: of the job.
        percent: of the work.
        problem: why it failed.
        variants: how many pictures there are.
    """

    state: Literal["waiting", "running", "done", "failed"]
    percent: Annotated[float, Field(allow_inf_nan=False), AfterValidator(lambda given: min(max(given, 0), 100))] = 0
    problem: Annotated[str, AfterValidator(lambda text: visible(text[:300]))] | None = None
    variants: Annotated[int, Field(strict=True, ge=0, le=MOST_VARIANTS)] = 0


Answer = TypeVar("Answer", Begun, Standing)


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
            prompt: a description of the wanted picture.
            count: how many.

        Raises:
            BadRequest: it cannot be reached, or its answer breaks the contract.
        """
        sent = {
            "still": base64.b64encode(still).decode(),
            "mask": base64.b64encode(mask).decode(),
            "prompt": prompt,
            "variants": count,
        }
        return self._answer(Begun, "POST", "/jobs", sent).id

    def standing(self, name: str) -> Standing:
        """How far a job is.

        Raises:
            BadRequest: see `begin`.
        """
        return self._answer(Standing, "GET", f"/jobs/{quote(name, safe='')}")

    def picture(self, name: str, number: int) -> bytes:
        """One of the pictures that came of a job.

        Raises:
            BadRequest: see `begin`.
        """
        return self._ask("GET", f"/jobs/{quote(name, safe='')}/variants/{number}", None, MOST_PICTURE, PICTURE_SECONDS)

    def cancel(self, name: str) -> None:
        """Cancel a job; the answer is ignored."""
        try:
            self._ask("DELETE", f"/jobs/{quote(name, safe='')}", None, MOST_ANSWER)
        except BadRequest:
            return

    def _answer(self, kind: type[Answer], method: str, path: str, sent: dict[str, Any] | None = None) -> Answer:
        data = self._ask(method, path, sent, MOST_ANSWER)
        try:
            return kind.model_validate_json(data)
        except ValidationError as error:
            raise BadRequest("The generator's answer cannot be understood.", remedy=DOWN) from error

    def _ask(
        self, method: str, path: str, sent: dict[str, Any] | None, most: int, seconds: float = REQUEST_SECONDS
    ) -> bytes:
        """Send a request and return the body of its answer.

        Raises:
            BadRequest: there is no answer within so many seconds, it refuses, or it sends more than `most` bytes.
        """
        body = None if sent is None else json.dumps(sent).encode()
        request = urllib.request.Request(  # noqa: S310 - the address is http or https
            self.address + path, body, {"Content-Type": "application/json"}, method=method
        )
        opener = urllib.request.build_opener(_NoRedirect)
        until = time.monotonic() + seconds
        data = bytearray()
        try:
            with opener.open(request, timeout=REQUEST_SECONDS) as answer:
                while len(data) <= most and (piece := answer.read1(PIECE)):
                    data += piece
                    if time.monotonic() > until:
                        raise BadRequest(f"The generator sends for longer than {seconds:g} seconds.", remedy=DOWN)
        except urllib.error.HTTPError as error:
            raise BadRequest(f"The generator refuses it ({error.code}).", remedy=DOWN) from error
        except (OSError, ValueError, http.client.HTTPException) as error:
            raise BadRequest("The generator cannot be reached.", remedy=DOWN) from error
        if len(data) > most:
            raise BadRequest(f"The generator sends more than {most // 2**20} MiB.", remedy="Ask for a smaller frame.")
        return bytes(data)


class _NoRedirect(urllib.request.HTTPRedirectHandler):
    """Requests for one address are never redirected to another."""

    def redirect_request(self, *_: Any, **__: Any) -> None:
        return None
