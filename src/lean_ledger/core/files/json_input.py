"""Reading JSON that someone wrote: every refusal is a ProblemError that names the path in the file and the reason."""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Mapping, Sequence
from decimal import Decimal
from typing import Any

from lean_ledger.core.basis.bounds import fits
from lean_ledger.core.basis.errors import ProblemError
from lean_ledger.core.basis.plain_text import UNFIT

Reader = Callable[[Any, str], Any]
STRING_OR_CONSTANT = re.compile(r'"(?:[^"\\]|\\.)*"|NaN|-?Infinity')
MOST_DIGITS, MOST = 30, 10**12  # of a number in a file


def parse_json(text: str) -> Any:
    """Numbers come as int and Decimal. Raises ProblemError with line and column for text that is no JSON."""

    def no_constant(word: str) -> Any:
        at = next(found.start() for found in STRING_OR_CONSTANT.finditer(text) if found[0] == word)
        line, column = text.count("\n", 0, at) + 1, at - text.rfind("\n", 0, at)
        raise ProblemError("not-a-number", f"{word} is no number", f"line {line} column {column}")

    try:
        return json.loads(text, parse_float=Decimal, parse_int=_whole, parse_constant=no_constant)
    except json.JSONDecodeError as error:
        raise ProblemError("not-json", error.msg, f"line {error.lineno} column {error.colno}") from None
    except RecursionError:
        raise ProblemError("not-json", "is nested too deeply", "") from None


def check_format(data: Any, wanted: str) -> None:
    """Said first, so that a file of another kind is not answered with its first unknown key."""
    if not isinstance(data, dict):
        raise ProblemError("not-an-object", f"an object is needed here; this reads {wanted}", "the file")
    if data.get("format") != wanted:
        raise ProblemError("format", f"is {data.get('format')!r}; this reads {wanted}", "format")


def _whole(digits: str) -> int:
    if len(digits) > MOST_DIGITS:
        raise ProblemError("out-of-range", f"a number has {len(digits)} digits; at most {MOST_DIGITS} are read", "")
    return int(digits)


def read_object(value: Any, path: str, readers: dict[str, Reader]) -> dict[str, Any]:
    if not isinstance(value, dict):
        raise ProblemError("not-an-object", "an object is needed here", path or "the file")
    dot = f"{path}." if path else ""
    for key in value:
        if key not in readers:
            raise ProblemError("unknown-key", f"unknown key; known are {', '.join(readers)}", dot + key)
    found = {}
    for key, read in readers.items():
        if key not in value:
            raise ProblemError("missing-key", "is missing", dot + key)
        found[key] = read(value[key], dot + key)
    return found


def read_list(value: Any, path: str) -> list[Any]:
    if not isinstance(value, list):
        raise ProblemError("not-a-list", "a list is needed here", path)
    return value


def read_number(value: Any, path: str) -> Decimal:
    if isinstance(value, bool) or not isinstance(value, int | Decimal):
        raise ProblemError("not-a-number", f"a number is needed, not {value!r}", path)
    number = Decimal(value)
    if not fits(number, MOST_DIGITS, MOST):
        words = f"a number has at most {MOST_DIGITS} digits and is at most 10^12; this is {str(number)[:24]}"
        raise ProblemError("out-of-range", words, path)
    return number


def read_amount(value: Any, path: str) -> Decimal:
    number = read_number(value, path)
    if number < 0:
        raise ProblemError("negative", f"is {number}; it must not be negative", path)
    return number


def read_above_zero(value: Any, path: str) -> Decimal:
    number = read_number(value, path)
    if number <= 0:
        raise ProblemError("not-positive", f"is {number}; it must be above 0", path)
    return number


def read_share(value: Any, path: str) -> Decimal:
    number = read_amount(value, path)
    if number >= 1:
        raise ProblemError("share", f"is {number}; it must be below 1", path)
    return number


def read_whole(value: Any, path: str) -> int:
    number = read_number(value, path)
    if number != int(number) or number < 1:
        raise ProblemError("not-whole", f"is {number}; a whole number above 0 is needed", path)
    return int(number)


def read_text(value: Any, path: str) -> str:
    if not isinstance(value, str):
        raise ProblemError("not-text", "text is needed here", path)
    if (unfit := UNFIT.search(value)) is not None:
        raise ProblemError("control-character", f"holds the character U+{ord(unfit.group()):04X}; leave it out", path)
    return value


def one_of(*words: str) -> Reader:
    def read(value: Any, path: str) -> str:
        if value not in words:
            raise ProblemError("kind", f"is {value!r}; it must be {' or '.join(words)}", path)
        return str(value)

    return read


def read_flag(value: Any, path: str) -> bool:
    if not isinstance(value, bool):
        raise ProblemError("not-a-flag", "true or false is needed here", path)
    return value


def as_float(read: Reader) -> Reader:
    return lambda value, path: float(read(value, path))


def floats(count: int, read: Reader) -> Reader:
    """A list of so many numbers, each as `read` has it."""

    def read_all(value: Any, path: str) -> tuple[float, ...]:
        rows = read_list(value, path)
        if len(rows) != count:
            raise ProblemError("count", f"holds {len(rows)} numbers; {count} are needed", path)
        return tuple(float(read(row, f"{path}[{i}]")) for i, row in enumerate(rows))

    return read_all


def nullable(read: Reader) -> Reader:
    return lambda value, path: None if value is None else read(value, path)


def anything(value: Any, path: str) -> Any:
    return value


def known_once(ids: Sequence[str], path: str) -> dict[str, int]:
    """Where each stands in a list of things. Raises ProblemError for one that is there twice."""
    known: dict[str, int] = {}
    for k, id in enumerate(ids):
        if id in known:
            raise ProblemError("doubled", f"{id!r} is {path}[{known[id]}] already", f"{path}[{k}].id")
        known[id] = k
    return known


def read_pairs(rows: list[Any], path: str, known: Mapping[str, int], what: str) -> tuple[tuple[str, str], ...]:
    """Each two names of things that there are, each pair once."""
    found = []
    for k, value in enumerate(rows):
        row = read_list(value, f"{path}[{k}]")
        if len(row) != 2:
            raise ProblemError("pair", f"has {len(row)} names; two are needed", f"{path}[{k}]")
        a, b = (read_text(name, f"{path}[{k}][{i}]") for i, name in enumerate(row))
        unknown = next((name for name in (a, b) if name not in known), None)
        if unknown is not None:
            raise ProblemError("unknown-id", f"there is no {what} {unknown!r}", f"{path}[{k}]")
        if a == b:
            raise ProblemError("cycle", f"{a!r} cannot be paired with itself", f"{path}[{k}]")
        found.append((a, b))
    return tuple(dict.fromkeys(found))
