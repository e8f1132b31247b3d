"""Keeping an encoder from taking the machine for itself."""

import os
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

THREADS = Path("/proc/self/task")


@contextmanager
def scheduled_as_before() -> Iterator[None]:
    """Give every thread of this process the scheduling that the calling one had at the beginning.

    SVT-AV1 that is opened by root, as in many containers, puts its threads and the one that opened it at the highest
    real-time priority, and all that they start inherits it (seen with 4.1): nothing else on the machine gets its turn
    until they have nothing to do.
    """
    if not THREADS.exists():
        yield
        return
    policy, parameter = os.sched_getscheduler(0), os.sched_getparam(0)
    try:
        yield
    finally:
        for thread in (int(path.name) for path in THREADS.iterdir()):
            with suppress(ProcessLookupError):
                if os.sched_getscheduler(thread) != policy:
                    os.sched_setscheduler(thread, policy, parameter)
