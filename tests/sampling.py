"""Cases of which the suite runs a part, and `make test-long` all."""

from collections.abc import Sequence
from typing import Any

import pytest


def a_part_of(cases: Sequence[Any], share: int) -> list:
    """Every so many-th case for the suite; the others are long. A case may be what pytest makes of several values."""
    return [
        pytest.param(*_values(case), id=_name(case), marks=pytest.mark.long if number % share else ())
        for number, case in enumerate(cases)
    ]


def _values(case: Any) -> Sequence[Any]:
    return case.values if isinstance(case, type(pytest.param())) else (case,)


def _name(case: Any) -> str | None:
    if isinstance(case, type(pytest.param())):
        return case.id
    return case if isinstance(case, str) else getattr(case, "name", None)
