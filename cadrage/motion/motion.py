"""How a placement varies: by a move, by keys, or not at all."""

from fractions import Fraction
from itertools import pairwise
from typing import Annotated, Self

from pydantic import Field, model_validator

from cadrage.motion.follow import Follow
from cadrage.motion.keys import MOST_KEYS, Key
from cadrage.motion.moves import Move, keys_of
from cadrage.motion.pose import Stage
from cadrage.values import Value


class Motion(Value):
    """How a placement varies over time; without a move and without keys it stands.

    Attributes:
        move: over the length of a shot.
        keys: in the order of time, one at a moment; where there are any, there is no move.
        follow: what the window follows; where that is set, there are neither keys nor a move.
        inside: whether the window is held inside the picture wherever its size allows.
    """

    move: Move | None = None
    keys: Annotated[tuple[Key, ...], Field(max_length=MOST_KEYS)] = ()
    follow: Follow | None = None
    inside: bool = True

    @model_validator(mode="after")
    def _one_way(self) -> Self:
        if sum((self.move is not None, bool(self.keys), self.follow is not None)) > 1:
            raise ValueError("a placement is moved by a move, by keys, or by following, not by two of them")
        times = [key.time for key in self.keys]
        if any(later <= earlier for earlier, later in pairwise(times)):
            raise ValueError("keys stand in the order of time, one at a moment")
        return self

    @property
    def still(self) -> bool:
        """Whether nothing moves."""
        return self.move is None and not self.keys and not (self.follow and self.follow.path)

    @property
    def unsolved(self) -> bool:
        """Whether the window is to follow and has no path yet."""
        return self.follow is not None and not self.follow.path

    @property
    def reusable(self) -> "Motion":
        """What of it means something for other clips: neither keys nor a way that was found."""
        return self.model_copy(update={"keys": (), "follow": self.follow and self.follow.reusable})

    @property
    def summary(self) -> str:
        """The settings in few words."""
        if self.move is not None:
            return self.move.summary
        if self.follow is not None:
            return self.follow.summary
        count = len(self.keys)
        return f"{count} keyframe{'s' if count > 1 else ''}" if count else "static"

    def as_keys(self, stage: Stage, start: Fraction, last: Fraction) -> "Motion":
        """The same by keys, in a shot whose first and last picture come at these times."""
        if self.move is None:
            return self
        return self.model_copy(update={"move": None, "keys": keys_of(self.move, stage, start, last)})
