"""Several plans of one part beside one another: figure by figure, and which is the least at which quantity."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.papers.sheet import fixture_words
from lean_ledger.core.pricing.overtaking import Stretch, least_by_quantity
from lean_ledger.core.pricing.price import QuantityPrice, price, price_curve

MOST = 5  # plans beside one another
FARTHER = 4  # times the largest quantity that is asked for, up to which it is looked who overtakes whom
AT_LEAST = 1000  # pieces

Unit = Literal["words", "count", "seconds", "hours", "machine hours", "each"]
Value = str | int | float | Decimal


@dataclass(frozen=True)
class Row:
    """A figure of each plan, in their order. `best`: those that have the least of it, where less is better and some
    have more; `differs`: not all have the same.
    """

    group: str
    name: str
    unit: Unit
    values: tuple[Value, ...]
    best: tuple[int, ...]

    @property
    def differs(self) -> bool:
        return len(set(self.values)) > 1


@dataclass(frozen=True)
class Compared:
    """`curves`: of each plan (quantity, price each), at the same quantities; `most`: how far it was looked."""

    quantities: tuple[int, ...]
    rows: tuple[Row, ...]
    curves: tuple[tuple[tuple[int, Decimal], ...], ...]
    stretches: tuple[Stretch, ...]
    most: int
    words: str


def compared(names: Sequence[str], ledgers: Sequence[Ledger]) -> Compared:
    """At all quantities that one of them is asked for. Raises PlanError for fewer than two plans, or too many."""
    if not 2 <= len(ledgers) <= MOST:
        raise PlanError("how-many", f"2 to {MOST} plans stand beside one another; {len(ledgers)} were named")
    quantities = tuple(sorted({q for ledger in ledgers for q in ledger.plan.quantities}))
    problems = [replace(ledger.problem, quantities=quantities) for ledger in ledgers]
    prices = [price(problem) for problem in problems]
    most = max(AT_LEAST, FARTHER * quantities[-1])
    stretches = least_by_quantity(problems, most)
    return Compared(
        quantities, tuple(_rows(ledgers, quantities, prices)), tuple(price_curve(problem) for problem in problems),
        stretches, most, least_words(stretches, names),
    )  # fmt: skip


def least_words(stretches: Sequence[Stretch], names: Sequence[str]) -> str:
    """Who is the least up to which quantity: up to 38 pieces “Mill 2”; from 39 on “the rotary”."""
    names = [f"“{name}”" for name in names]
    if len(stretches) == 1:
        which = _either([names[k] for k in stretches[0].least])
        return f"{which} at every quantity up to {stretches[0].last}"
    told = []
    for i, one in enumerate(stretches):
        which = _either([names[k] for k in one.least])
        if len(one.least) > 1:
            which += ", as cycles and bars come out full"
        if i == 0:
            told.append(f"1 piece: {which}" if one.last == 1 else f"up to {one.last} pieces {which}")
        elif i == len(stretches) - 1:
            told.append(f"from {one.first} on {which}")
        else:
            told.append(f"at {one.first} {which}" if one.first == one.last else f"{one.first} to {one.last} {which}")
    return "; ".join(told)


def _either(names: Sequence[str]) -> str:
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} or {names[-1]}"


def _rows(
    ledgers: Sequence[Ledger], quantities: tuple[int, ...], prices: Sequence[tuple[QuantityPrice, ...]]
) -> list[Row]:
    def row(group: str, name: str, unit: Unit, of: Callable[[Ledger], Value]) -> Row:
        return _row(group, name, unit, [of(ledger) for ledger in ledgers])

    made, cycle = "how it is made", "seconds a piece"
    found = [
        row(made, "machines", "words", _machines),
        row(made, "setups", "count", lambda one: len(one.plan.setups)),
        row(made, "held by", "words", _held),
        row(made, "stock", "words", lambda one: f"{one.sized.named}, {_BOUGHT[one.plan.buy]}"),
        row(made, "pieces a cycle", "words", lambda one: " · ".join(str(load.pieces) for load in one.loads)),
        row(made, "operations", "count", lambda one: len(one.operations)),
        row(made, "tools", "count", lambda one: len({op.tool.id for op in one.operations})),
        row(made, "tool calls of all cycles", "count", lambda one: sum(load.tool_calls for load in one.loads)),
        row(cycle, "cycle", "seconds", lambda one: one.cycle),
        row(cycle, "of that in cut", "seconds", lambda one: one.seconds["cutting"]),
        row(cycle, "loading and hand work", "seconds", lambda one: one.per_piece - one.cycle),
        row("once", "setting up, h:min", "hours", lambda one: one.setup_hours),
    ]
    for k, quantity in enumerate(quantities):
        found.append(_row("price each", f"at {quantity}", "each", [of[k].each for of in prices]))
    for k, quantity in enumerate(quantities):
        found.append(_row("machine hours", f"for {quantity}", "machine hours", [of[k].machine_hours for of in prices]))
    for severity, name in ((Severity.ERROR, "errors"), (Severity.WARNING, "warnings")):
        counts = [sum(1 for f in one.findings if f.severity == severity) for one in ledgers]
        found.append(_row("findings", name, "count", counts))
    return found


_BOUGHT = {"blank": "sawn blanks", "bar": "whole bars"}
_NEITHER = ("operations", "tools")  # of which less is not better by itself


def _row(group: str, name: str, unit: Unit, values: Sequence[Value]) -> Row:
    shown = tuple(round(v, 3) if isinstance(v, float) else v for v in values)
    best: tuple[int, ...] = ()
    if unit != "words" and name not in _NEITHER and len(set(shown)) > 1:
        least = min(shown)
        best = tuple(k for k, value in enumerate(shown) if value == least)
    return Row(group, name, unit, shown, best)


def _machines(ledger: Ledger) -> str:
    return " · ".join(dict.fromkeys(load.machine.name.partition(",")[0] for load in ledger.loads))


def _held(ledger: Ledger) -> str:
    found = []
    for load in ledger.setups:
        words = fixture_words(load)
        found.append(next(how for what, how in words if what != "on"))
    return " · ".join(dict.fromkeys(found))
