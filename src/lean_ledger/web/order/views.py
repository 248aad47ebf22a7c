"""Orders of a load as views."""

from __future__ import annotations

from collections.abc import Mapping

from lean_ledger.core.loads.best import Best
from lean_ledger.core.loads.between import Stop
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.ordering import Ordered, called_again, compared, cycle_of, times_of
from lean_ledger.core.order.layers import layered
from lean_ledger.core.plan import Precedence
from lean_ledger.core.program.stations import numbers_by_operation, tool_numbers
from lean_ledger.library.types import further
from lean_ledger.web.order import schemas as s

MOST_RUNS = 400  # of an order, that are drawn


def _fixed(load: LoadLedger) -> str:
    """Why orders of the whole cycle are not compared."""
    if load.where.load.arrangement.on_bar > 1:
        return "On a bar each piece is cut off before the next is come to."
    if load.machine.works_at_once:
        return f"{load.machine.name} has {len(load.machine.carriages)} carriages: what runs when is found in Balance."
    return ""


def cycle_view(load: LoadLedger, second: float) -> s.CycleView:
    """`second` is what one of the load's machine costs."""
    cycle, numbers = cycle_of(load), numbers_by_operation(load)
    names = {op.id: op.name for share in load.shares for op in share.built.operations}
    by_hand = {(one.first, one.then) for one in load.load.before}
    runs = {step: k for k, run in enumerate(load.load.locked, start=1) for step in run}
    again = called_again(cycle)
    times = times_of(cycle)
    steps = []
    for k, ((placed, op), call) in enumerate(zip(cycle.steps, load.timeline.calls, strict=True)):
        way = call.transition
        steps.append(s.StepView(
            piece=placed.place.id, operation=op.id, name=op.name, setup=op.setup, tool=numbers[op.id],
            tool_name=op.tool.description, angle=Stop(op, placed.stands).angle,
            own=call.total - way.total, way=way.total, changes_tool=way.changes_tool,
            again=again.get(k, ""),
            run=runs.get((placed.place.id, op.id), 0),
            section=load.load.section_at(placed.place.id, op.id),
            another="" if op.motion.probes else further(op.tool.id),
            after=[
                s.AfterView(operation=b, name=names[b], reason=reason, by_hand=(b, op.id) in by_hand)
                for b, reason in op.after if b in names
            ],
        ))  # fmt: skip
    return s.CycleView(
        load=load.load.id,
        setups=list(load.load.setups),
        pieces=len(load.where.placed),
        by=load.load.by,
        fixed=_fixed(load),
        steps=steps,
        orders=[_ordered(one, load, second) for one in compared(load)] if not _fixed(load) else [],
        times=s.TimesView(
            tool_change=times.tool_change, index=times.index, per_degree=times.per_degree, piece=times.piece
        ),
        before=[_by_hand(one, names, "before") for one in load.load.before if _there(one, names)],
        overruled=[_by_hand(one, names, "need not be before") for one in load.load.overruled if _there(one, names)],
        out=[s.OutView(operation=id, name=names[id]) for id in load.load.out if id in names],
        graphs=[_graph(share, numbers, by_hand) for share in load.shares],
        angles=sorted({step.angle for step in steps}),
    )


def _graph(share: LoadLedger, numbers: Mapping[str, int], by_hand: set[tuple[str, str]]) -> s.GraphView:
    ops = [row.operation for row in share.rows]
    at = {op.id: k for k, op in enumerate(ops)}
    why = {(at[b], at[op.id]): reason for op in ops for b, reason in op.after if b in at}
    drawn = layered(len(ops), list(why))
    return s.GraphView(
        setup=share.words,
        nodes=[
            s.NodeView(operation=op.id, name=op.name, tool=numbers[op.id], layer=drawn.layer[k],
                       place=drawn.place[k])
            for k, op in enumerate(ops)
        ],
        edges=[
            s.EdgeView(first=a, then=b, reason=why[a, b], by_hand=(ops[a].id, ops[b].id) in by_hand)
            for a, b in drawn.edges
        ],
    )  # fmt: skip


def _there(one: Precedence, names: Mapping[str, str]) -> bool:
    return one.first in names and one.then in names


def _by_hand(one: Precedence, names: Mapping[str, str], how: str) -> s.ByHandView:
    words = f"“{names[one.first]}” {how} “{names[one.then]}”"
    return s.ByHandView(first=one.first, then=one.then, words=words, note=one.note)


def _ordered(one: Ordered, load: LoadLedger, second: float) -> s.OrderedView:
    return s.OrderedView(name=one.name, counts=_counts(one, load, second), runs=_runs(one, load))


def _runs(one: Ordered, load: LoadLedger) -> list[s.ToolRunView]:
    if len(one.runs) > MOST_RUNS:
        return []
    numbers = tool_numbers(load)
    names = {call.operation.tool.id: call.operation.tool.description for call in load.calls}
    return [
        s.ToolRunView(
            tool=numbers[run.tool], name=names[run.tool], start=run.start, change=run.change, seconds=run.seconds
        )
        for run in one.runs
    ]


def best_view(best: Best, load: LoadLedger, second: float) -> s.BestView:
    goal = "seconds" if best.goal is None else ", then ".join(best.goal)
    proven = "proven" if best.proven else "not proven"
    return s.BestView(
        found=_ordered(best.found, load, second), now=_ordered(best.now, load, second), goal=list(best.goal or ()),
        bound=list(best.bound) if isinstance(best.bound, list) else [best.bound], proven=best.proven,
        sequence=list(best.found.sequence), words=f"the best order by {goal}, {proven}",
    )  # fmt: skip


def _counts(one: Ordered, load: LoadLedger, second: float) -> s.CountsOfOrder:
    return s.CountsOfOrder(
        tool=one.cost.tool, index=one.cost.index, degrees=one.degrees, piece=one.cost.piece,
        changes=one.cost.seconds, cycle=one.seconds, each=one.seconds * second / load.pieces,
    )  # fmt: skip
