"""How large and how fine a number may be that comes from outside: what a machinist or a bookkeeper would write down.

Every way in (changes, files of tools, cutting data and rules, problem files, the calculator) asks here, so that nothing
is stored that the computation or another reader cannot take.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, fields, is_dataclass
from decimal import Decimal, InvalidOperation
from typing import Any

from lean_ledger.core.basis.errors import LedgerError, PlanError

MOST_DIGITS = 18  # of a decimal as it is written, zeros of its exponent counted
MOST = 10_000_000  # of any number: mm, s, rpm, money
FINEST = 1e-6  # of any number but 0


@dataclass(frozen=True)
class Bounds:
    """From `least` to `most`, both included."""

    least: float
    most: float
    whole: bool = False

    @property
    def words(self) -> str:
        kind = "a whole number " if self.whole else ""
        return f"{kind}from {_plain(self.least)} to {_plain(self.most)}"

    def hold(self, value: float | Decimal) -> bool:
        return self.least <= value <= self.most and (not self.whole or value == int(value))


def must_hold(bounds: Bounds, value: float | Decimal, what: str, code: str) -> None:
    """Raises PlanError with what is out of its bounds, and what they are."""
    if not bounds.hold(value):
        raise PlanError(code, f"{what} is {value}; it is {bounds.words}")


#: Of each measure of a tool, under its ISO 13399 symbol: mm and degrees.
TOOL_BOUNDS: dict[str, Bounds] = {
    **dict.fromkeys(("DC", "DMIN", "DCN", "DCX", "CW", "DN"), Bounds(0.05, 1000)),
    **dict.fromkeys(("APMX", "LCF", "CDX", "LU", "LPR", "OAL"), Bounds(0.05, 2000)),
    **dict.fromkeys(("SIG", "EPSR", "PNA", "KAPR"), Bounds(1, 180)),
    "RE": Bounds(0, 500),
    "ZEFP": Bounds(1, 100, whole=True),
    "TP": Bounds(0.1, 25),
    "PRICE": Bounds(0, 100_000),
}

#: Of cutting data, by its column: m/min, mm a tooth or turn, minutes, ratios, exponents of tool life.
CUTTING_BOUNDS: dict[str, Bounds] = {
    "VC": Bounds(0.5, 5000),
    **dict.fromkeys(("FZ_3", "FZ_6", "FZ_10", "FZ_20"), Bounds(0.0005, 10)),
    "LIFE_MINUTES": Bounds(0.5, 100_000),
    "VC_MOST": Bounds(0.5, 10_000),
    "FZ_MOST": Bounds(1, 10),
    "LIFE_VC": Bounds(1, 20),
    "LIFE_FZ": Bounds(0, 10),
}


def read_decimal(text: str, refuse: Callable[[str, str], LedgerError]) -> Decimal:
    """A number that somebody typed, with a point or a comma; `refuse` makes the error of (code, words)."""
    try:
        value = Decimal(text.strip().replace(",", "."))
    except InvalidOperation:
        raise refuse("not-a-number", f"is {_short(text)}; a number is needed") from None
    if value.is_nan():
        raise refuse("not-a-number", f"is {_short(text)}; a number is needed")
    if not fits(value):
        raise refuse("out-of-range", f"is {_short(text)}; {LIMITS_WORDS}")
    return value


LIMITS_WORDS = f"a number has at most {MOST_DIGITS} digits and is at most {MOST}"


def fits(value: Decimal, digits: int = MOST_DIGITS, most: int = MOST) -> bool:
    """Whether a decimal is finite and written in few digits: one with a huge exponent takes minutes to compute with."""
    if not value.is_finite():
        return False
    exponent = value.as_tuple().exponent
    assert isinstance(exponent, int), "it is finite"
    return max(value.adjusted() + 1, 0) + max(-exponent, 0) <= digits and abs(value) <= most


def check_numbers(value: Any, place: str = "") -> None:
    """Looks at every number in a change. Raises PlanError, code out-of-range, that names the field and the bounds."""
    if isinstance(value, bool) or value is None or isinstance(value, str):
        return
    if isinstance(value, Decimal):
        if not fits(value):
            raise PlanError("out-of-range", f"{place} is {_short(str(value))}; {LIMITS_WORDS}")
    elif isinstance(value, int | float):
        if not abs(value) <= MOST or 0 < abs(value) < FINEST:
            raise PlanError(
                "out-of-range", f"{place} is {_said(value)}; it must be 0 or from {_plain(FINEST)} to {MOST}"
            )  # fmt: skip
    elif is_dataclass(value):
        for field in fields(value):
            check_numbers(getattr(value, field.name), field.name)
    elif isinstance(value, list | tuple):
        for inner in value:
            check_numbers(inner, place)
    elif isinstance(value, dict):
        for name, inner in value.items():
            check_numbers(inner, str(name))


def _said(value: float) -> str:
    """A whole number may be larger than any float."""
    return f"{value:g}" if isinstance(value, float) or abs(value) < 10**18 else _short(str(value))


def _plain(value: float) -> str:
    return f"{value:.6f}".rstrip("0").rstrip(".")


def _short(text: str) -> str:
    return repr(text if len(text) <= 24 else f"{text[:20]}…")
