"""Playing: composed pictures with sound as they go, one stream for each who watches."""

import threading
from collections.abc import Callable, Generator, Iterator, Sequence
from contextlib import contextmanager, nullcontext
from dataclasses import dataclass
from fractions import Fraction

from cadrage.compose.preview import picture_alone
from cadrage.errors import Busy
from cadrage.footage import ClipIdentity
from cadrage.plan import Design, Plan, Shot
from cadrage.playing import PlayRequest, PlayStream
from cadrage.playing.child_stream import parts_in_child
from server.studio.actions.footage import check_there
from server.studio.actions.framing_plans import tried
from server.studio.actions.materials import library_of
from server.studio.actions.previews import previewer
from server.studio.actions.streams import ConcurrencyLimit, start_stream
from server.studio.apps import readable
from server.studio.models import Framing

MAX_STREAMS, MAX_STREAMS_EACH = 4, 2
"""Streams at a time, in all and of one person: each takes a processor and a thread of the web process."""


@dataclass(frozen=True)
class _Watched:
    person: str
    turn: int
    ended: threading.Event


ONE_HEAVY = ConcurrencyLimit(1, "A large still is being played for someone else.", wait_s=10)
"""Limits large stills, which take hundreds of megabytes while they play. A person's next stream waits for the last."""


class Viewers:
    """Running streams: one for each page of a browser. A stream of the same or a later turn ends the one before it; a
    person's stream beyond their limit ends their oldest.
    """

    def __init__(self, most: int = MAX_STREAMS) -> None:
        self._most = most
        self._watching: dict[str, _Watched] = {}
        self._lock = threading.Lock()

    @property
    def count(self) -> int:
        """How many watch now."""
        return len(self._watching)

    @contextmanager
    def watching(self, viewer: str, turn: int = 0, person: str = "") -> Iterator[Callable[[], bool]]:
        """Watch until the end of the block; yield what says whether this is still what the viewer watches.

        Args:
            viewer: a page of a browser.
            turn: when it was asked for: what arrives behind a later one is not watched at all.
            person: whose page it is, by the server's word; the viewer's own where empty.

        Raises:
            Busy: too many others watch.
        """
        watched = _Watched(person or viewer, turn, threading.Event())
        with self._lock:
            before = self._watching.get(viewer)
            own = [name for name, one in self._watching.items() if one.person == watched.person]
            if before is None and len(own) >= MAX_STREAMS_EACH:
                self._watching.pop(own[0]).ended.set()
            if before is None and len(self._watching) >= self._most:
                raise Busy(
                    f"The machine is playing for {len(self._watching)} others already.",
                    remedy="Try again when another person stops playing.",
                )
            if before is not None and before.turn > turn:
                watched.ended.set()
            else:
                if before is not None:
                    before.ended.set()
                self._watching[viewer] = watched
        try:
            yield lambda: not watched.ended.is_set()
        finally:
            with self._lock:
                if self._watching.get(viewer) is watched:
                    del self._watching[viewer]


viewers = Viewers()


def request_to_play(
    framing: Framing, designs: Sequence[Design], time: Fraction, *, lines: int, speed: int, source: bool, alone: bool
) -> PlayRequest:
    """Build a request to play designs side by side, or the stored picture; the whole clip, or one shot (`alone`).

    Raises:
        BadRequest: the designs cannot be played together. MissingSource: the clip's file is missing.
    """
    check_there(framing.footage)
    plans = tuple(tried(framing, design) for design in designs)
    if source:
        plans = (as_stored(plans[0], framing),)
    clip = framing.footage
    library = library_of(clip, plans[0].interpretation, previewer.store, drafts=True)
    return PlayRequest(plans, clip.path, clip.info, time, library, lines, framing.frame.settings, speed, alone)


def as_stored(plan: Plan, framing: Framing) -> Plan:
    """The plan that shows all of a clip's picture as it is stored, upright."""
    info = framing.footage.info
    whole = {"burned_in_bars": None, "clean_aperture": None, "mirror": info.mirrored}
    shown = picture_alone(info, plan.interpretation.model_copy(update=whole))
    return shown.model_copy(update={"range": plan.range, "shots": tuple(Shot(start=shot.start) for shot in plan.shots)})


def played(
    viewer: str, turn: int, person: str, request: PlayRequest
) -> tuple[PlayStream, Generator[bytes, None, None]]:
    """Start a stream for a viewer, and return it with its parts; they end when the viewer plays something else.

    Raises:
        Busy: too many streams are running, or another large still is playing. MissingSource, UnreadableFile: the clip
            cannot be read, if that shows at once.
    """
    stream = PlayStream(request, store=previewer.store)
    own = ClipIdentity.of(request.source)
    heavy = any(previewer.is_heavy(request.info, own, plan, request.library) for plan in request.plans)
    return stream, start_stream(_parts(viewer, turn, person, heavy, stream))


def _parts(viewer: str, turn: int, person: str, heavy: bool, stream: PlayStream) -> Generator[bytes, None, None]:
    with viewers.watching(viewer, turn, person) as wanted, ONE_HEAVY.slot() if heavy else nullcontext():
        if heavy:
            yield from parts_in_child(stream.request, wanted, readable())
            return
        stream.wanted = wanted
        if wanted():
            yield from stream.parts()
