"""Go through the corpus: `python -m tests.corpus [--only TEXT] [--page PATH]`."""

import argparse
import os
import sys
import tempfile
import time
import traceback
from collections import Counter
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from multiprocessing import Pipe, Process
from multiprocessing.connection import Connection
from pathlib import Path
from queue import Queue

from tests.corpus.checking import Verdict, check
from tests.corpus.making import Maker, Member
from tests.corpus.members import all_members

WORKERS = 2
LONGEST_SECONDS = 60


def run(member: Member, place: Path) -> Verdict:
    """Check one member, in folders of this process."""
    own = place / str(os.getpid())
    try:
        return check(member, Maker(own / "made"), own / "member")
    except Exception:  # noqa: BLE001 - told with the others
        return Verdict(member.group, member.name, "wrong", [traceback.format_exc()[-1500:]])


def _serve(pipe: Connection, place: str) -> None:
    while (number := pipe.recv()) is not None:
        pipe.send(run(all_members()[number], Path(place)))


class _Worker:
    """A process that checks members, and is started anew when one of them ends it or takes too long."""

    def __init__(self, place: str) -> None:
        self._place = place
        self._start()

    def _start(self) -> None:
        self._pipe, other = Pipe()
        self._process = Process(target=_serve, args=(other, self._place), daemon=True)
        self._process.start()
        other.close()

    def check(self, number: int) -> Verdict:
        self._pipe.send(number)
        member = all_members()[number]
        try:
            if self._pipe.poll(LONGEST_SECONDS):
                found: Verdict = self._pipe.recv()
                return found
            problem = f"took longer than {LONGEST_SECONDS} s"
        except EOFError:
            problem = "ended the process"
        self._process.kill()
        self._process.join()
        self._start()
        return Verdict(member.group, member.name, "wrong", [problem])

    def stop(self) -> None:
        self._pipe.send(None)
        self._process.join()


def checked(numbers: list[int], place: str) -> Iterator[Verdict]:
    """Check members by their numbers, with two processes."""
    workers: Queue[_Worker] = Queue()
    for _ in range(WORKERS):
        workers.put(_Worker(place))

    def one(number: int) -> Verdict:
        worker = workers.get()
        try:
            return worker.check(number)
        finally:
            workers.put(worker)

    with ThreadPoolExecutor(WORKERS) as pool:
        yield from pool.map(one, numbers)
    while not workers.empty():
        workers.get().stop()


def main() -> int:
    """Run, print what is wrong, and say how many were what."""
    parser = argparse.ArgumentParser(prog="corpus", description=__doc__)
    parser.add_argument("--only", default="", help="members whose name or group has this in it")
    parser.add_argument("--page", type=Path, help="where to write the page of which footage works")
    given = parser.parse_args()
    numbers = [
        number for number, one in enumerate(all_members()) if given.only.lower() in f"{one.group} {one.name}".lower()
    ]
    began = time.monotonic()
    verdicts: list[Verdict] = []
    with tempfile.TemporaryDirectory(prefix="corpus-") as place:
        for verdict in checked(numbers, place):
            verdicts.append(verdict)
            if verdict.outcome == "wrong":
                print(f"WRONG {verdict.group} / {verdict.name} {verdict.findings}", flush=True)
                print("\n".join(f"      {line}" for line in verdict.told[:6]), flush=True)
    counts = Counter(verdict.outcome for verdict in verdicts)
    print(f"{len(verdicts)} inputs in {time.monotonic() - began:.0f} s: {dict(counts)}")
    if given.page:
        from tests.corpus.page import page

        given.page.write_text(page(verdicts))
    return 1 if counts["wrong"] else 0


if __name__ == "__main__":
    sys.exit(main())
