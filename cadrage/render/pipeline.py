"""Work handed from thread to thread through short queues."""

import threading
from collections.abc import Callable, Generator, Iterable
from itertools import chain
from queue import Empty, Full, Queue
from typing import Generic, TypeVar, cast

Item = TypeVar("Item")
Made = TypeVar("Made")

DEPTH = 4  # items that may wait between two threads: enough to even out, few enough to keep memory small
POLL_SECONDS = 0.1


class _End:
    """The last thing in a queue: the items are over, or the error that ended them."""

    def __init__(self, error: BaseException | None) -> None:
        self.error = error


class _Producer(Generic[Item]):
    """Fills a short queue from a thread, until the items or the wish for them end."""

    def __init__(self, items: Iterable[Item]) -> None:
        self.items = items
        self.waiting: Queue[Item | _End] = Queue(DEPTH)
        self.stopped = threading.Event()
        self.over = threading.Event()

    def put(self, item: Item | _End) -> None:
        while not self.stopped.is_set():
            try:
                self.waiting.put(item, timeout=POLL_SECONDS)
            except Full:
                continue
            return

    def run(self) -> None:
        try:
            for item in self.items:
                self.put(item)
                if self.stopped.is_set():
                    return
        except BaseException as error:  # noqa: BLE001 - carried to the caller, who decides
            self.put(_End(error))
        else:
            self.put(_End(None))
        finally:
            self.over.set()

    def stop(self) -> None:
        self.stopped.set()
        try:
            while True:
                self.waiting.get_nowait()
        except Empty:
            return


def prefetch(items: Iterable[Item]) -> Generator[Item, None, None]:
    """Yield items that a thread of their own produces ahead of time, at most `DEPTH` of them.

    An error there is raised here, with its traceback. Closing this iterator stops the thread and waits for it.
    """
    producer = _Producer(items)
    thread = threading.Thread(target=producer.run, name="ahead", daemon=True)
    try:
        thread.start()  # a signal may end even this, with the thread at work
        while not isinstance(item := producer.waiting.get(), _End):
            yield item
        if item.error is not None:
            raise item.error
    finally:
        producer.stop()
        if thread in threading.enumerate():
            producer.over.wait()


def started(items: Iterable[Item]) -> Generator[Item, None, None]:
    """The same, begun at once rather than when the first item is asked for."""
    ahead = prefetch(chain((None,), items))
    next(ahead)
    return cast("Generator[Item, None, None]", ahead)


def map_in_thread(items: Iterable[Item], work: Callable[[Item], Made]) -> Generator[Made, None, None]:
    """Do work on every item, in a thread of its own, in order."""
    return prefetch(work(item) for item in items)
