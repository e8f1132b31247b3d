"""Work done by processes that may die of it, or never come back."""

from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import ThreadPoolExecutor
from multiprocessing import Pipe, Process
from multiprocessing.connection import Connection
from queue import Queue
from typing import Any

WORKERS = 2


class Died(Exception):
    """The process ended, or was ended because it took too long; the text says which."""


class _Worker:
    """A process that does one thing after another, and is started anew where one of them ends it."""

    def __init__(self, work: Callable[[Any], Any], seconds: float) -> None:
        self._work, self._seconds = work, seconds
        self._start()

    def _start(self) -> None:
        self._pipe, other = Pipe()
        self._process = Process(target=_serve, args=(other, self._work), daemon=True)
        self._process.start()
        other.close()

    def do(self, item: Any) -> Any:
        self._pipe.send(item)
        problem = f"took longer than {self._seconds:g} s"
        try:
            if self._pipe.poll(self._seconds):
                return self._pipe.recv()
        except EOFError:
            problem = "ended the process"
        self._process.kill()
        self._process.join()
        self._start()
        return Died(problem)

    def stop(self) -> None:
        self._pipe.send(None)
        self._process.join()


def _serve(pipe: Connection, work: Callable[[Any], Any]) -> None:
    while (item := pipe.recv()) is not None:
        pipe.send(work(item))


def done(items: Iterable[Any], work: Callable[[Any], Any], seconds: float) -> Iterator[Any]:
    """The results of some work on some items, in order; `Died` for one whose process did not come back.

    Args:
        items: none of which is None.
        work: to do with each; it must not raise.
        seconds: that each may take.
    """
    workers: Queue[_Worker] = Queue()
    for _ in range(WORKERS):
        workers.put(_Worker(work, seconds))

    def one(item: Any) -> Any:
        worker = workers.get()
        try:
            return worker.do(item)
        finally:
            workers.put(worker)

    with ThreadPoolExecutor(WORKERS) as pool:
        yield from pool.map(one, items)
    while not workers.empty():
        workers.get().stop()
