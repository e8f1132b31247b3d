"""Memory of a process that lives long and handles pictures all the time."""

import ctypes
import ctypes.util
import threading
import time

M_TRIM_THRESHOLD, M_MMAP_THRESHOLD, M_ARENA_MAX = -1, -3, -8  # of glibc's mallopt(3)
LARGE, FREE_KEPT, ARENAS = 256 << 10, 4 << 20, 2
EVERY = 2.0  # seconds
BUSY = 0.5  # seconds of processor time since the last look, below which nothing much was let go


def give_back() -> None:
    """Have the memory of pictures that were let go given back soon, where the C library is glibc.

    By itself it keeps what was let go between what is still held, of every thread by itself, and ever larger pieces:
    after 2,000 previews that was more than half of all that the process had.
    """
    libc = ctypes.CDLL(ctypes.util.find_library("c"))
    mallopt, trim = getattr(libc, "mallopt", None), getattr(libc, "malloc_trim", None)
    if mallopt is None or trim is None:
        return
    for parameter, value in ((M_MMAP_THRESHOLD, LARGE), (M_TRIM_THRESHOLD, FREE_KEPT), (M_ARENA_MAX, ARENAS)):
        mallopt(parameter, value)
    threading.Thread(target=_now_and_then, args=(trim,), name="memory", daemon=True).start()


def _now_and_then(trim: "ctypes._NamedFuncPointer") -> None:
    spent = 0.0
    while True:
        time.sleep(EVERY)
        now = time.process_time()
        if now - spent > BUSY:
            trim(0)
            spent = time.process_time()
