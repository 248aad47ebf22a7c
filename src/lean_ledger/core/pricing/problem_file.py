"""Reads a price problem from JSON text; every refusal names the path in the file and the reason."""

from __future__ import annotations

import json
from collections.abc import Callable
from decimal import Decimal
from typing import Any

from lean_ledger.core.errors import ProblemError
from lean_ledger.core.pricing.price import Material, Outside, PriceProblem, PriceSetup

FORMAT = "lean-ledger/price-problem@1"

Reader = Callable[[Any, str], Any]


def parse_price_problem(text: str) -> PriceProblem:
    """Raises ProblemError for anything but a whole and sound problem; `place` is the line or the path in the JSON."""
    try:
        data = json.loads(text, parse_float=Decimal, parse_constant=_no_constant)
    except json.JSONDecodeError as error:
        raise ProblemError("not-json", error.msg, f"line {error.lineno} column {error.colno}") from None
    top = _object(data, "", _TOP)
    if top["format"] != FORMAT:
        raise ProblemError("format", f"is {top['format']!r}; this reads {FORMAT}", "format")
    material = Material(**_object(top["material"], "material", _MATERIAL))
    if material.kind == "bar" and material.pieces_per_bar < 1:
        raise ProblemError(
            "bar-too-short", f"a bar of {material.bar_length} holds no piece of {material.length}", "material"
        )
    return PriceProblem(
        quantities=top["quantities"],
        material=material,
        setups=tuple(
            PriceSetup(**_object(row, f"setups[{i}]", _SETUP)) for i, row in enumerate(_list(top["setups"], "setups"))
        ),
        outside=tuple(
            Outside(**_object(row, f"outside[{i}]", _OUTSIDE)) for i, row in enumerate(_list(top["outside"], "outside"))
        ),
        **{key: top[key] for key in _TOP if key not in ("format", "quantities", "material", "setups", "outside")},
    )


def _no_constant(word: str) -> Any:
    raise ProblemError("not-a-number", f"{word} is no number", "")


def _object(value: Any, path: str, readers: dict[str, Reader]) -> dict[str, Any]:
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


def _list(value: Any, path: str) -> list[Any]:
    if not isinstance(value, list):
        raise ProblemError("not-a-list", "a list is needed here", path)
    return value


def _number(value: Any, path: str) -> Decimal:
    if isinstance(value, bool) or not isinstance(value, int | Decimal):
        raise ProblemError("not-a-number", f"a number is needed, not {value!r}", path)
    return Decimal(value)


def _amount(value: Any, path: str) -> Decimal:
    number = _number(value, path)
    if number < 0:
        raise ProblemError("negative", f"is {number}; it must not be negative", path)
    return number


def _above_zero(value: Any, path: str) -> Decimal:
    number = _number(value, path)
    if number <= 0:
        raise ProblemError("not-positive", f"is {number}; it must be above 0", path)
    return number


def _share(value: Any, path: str) -> Decimal:
    number = _amount(value, path)
    if number >= 1:
        raise ProblemError("share", f"is {number}; it must be below 1", path)
    return number


def _whole(value: Any, path: str) -> int:
    number = _number(value, path)
    if number != int(number) or number < 1:
        raise ProblemError("not-whole", f"is {number}; a whole number above 0 is needed", path)
    return int(number)


def _quantities(value: Any, path: str) -> tuple[int, ...]:
    rows = _list(value, path)
    if not rows:
        raise ProblemError("empty", "at least one quantity is needed", path)
    return tuple(_whole(row, f"{path}[{i}]") for i, row in enumerate(rows))


def _text(value: Any, path: str) -> str:
    if not isinstance(value, str):
        raise ProblemError("not-text", "text is needed here", path)
    return value


def _flag(value: Any, path: str) -> bool:
    if not isinstance(value, bool):
        raise ProblemError("not-a-flag", "true or false is needed here", path)
    return value


def _kind(value: Any, path: str) -> str:
    if value not in ("bar", "blank"):
        raise ProblemError("kind", f'is {value!r}; it must be "bar" or "blank"', path)
    return str(value)


def _maybe(read: Reader) -> Reader:
    return lambda value, path: None if value is None else read(value, path)


def _any(value: Any, path: str) -> Any:
    return value


_MATERIAL: dict[str, Reader] = {
    "kind": _kind,
    "price_per_kg": _amount,
    "density": _amount,
    "section_area": _amount,
    "length": _above_zero,
    "kerf": _amount,
    "bar_length": _amount,
    "remnant": _amount,
    "cut_charge": _amount,
}
_SETUP: dict[str, Reader] = {
    "name": _text,
    "machine_rate": _amount,
    "labour_rate": _amount,
    "attendance": _amount,
    "setup_hours": _amount,
    "cycle_seconds": _amount,
    "pieces_per_cycle": _whole,
    "load_seconds": _amount,
    "load_during_cycle": _flag,
}
_OUTSIDE: dict[str, Reader] = {"name": _text, "per_piece": _amount, "lot": _amount}
_TOP: dict[str, Reader] = {
    "format": _text,
    "quantities": _quantities,
    "material": _any,
    "setups": _any,
    "tooling_per_piece": _amount,
    "fixtures": _amount,
    "fixture_life": _maybe(_above_zero),
    "programming_hours": _amount,
    "programming_rate": _amount,
    "outside": _any,
    "inspection_seconds": _amount,
    "inspection_rate": _amount,
    "scrap": _share,
    "overhead": _amount,
    "margin": _share,
}
