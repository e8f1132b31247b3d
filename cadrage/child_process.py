"""Work in a process of its own: what takes much memory takes it there, one thing at a time, and under a bound."""

import multiprocessing
import os
import resource
import signal
import threading
import time
from collections.abc import Callable, Sequence
from concurrent.futures import Future, ProcessPoolExecutor
from concurrent.futures import TimeoutError as NotDone
from concurrent.futures.process import BrokenProcessPool
from contextlib import suppress
from pathlib import Path
from typing import ParamSpec, TypeVar

from cadrage.errors import Busy, CadrageError, RasterOutOfRange
from cadrage.footage.bounds import read_only_in
from cadrage.footage.interruption import check_interrupted
from cadrage.memory import give_back

MOST_BYTES = 3 * 2**30
"""Of memory that the process may have."""
IDLE_SECONDS = 60.0
WAIT_SECONDS = 120.0
"""For which somebody waits for their turn."""
WORK_SECONDS = 60.0
"""For which one piece of work may take; then the process is ended."""
POLL_SECONDS = 0.2
NICENESS = 5  # others come first

Given = ParamSpec("Given")
Made = TypeVar("Made")


class TakesTooLong(CadrageError):
    """A piece of work took longer than it may."""


class ChildProcess:
    """A process that is started when it is needed, and ended when it was not needed for a while; safe to share.

    Args:
        folders: says which folders it may read files in, when it starts; None for everywhere.
        idle: seconds after which it ends.
        most: bytes of memory that it may have.
    """

    def __init__(
        self,
        folders: Callable[[], Sequence[Path] | None] = lambda: None,
        *,
        idle: float = IDLE_SECONDS,
        most: int = MOST_BYTES,
    ) -> None:
        self._folders, self._idle, self._most = folders, idle, most
        self._one = threading.Lock()
        self._pool: ProcessPoolExecutor | None = None
        self._process = 0
        self._end = threading.Timer(0, lambda: None)

    @property
    def runs(self) -> bool:
        """Whether the process is there now."""
        return self._pool is not None

    def call(self, work: Callable[Given, Made], *given: Given.args, **named: Given.kwargs) -> Made:
        """What a function makes of what it is given; it, that and the outcome must be such as can be pickled.

        Raises:
            Busy: others were not done with it in time. RasterOutOfRange: it took more memory than there is for it, or
                the process was ended. TakesTooLong: see `WORK_SECONDS`. And whatever the function raises, or whoever
                waits for it is interrupted by; see `interrupted_by`.
        """
        self._wait_for_turn()
        try:
            self._end.cancel()
            return self._awaited(self._running().submit(work, *given, **named))
        except (BrokenProcessPool, MemoryError) as error:
            self._let_go()
            raise RasterOutOfRange(
                "The picture takes more memory than there is for one.", remedy="Scale the stills that it uses down."
            ) from error
        finally:
            self._end = threading.Timer(self._idle, self.end)
            self._end.daemon = True
            self._end.start()
            self._one.release()

    def _wait_for_turn(self) -> None:
        until = time.monotonic() + WAIT_SECONDS
        while not self._one.acquire(timeout=POLL_SECONDS):
            check_interrupted()
            if time.monotonic() > until:
                raise Busy("Other large pictures are being made.", remedy="Try again in a while.")

    def _awaited(self, work: Future[Made]) -> Made:
        until = time.monotonic() + WORK_SECONDS
        while True:
            try:
                return work.result(POLL_SECONDS)
            except NotDone:
                if work.done():
                    raise  # by the work itself
            try:
                check_interrupted()
            except BaseException:
                self._kill()
                raise
            if time.monotonic() > until:
                self._kill()
                raise TakesTooLong(
                    f"Reaching this moment of the clip takes longer than {WORK_SECONDS:g} seconds.",
                    remedy="Convert the clip to a smaller size, or with a keyframe every second, and add it again.",
                )

    def _kill(self) -> None:
        with suppress(ProcessLookupError):
            os.kill(self._process, signal.SIGKILL)
        self._let_go()

    def _running(self) -> ProcessPoolExecutor:
        if self._pool is None:
            self._pool = ProcessPoolExecutor(
                1,
                mp_context=multiprocessing.get_context("spawn"),  # a process of many threads cannot be copied
                initializer=begin,
                initargs=(self._folders(), self._most),
            )
            self._process = self._pool.submit(os.getpid).result()
        return self._pool

    def end(self) -> None:
        """End the process, unless something is being done; the next call starts another."""
        if self._one.acquire(blocking=False):
            try:
                self._let_go()
            finally:
                self._one.release()

    def _let_go(self) -> None:
        pool, self._pool = self._pool, None
        if pool is not None:
            pool.shutdown(wait=False, cancel_futures=True)


def begin(folders: Sequence[Path] | None, most: int = MOST_BYTES) -> None:
    """Prepare this process: it ends with its parent, lets others go first, and is bounded in memory and in folders."""
    threading.Thread(target=_end_with_parent, daemon=True).start()
    os.nice(NICENESS)
    resource.setrlimit(resource.RLIMIT_DATA, (most, most))
    if folders is not None:
        read_only_in(lambda: folders)
    give_back()


def _end_with_parent() -> None:
    parent = multiprocessing.parent_process()
    if parent is not None:
        parent.join()
        os._exit(1)
