"""Cases of which the suite runs a part, and `make test-long` all."""

from collections.abc import Sequence
from typing import Protocol

import pytest


class Named(Protocol):
    """What has a name."""

    name: str


def a_part_of(cases: Sequence[Named], share: int) -> list:
    """Every so many-th case for the suite; the others are long."""
    return [
        pytest.param(case, id=case.name, marks=pytest.mark.long if number % share else ())
        for number, case in enumerate(cases)
    ]
