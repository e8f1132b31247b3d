"""Cases of which the suite runs a part, and `make test-long` all."""

from collections.abc import Sequence
from typing import Any

import pytest


def a_part_of(cases: Sequence[Any], share: int) -> list:
    """Every so many-th case for the suite; the others are long. A tuple is what a test is given in its order."""
    return [
        pytest.param(
            *(case if isinstance(case, tuple) else (case,)),
            id=case if isinstance(case, str) else getattr(case, "name", None),
            marks=pytest.mark.long if number % share else (),
        )
        for number, case in enumerate(cases)
    ]
