"""The combinations that the program makes by itself: machine × stock form × pieces a cycle × order, each a whole plan
with its own ledger, reached from the plan as it stands by ordinary changes.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from contextlib import suppress
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Any, Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Change, Scene, read_change
from lean_ledger.core.first.again import BeginAgain
from lean_ledger.core.first.machine import Begun, afresh, beginnings
from lean_ledger.core.first.mended import errors_of
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.ledger.counts import as_many, as_many_as_fit
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.best import best_order
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan
from lean_ledger.library.types import Library

Recipe = tuple[dict[str, Any], ...]  # changes, as they are sent
Order = Literal["as it is", "least cycle found"]

SEARCHED = 1.5  # s that the order of a load is searched for
MOST_PIECES = 64  # of a load that is filled by itself
#: Of as many as go on that power: of 16 all, or 4.
COUNTS = {"some": 0.5, "as many as go on": 1.0}
AS_IT_STANDS = "as it stands"
SIDES = (0.0, 90.0, 180.0, 270.0)
LEAST_SHARE, LESS = 0.15, 0.1
USUAL = ("stock as it is", "sawn to size")
EXACT_UP_TO = 400  # steps of a cycle beyond which its order is not searched here


@dataclass(frozen=True)
class Combination:
    """`on` and `stock` name a row, `pieces` and `order` a column. `pieces` is one, some or as many as go on (of this
    plan also as it stands), and `counts` how many that are in each load; `left` are titles of its errors. `changes`
    lead to it from the plan as it stands.
    """

    on: str
    stock: str
    pieces: str
    order: Order
    counts: tuple[int, ...]
    changes: Recipe
    each: tuple[Decimal, ...]
    cycle: float
    setup_hours: Decimal
    left: tuple[str, ...]

    @property
    def name(self) -> str:
        """What an alternative that is made of it is called: by what is not usual of it."""
        words = [self.on]
        if self.stock not in USUAL:
            words.append(self.stock)
        if max(self.counts, default=1) > 1:
            counts = self.counts[:1] if len(set(self.counts)) == 1 else self.counts
            words.append(f"{' · '.join(str(c) for c in counts)} a cycle")
        if self.order != "as it is":
            words.append(self.order)
        return ", ".join(words)


@dataclass(frozen=True)
class Grid:
    """The combinations, by rows of machine and stock; `refused` are machines that cannot hold the part, with the
    reason; `untried` those left out since the part is large.
    """

    quantities: tuple[int, ...]
    combinations: tuple[Combination, ...]
    refused: tuple[tuple[str, str], ...]
    untried: tuple[str, ...]


@dataclass(frozen=True)
class _Base:
    """A plan to go on from, the changes that lead to it and what its rows are called."""

    on: str
    stock: str
    ledger: Ledger
    changes: Recipe


def grid(ledger: Ledger, part: Part, library: Library, name: str, report: Report = silent) -> Grid:
    """All combinations from a plan as it stands: itself, under its name, and the part begun anew on each machine."""
    plan = ledger.plan
    asked = _Asked(part, library)
    report("beginning anew on each machine", 0.0)
    found = beginnings(afresh(plan, part, library), part, library)
    starts = [_Base(name, USUAL[0], ledger, ()), *asked.begun(ledger, found.plans)]
    rows = [row for start in starts for row in (start, *asked.other_stock(start))]
    combinations: list[Combination] = []
    for k, row in enumerate(rows):
        report(f"{row.on}, {row.stock}", 0.3 + 0.7 * k / len(rows))
        combinations += asked.columns(row)
    return Grid(
        plan.quantities, tuple(combinations), tuple((m.name.partition(",")[0], why) for m, why in found.refused),
        tuple(m.name.partition(",")[0] for m in found.untried),
    )  # fmt: skip


class _Asked:
    """Of one part in one shop; what is evaluated for one combination serves the next."""

    def __init__(self, part: Part, library: Library) -> None:
        self._part, self._library = part, library

    def begun(self, now: Ledger, plans: Sequence[Begun]) -> Iterator[_Base]:
        for one in plans:
            if one.plan == now.plan:
                continue
            machines = tuple(m.id for m in one.machines)
            changes: Recipe = ({"change": "begin-again", "machines": list(machines)},)
            try:
                yield _Base(one.name, USUAL[1], self._after(now, changes), changes)
            except PlanError:
                continue  # what stands among the beginnings and cannot be begun here is no plan

    def other_stock(self, start: _Base) -> Iterator[_Base]:
        """The same from what the shop's dealers keep, bought as whole bars or plates sawn up."""
        plan = start.ledger.plan
        if plan.stock.form == "near-net":
            return  # it comes as it is
        turned = any(setup.part_turns for setup in plan.setups)
        round_ones: list[tuple[str, Recipe]] = [
            ("round bar from the list", _stock("round bar", "bar")),
            ("hexagonal bar from the list", _stock("hexagonal bar", "bar")),
        ]
        flat_ones: list[tuple[str, Recipe]] = [
            ("flat bar from the list", _stock("rectangular bar", "bar")),
            ("plate from the list", _stock("plate", "blank")),
        ]
        is_round = self._part.axis is not None
        for name, changes in [*(flat_ones if not turned else ()), *(round_ones if turned or is_round else ())]:
            try:
                ledger = self._after(start.ledger, changes)
            except PlanError:
                continue
            if not ledger.sized.missing and ledger.stock.bounds != start.ledger.stock.bounds:
                yield _Base(start.on, name, ledger, (*start.changes, *changes))

    def columns(self, row: _Base) -> Iterator[Combination]:
        """One piece a cycle, some, and as many as go on; each in the order as it is, and in the best one found."""
        apart = _each(row.ledger, _alone)
        if apart and not row.changes:
            yield from self._both_orders(row, AS_IT_STANDS, (), row.ledger)
        alone = self._after(row.ledger, apart)
        yield from self._both_orders(row, "one", apart, alone)
        for pieces, share in COUNTS.items():
            found = self._on_all_sides(alone) if share == 1 else None
            found = found or self._laid(alone, share)
            if found is not None:
                yield from self._both_orders(row, pieces, (*apart, *found[0]), found[1])

    def _both_orders(self, row: _Base, pieces: str, changes: Recipe, ledger: Ledger) -> Iterator[Combination]:
        whole = (*row.changes, *changes)
        yield _combination(row, pieces, "as it is", whole, ledger)
        ordering = tuple(self._ordered(ledger))
        if ordering:
            ordered = self._after(ledger, ordering)
            yield _combination(row, pieces, "least cycle found", (*whole, *ordering), ordered)

    def _on_all_sides(self, alone: Ledger) -> tuple[Recipe, Ledger] | None:
        """As many as go on the sides of what a rotary turns; None where a setup does not go there."""
        sides = _each(alone, lambda load: _arranged(load, 1, 1, SIDES, 1) if load.machine.indexes_work else None)
        if not sides:
            return None
        with suppress(PlanError):
            base = self._after(alone, sides)
            if len(errors_of(base)) <= len(errors_of(alone)):
                changes, ledger = self._laid(base, 1.0) or ((), base)
                return (*sides, *changes), ledger
        return None

    def _laid(self, alone: Ledger, share: float) -> tuple[Recipe, Ledger] | None:
        """With a share of what goes on, as a power of it; less, where that leaves more to solve than without."""
        seen: list[Recipe] = []
        while share > LEAST_SHARE:
            power = share
            changes = _each(alone, lambda load: _filled(alone, load, power))  # noqa: B023 - asked at once
            if not changes:
                return None
            if changes not in seen:
                seen.append(changes)
                with suppress(PlanError):
                    ledger = self._after(alone, changes)
                    if len(errors_of(ledger)) <= len(errors_of(alone)):
                        return changes, ledger
            share -= LESS
        return None

    def _ordered(self, ledger: Ledger) -> Iterator[dict[str, Any]]:
        for load in ledger.loads:
            if load.machine.works_at_once or load.where.load.arrangement.on_bar > 1:
                continue
            if not 2 <= len(load.calls) <= EXACT_UP_TO:
                continue
            best = best_order(load, None, SEARCHED)
            if best.now.seconds - best.found.seconds > 0.05:
                yield {"change": "set-sequence", "load": load.load.id, "found": "the least cycle found",
                       "sequence": [list(step) for step in best.found.sequence]}  # fmt: skip

    def _after(self, ledger: Ledger, changes: Recipe) -> Ledger:
        for change in changes:
            plan = self._changed(ledger, change)
            ledger = evaluate(plan, self._part, self._library)
        return ledger

    def _changed(self, ledger: Ledger, change: dict[str, Any]) -> Plan:
        plan, _ = change_of(change).apply(ledger.plan, Scene(self._part, self._library, ledger))
        return plan


def change_of(data: dict[str, Any]) -> Change | BeginAgain:
    """One change of a recipe. Raises PlanError for what is none."""
    if data.get("change") != "begin-again":
        return read_change(data)
    machines = data.get("machines")
    unknown = [key for key in data if key not in ("change", "machines")]
    if unknown:
        raise PlanError("change-malformed", f"{unknown[0]}: there is no such value of begin-again")
    if not isinstance(machines, list) or not all(isinstance(id, str) for id in machines) or not 1 <= len(machines) <= 2:
        raise PlanError("change-malformed", "machines: one machine is begun on, or a lathe and a mill")
    return BeginAgain(tuple(machines))


def _combination(row: _Base, pieces: str, order: Order, changes: Recipe, ledger: Ledger) -> Combination:
    return Combination(
        row.on, row.stock, pieces, order, tuple(load.pieces for load in ledger.loads), changes,
        tuple(p.each for p in ledger.prices), ledger.cycle, ledger.setup_hours,
        tuple(f.title for f in errors_of(ledger)),
    )  # fmt: skip


def _stock(form: str, buy: str) -> Recipe:
    return (
        {"change": "set-stock", "form": form, "sizing": "next size up"},
        {"change": "set-buy", "buy": buy},
    )


def _alone(load: LoadLedger) -> dict[str, Any] | None:
    how, setups = load.where.load.arrangement, len(load.load.setups)
    if how.count == setups or how.in_turn == "spindles":
        return None
    if how.on_bar > 1:
        return {"change": "set-arrangement", "load": load.load.id, "on_bar": 1}
    one = replace(how, columns=1, rows=1, sides=how.sides[:1], stations=1).with_turns(setups)
    apart = {"joined": 1, "joined_rows": 1} if how.joined > 1 else {}
    return _arranged(load, one.columns, one.rows, one.sides, one.stations) | apart


def _each(ledger: Ledger, way: Callable[[LoadLedger], dict[str, Any] | None]) -> Recipe:
    return tuple(change for load in ledger.loads if (change := way(load)) is not None)


def _filled(ledger: Ledger, load: LoadLedger, share: float) -> dict[str, Any] | None:
    """As many as go on a mill's table to the power of a share, as far as they come out even: of 16 and one half 4."""
    how, setups = load.where.load.arrangement, len(load.load.setups)
    if load.machine.turns_work or how.in_turn == "spindles":
        return None
    columns, rows = as_many(as_many_as_fit(ledger, load))
    each = max(1, len(how.sides)) * how.inside
    wanted = round(min(columns * rows, MOST_PIECES // each) ** share)
    by = setups if how.in_turn == "columns" else 1
    columns = max(by, min(columns, wanted) // by * by)
    rows = min(rows, max(1, wanted // columns))
    if how.in_turn == "rows":
        rows = max(setups, rows // setups * setups)
    if (columns, rows) == (how.columns, how.rows):
        return None
    return _arranged(load, columns, rows, how.sides, how.stations)


def _arranged(load: LoadLedger, columns: int, rows: int, sides: tuple[float, ...], stations: int) -> dict[str, Any]:
    return {"change": "set-arrangement", "load": load.load.id, "columns": columns, "rows": rows,
            "sides": list(sides), "stations": stations}  # fmt: skip
