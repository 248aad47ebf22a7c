"""The entries of a cycle that are most worth working on: each with what it saves at its limit, tried out."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal
from itertools import product
from math import pow

from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.made import grips_in
from lean_ledger.core.operations.cutting.wear import life_minutes
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.pace.limits import Limits, limits_of
from lean_ledger.core.pace.tried import Change, find, gains, pace_change, sound
from lean_ledger.core.part.model import Part
from lean_ledger.library.types import CuttingData, Library, ToolKind

MOST = 10
TRIED = 14  # of the best by estimate, that are tried out
LEAST = 0.05  # s a piece that are worth a line
STEP = 0.05  # of the usual speed and feed, in looking for what costs least
SLOWEST = 0.7
TOOLS_TRIED = 6
#: No other tool does what these do.
SIZED = (
    ToolKind.DRILL, ToolKind.TAP, ToolKind.REAMER, ToolKind.BORING_HEAD, ToolKind.THREAD_MILL, ToolKind.PROBE
)  # fmt: skip
FEW = 2  # operations of a tool, up to which another one is tried in its place
CENT = Decimal("0.01")


@dataclass(frozen=True)
class Cheapest:
    """Where an operation costs least: shares of the usual speed and feed, and what a piece gains there."""

    speed: float
    feed: float
    saving: float
    each: Decimal
    change: Change


@dataclass(frozen=True)
class Worth:
    """`seconds` are what the entry takes now, `saving` what a piece gains at the limit, `each` in money: below 0 where
    the tool wears out for more than the seconds are worth.

    `stop` says what sets the limit; `change` makes it so. `life` is minutes of the tool before and after, and
    `cheapest` where it costs least, where the entry is an operation.
    """

    title: str
    setup: str
    operation: str
    seconds: float
    saving: float
    each: Decimal
    stop: str
    change: Change
    life: tuple[float, float] | None = None
    cheapest: Cheapest | None = None

    @property
    def money(self) -> Decimal:
        return max(self.each, self.cheapest.each) if self.cheapest is not None else self.each


@dataclass(frozen=True)
class _Idea:
    title: str
    setup: str
    operation: str
    seconds: float
    estimate: float
    stop: str
    change: Change
    cheapest: tuple[float, float] | None = None
    for_money: bool = False  # worth a line for its money alone


def worth_working_on(ledger: Ledger, part: Part, library: Library) -> tuple[Worth, ...]:
    """At most ten, the greatest gain in money first. What cannot be tried is left out."""
    ideas = sorted(_ideas(ledger, library), key=lambda one: -one.estimate)
    tried = [*[i for i in ideas if not i.for_money][:TRIED], *[i for i in ideas if i.for_money][:TOOLS_TRIED]]
    found = [worth for one in tried if (worth := _tried(one, ledger, part, library)) is not None]
    return tuple(sorted(found, key=lambda w: (-w.money, -w.saving))[:MOST])


def cheapest_pace(op: Operation, limits: Limits, data: CuttingData, rate: float, wear: float) -> tuple[float, float]:
    """Shares of the usual speed and feed at which time and wear together cost least.

    Time in cut goes with 1/(s·f), wear with s^(p−1)·f^(q−1), p and q the powers of the tool's life: `rate` is what a
    second costs, `wear` what a piece takes of the tool now. A minute in cut at 60 an hour and wear of 0.25, p = 4 and
    q = 1.5, both free from 0.7 to 1.3: the feed at its limit first, the speed where 1/(s·f) = 3·0.25·s³·f^0.5.
    """
    was = (op.cutting.speed, op.cutting.feed)

    def cost(s: float, f: float) -> float:
        faster, coarser = s / was[0], f / was[1]
        worn = pow(faster, data.life_vc - 1) * pow(coarser, data.life_fz - 1)
        return rate * op.cut_each / (faster * coarser) + wear * worn

    tried = product(_steps(limits.speed), [1.0] if op.by_pitch else _steps(limits.feed))
    return min(tried, key=lambda one: cost(*one))


def _steps(most: float) -> list[float]:
    count = int((max(most, 1.0) - SLOWEST) / STEP + 1e-9)
    return sorted({round(SLOWEST + k * STEP, 2) for k in range(count + 1)} | {max(most, SLOWEST)})


def _ideas(ledger: Ledger, library: Library) -> Iterator[_Idea]:
    for setup in ledger.setups:
        for entry in setup.rows:
            idea = _faster(entry.operation, setup, ledger, library)
            if idea is not None and entry.foreign is None and setup.foreign is None:
                yield idea
        if setup.grouping_saves > LEAST:
            taken = sum(e.transition.tool_change for e in setup.rows)
            yield _Idea(
                f"{setup.tool_calls} tool calls where {setup.grouped_calls} do", setup.decision.id, "", taken,
                setup.grouping_saves / setup.pieces, "each tool called once, as far as the order allows",
                {"change": "group-by-tool", "setup": setup.decision.id},
            )  # fmt: skip
        yield from _fewer_tools(setup, ledger, library)
        yield from _quicker_load(ledger, setup, library)


def _fewer_tools(setup: LoadLedger, ledger: Ledger, library: Library) -> Iterator[_Idea]:
    """A tool that hardly anything needs, its work done by the one nearest to it that is in the setup anyway.

    It may take longer and still gain: a tool that is not needed is not set up either.
    """
    using: dict[str, list[Operation]] = {}
    for entry in setup.rows:
        using.setdefault(entry.operation.tool.id, []).append(entry.operation)
    change = sum(e.transition.tool_change for e in setup.rows) / max(1, setup.tool_calls)
    for ops in using.values():
        tool = ops[0].tool
        others = [
            there[0].tool for there in using.values()
            if there[0].tool.id != tool.id and library.data(there[0].tool, ledger.material) is not None
            and all(there[0].tool.kind in op.kind.tool_kinds for op in ops)
        ]  # fmt: skip
        if len(ops) > FEW or tool.kind in SIZED or not others or setup.foreign is not None:
            continue
        instead = min(others, key=lambda t: (abs(t.diameter - tool.diameter), t.number))
        edits = [{"operation": op.id, "tool": instead.id} for op in ops]
        yield _Idea(
            f"{tool.description} for {', '.join(op.name.lower() for op in ops)}", setup.decision.id, "",
            sum(op.cut_each for op in ops) + change, change, f"{instead.description} does it: one tool fewer",
            {"change": "take-values", "edits": edits}, for_money=True,
        )  # fmt: skip


def _faster(op: Operation, setup: LoadLedger, ledger: Ledger, library: Library) -> _Idea | None:
    data = library.data(op.tool, ledger.material)
    if data is None:
        return None
    limits = limits_of(op, setup.machine, ledger.material, data)
    saved = op.cut_each * (1 - 1 / limits.gain(op))
    if saved < LEAST:
        return None
    speed, feed = max(limits.speed, op.cutting.speed), max(limits.feed, op.cutting.feed)
    asked = (min(speed, data.speed_most), min(feed, data.fz_most))
    second = ledger.second_of(op.setup)
    life = life_minutes(op, library, ledger.material) or 1.0
    best = cheapest_pace(op, limits, data, second, op.cut_each / 60 / life * float(op.tool.price))
    return _Idea(
        f"{op.name}: cutting", op.setup, op.id, op.cut_each, saved, _stops(op, limits), pace_change(op, *asked), best
    )


def _stops(op: Operation, limits: Limits) -> str:
    parts = []
    if limits.speed > op.cutting.speed + 1e-3:
        parts.append(f"speed {100 * limits.speed:.0f} %: {limits.speed_stop}")
    if limits.feed > op.cutting.feed + 1e-3:
        parts.append(f"feed {100 * limits.feed:.0f} %: {limits.feed_stop}")
    return "; ".join(parts)


def _quicker_load(ledger: Ledger, setup: LoadLedger, library: Library) -> Iterator[_Idea]:
    """Something else that holds and is loaded sooner."""
    if setup.load.load_seconds is not None:
        return
    tried = grips_in(setup, ledger.plan, library)
    now = setup.load_seconds
    quicker = [g for g in tried if g.holds and not g.findings and g.hold.load_seconds < now - LEAST]
    best = min(quicker, key=lambda g: g.hold.load_seconds, default=None)
    if best is not None:
        yield _Idea(
            f"Loading setup {setup.decision.id}", setup.decision.id, "", now, now - best.hold.load_seconds,
            f"in {best.hold.fixture.name}, turned {best.hold.turn}°",
            {"change": "set-hold", "setup": setup.decision.id, "fixture": best.hold.fixture.id,
             "turn": best.hold.turn},
        )  # fmt: skip


def _tried(idea: _Idea, ledger: Ledger, part: Part, library: Library) -> Worth | None:
    there = sound(idea.change, ledger, part, library)
    if there is None:
        return None
    saving, each = gains(ledger, there)
    if saving < LEAST and not (idea.for_money and each >= CENT):
        return None
    life = cheapest = None
    if idea.operation:
        op = find(ledger, idea.operation)
        was, now = (life_minutes(find(one, op.id), library, ledger.material) or 0.0 for one in (ledger, there))
        life = (was, now)
        cheapest = _cheapest(idea, op, ledger, part, library)
    return Worth(idea.title, idea.setup, idea.operation, idea.seconds, saving, each, idea.stop, idea.change, life,
                 cheapest)  # fmt: skip


def _cheapest(idea: _Idea, op: Operation, ledger: Ledger, part: Part, library: Library) -> Cheapest | None:
    assert idea.cheapest is not None
    change = pace_change(op, *idea.cheapest)
    there = sound(change, ledger, part, library)
    if there is None:
        return None
    saving, each = gains(ledger, there)
    return Cheapest(*idea.cheapest, saving, each, change) if each >= CENT else None
