"""All members of the corpus."""

from functools import cache

from tests.corpus import clocks, containers, damage, hostile, mixed, samples, stills, streams
from tests.corpus.making import Member


@cache
def all_members() -> tuple[Member, ...]:
    """Every member; each has a name of its own within its group."""
    rooms = (containers, clocks, streams, samples, mixed, damage, stills, hostile)
    made = tuple(member for room in rooms for member in room.members())
    assert len({(one.group, one.name) for one in made}) == len(made)
    return made


def member(name: str) -> Member:
    """The one of a name."""
    return next(one for one in all_members() if one.name == name)
