"""A load from its decisions: its calls in their order, whether everything holds and is reached, what it takes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from functools import lru_cache

from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.basis.same import Same
from lean_ledger.core.control.foreign import ForeignTime, time_or_finding
from lean_ledger.core.holding.bar_collet import BarHold
from lean_ledger.core.holding.placement import Bed, bed_for
from lean_ledger.core.holding.resolve import holding_side
from lean_ledger.core.loads.bars import bar_of
from lean_ledger.core.loads.grips import Grip, against, cannot_be_held, grips, that_help, with_better
from lean_ledger.core.loads.lanes import timeline_of
from lean_ledger.core.loads.layout import Layout, Placed, layout
from lean_ledger.core.loads.layout_findings import layout_findings
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.runs import filling_seconds
from lean_ledger.core.loads.sequence import (
    grouped_by_tool,
    tool_calls,
)
from lean_ledger.core.loads.steps import each_at, in_rows, lost_precedences, named, own_operations, steps_of
from lean_ledger.core.loads.timeline import Timeline, calls_in_order
from lean_ledger.core.operations.build import BuiltSetup
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Load, Plan, Precedence
from lean_ledger.core.setups.frame import default_turn
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Library, Rates

KEPT = 128  # loads
ROOM = 5.0  # mm that a tool at the change position keeps over the stock


@dataclass(frozen=True)
class MadeFrom:
    """What all loads of a plan are made from."""

    plan: Plan
    part: Part
    library: Library


def load_ledger(
    given: MadeFrom, load: Load, bed: Bed, built: Mapping[str, BuiltSetup]
) -> tuple[LoadLedger, list[Finding]]:
    """A load with all that is wrong with it; `built` holds its setups by their ids. Kept by what it is made from."""
    plan = replace(
        given.plan.as_made,
        edits=(),
        loads=(load,),
        attached=tuple(a for a in given.plan.attached if a.setup in load.setups),
    )
    own = tuple((id, Same(built[id])) for id in load.setups)
    made, findings = _made(plan, Same(given.part), Same(given.library), load, bed, own)
    return made, list(findings)


@lru_cache(maxsize=KEPT)
def _made(
    plan: Plan, part: Same[Part], library: Same[Library], load: Load, bed: Bed,
    setups: tuple[tuple[str, Same[BuiltSetup]], ...],
) -> tuple[LoadLedger, tuple[Finding, ...]]:  # fmt: skip
    given, built = MadeFrom(plan, part.value, library.value), {id: one.value for id, one in setups}
    machine, where = bed.machine, layout(given.plan, load, built, bed)
    firsts = [own[0] for own in where.by_setup]
    foreign, lost = _attached(given, load, machine)
    where, own, split = in_rows(where, own_operations(where, load), load, foreign)

    def again(other: Load) -> Layout:
        return in_rows(layout(given.plan, other, built, bed), own, other, foreign)[0]

    findings = [
        f for first in firsts for f in _held(given, first, bed_for(bed, load, first.decision.id))
    ] + layout_findings(where, again)
    findings += [*lost, *(_lost(one, load, firsts) for one in lost_precedences(where, load)), *split]
    order = steps_of(where, own, load)
    timeline = timeline_of(order, where, machine, foreign)
    best = each_at(where, [named(ops, grouped_by_tool(ops)) for ops in own.values()])
    best_calls = calls_in_order(best, machine)
    spent = sum(replace(c, foreign=None).total for c in timeline.calls)
    now, grouped = (tuple(dict.fromkeys(op.id for _, op in steps)) for steps in (order, best))
    by_id = {op.id: op for ops in own.values() for op in ops}
    by_one = not machine.works_at_once and not where.handed_over
    standing = given.library.in_machine(machine)
    to_set = sum(len(first.built.to_set) for first in firsts) + _further(timeline, standing)
    calls = sum(tool_calls([call.operation.id for call in lane.calls], by_id) for lane in timeline.lanes)
    measured = given.library.measured_on(machine.id)

    def times(category: str) -> float:
        return next((float(one.factor) for one in measured if one.category == category), 1.0)

    made = LoadLedger(
        load=load,
        machine=machine,
        bed=bed,
        where=where,
        timeline=timeline,
        whole_load_seconds=_load_seconds(where, given) * (1 if load.load_seconds is not None else times("loading")),
        tool_calls=calls,
        best=grouped,
        grouped_calls=tool_calls([c.operation.id for c in best_calls], by_id) if by_one else calls,
        grouping_saves=max(0.0, spent - sum(c.total for c in best_calls)) if by_one and grouped != now else 0.0,
        whole_setup_hours=setup_hours(where, to_set, given.library.rates),
        in_machine=standing,
        foreign=foreign.get(""),
        measured=measured,
    )
    if load.hours is None and (len(firsts) > 1 or machine.drum is not None):
        filling = Decimal(str(round(filling_seconds(made) / 3600, 4)))
        made = replace(made, whole_setup_hours=made.whole_setup_hours + filling)
    if load.hours is None and made.factor("setting up") is not None:
        made = replace(made, whole_setup_hours=made.whole_setup_hours * Decimal(str(times("setting up"))))
    return made, (*findings, *(f for first in firsts for f in _no_room(first, machine)))


def _lost(one: Precedence, load: Load, firsts: Sequence[Placed]) -> Finding:
    """A precedence by hand that a rule came to ask the contrary of."""
    ops = {op.id: op for first in firsts for op in first.built.operations}
    first, then = ops[one.first], ops[one.then]
    take_away = {"change": "not-before", "load": load.id, "first": one.first, "then": one.then}
    return Finding(
        "before-lost", Severity.WARNING, Chapter.ORDER, f"“{first.name}” cannot come before “{then.name}” any more.",
        "What the rules ask for by now would have them wait for one another; what was said by hand is left out. Take "
        "it away, or overrule the rule.", then.setup, operation=then.id, cures=(Cure("Take it away", take_away),),
    )  # fmt: skip


def _further(timeline: Timeline, standing: Sequence[str]) -> int:
    """Tools that stand in the first carriage, or are set there, and are set in another as well."""
    first, *others = ({call.operation.tool.id for call in lane.calls} for lane in timeline.lanes)
    return sum(tool in first or tool in standing for own in others for tool in own)


def setup_hours(where: Layout, tools: int, rates: Rates) -> Decimal:
    """By the rule: a base, a share for each tool that does not stand in the machine, and one for each fixture or zero
    after the first, whichever are more.
    """
    if where.load.hours is not None:
        return where.load.hours
    further = rates.setup_hours_per_place * (where.to_set - 1)
    return rates.setup_hours_base + rates.setup_hours_per_tool * tools + further


def grips_of(plan: Plan, placed: Placed, bed: Bed, library: Library) -> tuple[Grip, ...]:
    """What a setup could be held with, the best first."""
    setup, built = placed.decision, placed.built
    turn = default_turn(holding_side(setup), built.before.bounds)
    return grips(plan, setup, built.found, built.lowest, built.operations, library, bed, turn)


def grips_in(load: LoadLedger, plan: Plan, library: Library) -> tuple[Grip, ...]:
    """What the piece at a load's first place could be held with."""
    return grips_of(plan, load.placed[0], bed_for(load.bed, load.load, load.decision.id), library)


def _load_seconds(where: Layout, given: MadeFrom) -> float:
    """Of a cycle: those that were said, else a piece's own for each."""
    said = where.load.load_seconds
    if said is not None:
        return float(said)
    if where.handed_over:  # the bar is fed, and the machine does the rest
        fed = where.placed[0].built.hold.load_seconds
        return fed / max(1, _pieces_of_bar(where.placed[0], given)) if where.pulled else fed
    if where.load.arrangement.joined > 1:  # a bar is laid in once, and each of its vises is closed
        return where.fixtures * where.placed[0].built.hold.load_seconds
    fed = where.load.arrangement.on_bar  # with one advance
    if where.machine.drum is not None and isinstance(where.placed[0].built.hold, BarHold):
        return 0.0  # it feeds its bars itself
    return sum(one.built.hold.load_seconds for one in where.placed[::fed])


def _pieces_of_bar(first: Placed, given: MadeFrom) -> int:
    """That come of one bar which is pulled: where it ends the next is laid in."""
    own, shop = given.plan.rates, given.library.rates
    length = own.bar_length if own.bar_length is not None else shop.bar_length
    remnant = own.remnant if own.remnant is not None else shop.remnant
    bar = bar_of(first.decision, first.built, 1, length, remnant)
    return bar.pieces if bar is not None else 1


def _held(given: MadeFrom, placed: Placed, bed: Bed) -> list[Finding]:
    """What is wrong with how a setup is held; with what would hold instead, or that nothing does."""
    setup, built = placed.decision, placed.built
    own = [
        that_help(f, setup, given.plan, built, given.library, bed)
        for f in against(setup, built.hold, given.plan, built.operations, given.library, bed)
    ]
    if all(f.severity != Severity.ERROR for f in own):
        return own
    tried = grips_of(given.plan, placed, bed, given.library)
    if not any(grip.holds for grip in tried):
        return [*own, cannot_be_held(setup.id, tried)]
    return [with_better(f, tried) if f.severity == Severity.ERROR else f for f in own]


def _attached(given: MadeFrom, load: Load, machine: Machine) -> tuple[dict[str, ForeignTime], list[Finding]]:
    """The programs that a load is timed by, by operation, under "" that of all of it; and those that cannot be read."""
    texts = {program.key: program for program in given.part.programs}
    found, findings = {}, []
    for one in given.plan.attached:
        if one.setup in load.setups:
            timed = time_or_finding(texts.get(one.key), one.file, one.setup, one.operation, machine)
            if isinstance(timed, Finding):
                findings.append(timed)
            else:
                found[one.operation] = timed
    return found, findings


def _no_room(placed: Placed, machine: Machine) -> list[Finding]:
    """A tool that does not clear the stock at the change position: the first of them."""
    if machine.turns_work:
        return []
    built = placed.built
    for op in built.operations:
        top = op.frame.box(built.before.bounds).max[2]
        lacking = top - built.stands.tool_height(op.frame, machine, op.tool)
        if lacking > -ROOM:
            return [Finding(
                "z-travel", Severity.ERROR, Chapter.SETUPS,
                f"{op.tool.description} does not clear the stock at the change position of {machine.name}.",
                f"It would have to stand {lacking + ROOM:.0f} higher there. Take a lower fixture, a shorter tool or "
                "another machine.", placed.decision.id, operation=op.id,
            )]  # fmt: skip
    return []
