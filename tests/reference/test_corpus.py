"""A sixtieth of the corpus, another every day: Cadrage against ffmpeg's own decode; `make corpus` takes all."""

import random
from datetime import UTC, datetime

import pytest

from tests.corpus.checking import check
from tests.corpus.making import Maker
from tests.corpus.members import all_members

SEED = int(datetime.now(UTC).strftime("%Y%m%d"))
FEWEST = 300


def drawn():
    """Every sixtieth member of a list that the day has shuffled."""
    members = list(all_members())
    random.Random(SEED).shuffle(members)
    return members[::60]


@pytest.fixture(scope="module")
def maker(tmp_path_factory):
    print(f"corpus drawn by {SEED}")
    return Maker(tmp_path_factory.mktemp("corpus"))


def test_there_are_enough_of_them():
    assert len(all_members()) >= FEWEST


@pytest.mark.parametrize("member", drawn(), ids=lambda member: f"{SEED}: {member.group}: {member.name}")
def test_a_member(member, maker, tmp_path):
    follow = len(member.name) % 4 == 0  # which takes longer than all else; `make corpus` follows in each
    verdict = check(member, maker, tmp_path / "member", follow=follow)
    assert verdict.outcome != "wrong", verdict.told
