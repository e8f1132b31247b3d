from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cadrage.values import format_exact, parse_exact


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("607.5", Fraction(1215, 2)),
        ("12/11", Fraction(12, 11)),
        ("12:11", Fraction(12, 11)),
        ("-0.25", Fraction(-1, 4)),
    ],
)
def test_reads_decimals_and_ratios(text, value):
    assert parse_exact(text) == value


def test_a_float_means_its_shortest_decimal():
    assert parse_exact(0.1) == Fraction(1, 10)


@pytest.mark.parametrize("text", ["", "wide", "1/0", "1e999", "nan", "inf", "9" * 70, "1/2/3", "--1", True, None])
def test_refuses_what_is_no_number(text):
    with pytest.raises(ValueError, match=r"."):
        parse_exact(text)


def test_writes_shortest_exact_text():
    assert format_exact(Fraction(1215, 2)) == "607.5"
    assert format_exact(Fraction(-1, 4)) == "-0.25"
    assert format_exact(Fraction(12, 11)) == "12/11"
    assert format_exact(Fraction(100)) == "100"


@given(st.fractions(min_value=-(10**9), max_value=10**9, max_denominator=10**9))
def test_text_and_back_is_exact(value):
    assert parse_exact(format_exact(value)) == value
