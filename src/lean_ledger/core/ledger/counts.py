"""What a piece takes and costs with so many in a cycle: the same plan evaluated with other numbers of pieces."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from decimal import Decimal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.layout import MOST, Layout, layout
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.part.model import Part
from lean_ledger.library.types import Library

ALL_UP_TO = 6  # pieces of a side that are all tried; beyond it steps grow
GROWTH = 1.3
OF_THE_GAIN = 0.9  # of what the most gain, that the knee has


@dataclass(frozen=True)
class Count:
    """So many pieces a cycle. `seconds` of the load's cycle and of its loading, of each piece; `each` by quantity."""

    columns: int
    rows: int
    pieces: int
    cutting: float
    between: float
    loading: float
    each: tuple[Decimal, ...]
    stopped: str  # why it cannot be made so; "" where it can

    @property
    def seconds(self) -> float:
        return self.cutting + self.between + self.loading


@dataclass(frozen=True)
class Counts:
    """`why`: what would be needed along X and Y for more than the most."""

    points: tuple[Count, ...]
    why: tuple[str, str]
    knee: int | None


def as_many_as_fit(ledger: Ledger, load: LoadLedger) -> Layout:
    """The load laid out so that more than one piece stands along X and Y: what limits them is asked of it."""
    how = load.where.load.arrangement
    by = {how.in_turn: len(load.load.setups)}
    least = {name: 2 * by.get(name, 1) for name in ("columns", "rows")}
    more = replace(how, columns=max(least["columns"], how.columns), rows=max(least["rows"], how.rows))
    built = {share.decision.id: share.built for share in load.shares}
    return layout(ledger.plan, replace(load.load, arrangement=more), built, load.bed)


def as_many(room: Layout) -> tuple[int, int]:
    """Columns and rows of as many as go in; of what holds the setups in turn as many as come out even."""
    how, setups = room.load.arrangement, len(room.load.setups)
    x, y = (setups if how.in_turn == name else 1 for name in ("columns", "rows"))
    return max(x, room.limit(0).most // x * x), max(y, room.limit(1).most // y * y)


def counts_of(ledger: Ledger, part: Part, library: Library, load_id: str, report: Report = silent) -> Counts:
    """The price and the seconds of each count that stands on the machine, as it is arranged. Raises PlanError for a
    load that there is not.
    """
    load = next((one for one in ledger.loads if one.load.id == load_id), None)
    if load is None:
        raise PlanError("no-load", f"there is no load {load_id}")
    where = as_many_as_fit(ledger, load)
    limits = (where.limit(0), where.limit(1))
    how = load.where.load.arrangement
    each = max(1, len(how.sides)) * how.inside
    able = [pair for pair in _tried(limits[0].most, limits[1].most, MOST // each)
            if replace(how, columns=pair[0], rows=pair[1]).takes(len(load.load.setups))]  # fmt: skip
    asked = list(_spaced(able, (how.columns, how.rows)))
    found = []
    for k, (columns, rows) in enumerate(asked):
        report(f"{columns * rows * each // len(load.load.setups)} pieces", k / len(asked))
        changed = replace(load.load, arrangement=replace(how, columns=columns, rows=rows, moved=()))
        there = evaluate(ledger.plan.with_load(changed), part, library)
        found.append(_count(there, load_id, columns, rows))
    return Counts(tuple(found), (limits[0].why, limits[1].why), _knee(found))


def _tried(most_x: int, most_y: int, most: int) -> Iterator[tuple[int, int]]:
    """(columns, rows) of all that goes in."""
    for columns in range(1, max(1, most_x) + 1):
        for rows in range(1, max(1, most_y) + 1):
            if columns * rows <= most:
                yield columns, rows


def _spaced(able: Iterable[tuple[int, int]], now: tuple[int, int]) -> Iterator[tuple[int, int]]:
    """Each count once, as near to a square as goes in, in growing steps; what is there now as well."""
    of: dict[int, tuple[int, int]] = {}
    for columns, rows in able:
        count = columns * rows
        if count not in of or abs(columns - rows) < abs(of[count][0] - of[count][1]):
            of[count] = (columns, rows)
    of[now[0] * now[1]] = now
    last = 0.0
    for count in sorted(of):
        if count <= ALL_UP_TO or count >= last * GROWTH or count == max(of) or of[count] == now:
            last = count
            yield of[count]


def _count(there: Ledger, load_id: str, columns: int, rows: int) -> Count:
    load = next(one for one in there.loads if one.load.id == load_id)
    errors = [f for f in there.findings if f.severity == Severity.ERROR and f.setup in load.load.setups]
    cutting = load.seconds["cutting"] / load.pieces
    return Count(
        columns, rows, load.pieces, cutting, load.cycle / load.pieces - cutting, load.idle / load.pieces,
        tuple(p.each for p in there.prices), errors[0].title if errors else "",
    )  # fmt: skip


def _knee(found: list[Count]) -> int | None:
    """The least count that has most of what the greatest gains; None where nothing is gained."""
    able = [one for one in found if not one.stopped]
    if len(able) < 3:
        return None
    first, best = able[0].seconds, min(one.seconds for one in able)
    return next((one.pieces for one in able if first - one.seconds >= OF_THE_GAIN * (first - best) > 0), None)
