"""Playing a framing that is not rendered yet."""

from django.http import HttpRequest, StreamingHttpResponse
from django.http.response import HttpResponseBase
from ninja import Router

from server.studio.actions import playing as actions
from server.studio.api import owned
from server.studio.api.schemas import PlayIn
from server.studio.asking import visitor

router = Router(tags=["playing"])
HEAD = "Cadrage-Play"
"""The header of an answer that says what one must know to play it: a `PlayHead` as JSON."""


@router.post("/framings/{framing_id}/play")
def play(request: HttpRequest, framing_id: int, given: PlayIn) -> HttpResponseBase:
    """Designs of a framing with sound from a moment on, without an end, in real time.

    Fragments of an MP4 with the picture and of one with the sound, each behind a byte, 0 for the picture and 1 for the
    sound, and its length in four bytes, the largest first. It ends where the same viewer asks for another or goes
    away.
    """
    row = owned.framing(request, framing_id)
    asked = actions.request_to_play(
        row, given.designs, given.time, lines=given.lines, speed=given.speed, source=given.source, alone=given.alone
    )
    person = visitor()
    stream, parts = actions.played(f"{person} {given.viewer}", given.turn, person, asked)
    headers = {"Cache-Control": "no-store", HEAD: stream.head.model_dump_json()}
    return StreamingHttpResponse(parts, content_type="application/octet-stream", headers=headers)
