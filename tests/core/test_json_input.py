"""Reading JSON that someone wrote: each reader lets the sound value pass and names what is wrong with the other."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

import pytest

from lean_ledger.core.basis.errors import ProblemError
from lean_ledger.core.files.json_input import (
    Reader,
    check_format,
    nullable,
    one_of,
    parse_json,
    read_above_zero,
    read_amount,
    read_flag,
    read_list,
    read_object,
    read_share,
    read_text,
    read_whole,
)


@pytest.mark.parametrize(
    ("read", "good", "bad", "words"),
    [
        (read_amount, 0, Decimal("-0.1"), "must not be negative"),
        (read_above_zero, 3, 0, "must be above 0"),
        (read_share, Decimal("0.99"), 1, "must be below 1"),
        (read_whole, 7, Decimal("7.5"), "a whole number above 0"),
        (read_text, "plate", 3, "text is needed"),
        (read_flag, True, 1, "true or false"),
        (read_list, [1], {}, "a list is needed"),
        (one_of("bar", "blank"), "bar", "tube", "it must be bar or blank"),
        (nullable(read_text), None, 3, "text is needed"),
        (read_amount, 2, True, "a number is needed, not True"),
        (read_amount, 2, "2", "a number is needed, not '2'"),
    ],
)
def test_reader_takes_the_sound_and_names_the_fault(read: Reader, good: Any, bad: Any, words: str) -> None:
    read(good, "a.b")
    with pytest.raises(ProblemError, match=words) as refused:
        read(bad, "a.b")
    assert refused.value.place == "a.b"


def test_object_names_the_key_that_is_missing_or_unknown() -> None:
    readers: dict[str, Reader] = {"x": read_amount, "y": read_amount}
    assert read_object({"x": 1, "y": 2}, "travel", readers) == {"x": 1, "y": 2}
    with pytest.raises(ProblemError, match="is missing") as missing:
        read_object({"x": 1}, "travel", readers)
    assert missing.value.place == "travel.y"
    with pytest.raises(ProblemError, match="unknown key; known are x, y") as unknown:
        read_object({"x": 1, "y": 2, "zz": 3}, "travel", readers)
    assert unknown.value.place == "travel.zz"
    with pytest.raises(ProblemError, match="an object is needed"):
        read_object([], "travel", readers)


@pytest.mark.parametrize(
    ("text", "place", "words"),
    [
        ('{"a": 1,}', "line 1 column", "."),
        ('{"a": NaN}', "", "NaN is no number"),
        ("[" * 100_000, "", "nested too deeply"),
        ("", "line 1", "Expecting value"),
    ],
)
def test_text_that_is_no_json_is_refused_with_its_line(text: str, place: str, words: str) -> None:
    with pytest.raises(ProblemError, match=words) as refused:
        parse_json(text)
    assert refused.value.place.startswith(place)


def test_file_of_another_format_says_which_one_is_read() -> None:
    check_format({"format": "a@1"}, "a@1")
    with pytest.raises(ProblemError, match="is 'b@1'; this reads a@1"):
        check_format({"format": "b@1"}, "a@1")
    with pytest.raises(ProblemError, match="an object is needed here; this reads a@1"):
        check_format([1], "a@1")
