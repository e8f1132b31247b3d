"""Go through the corpus: `python -m tests.corpus [--only TEXT] [--page PATH]`."""

import argparse
import os
import sys
import tempfile
import time
import traceback
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

from tests.corpus.checking import Verdict, check
from tests.corpus.making import Maker, Member
from tests.corpus.members import all_members
from tests.corpus.pool import Died, done

LONGEST_SECONDS = 120


def run(member: Member, place: Path) -> Verdict:
    """Check one member, in folders of this process."""
    own = place / str(os.getpid())
    try:
        return check(member, Maker(own / "made"), own / "member")
    except Exception:  # noqa: BLE001 - told with the others
        return Verdict(member.group, member.name, "wrong", [traceback.format_exc()[-1500:]])


def checked(numbers: list[int], place: Path) -> Iterator[Verdict]:
    """Check members by their numbers, with two processes."""
    members = [all_members()[number] for number in numbers]
    found = done(numbers, lambda number: run(all_members()[number], place), LONGEST_SECONDS)
    for member, verdict in zip(members, found, strict=True):
        died = isinstance(verdict, Died)
        yield Verdict(member.group, member.name, "wrong", [str(verdict)]) if died else verdict


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
        for verdict in checked(numbers, Path(place)):
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
