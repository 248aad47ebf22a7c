"""Which operation is made at which piece, in which turn: a load's operations as it has them, put in its order."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from lean_ledger.core.basis.findings import Finding
from lean_ledger.core.control.foreign import ForeignTime
from lean_ledger.core.loads.advance import begun_once
from lean_ledger.core.loads.bars import made_by_the_blade
from lean_ledger.core.loads.before import At
from lean_ledger.core.loads.both_sides import from_both
from lean_ledger.core.loads.handover import cut_beside
from lean_ledger.core.loads.joined import goes_on
from lean_ledger.core.loads.lanes import at_shared_speeds
from lean_ledger.core.loads.layout import Layout, Placed
from lean_ledger.core.loads.one_pass import not_in_one, one_pass
from lean_ledger.core.loads.ordering import mended
from lean_ledger.core.loads.parts import in_parts
from lean_ledger.core.loads.sequence import decided, interleaved, lost_by_hand, resolved_order, without
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.plan import Load, Precedence

Own = Mapping[str, tuple[Operation, ...]]  # by setup


def own_operations(where: Layout, load: Load) -> dict[str, tuple[Operation, ...]]:
    """Of each setup, without what is taken out, with precedences by hand but those that are lost, at shared speeds."""
    firsts, kept = [own[0] for own in where.by_setup], without(load, lost_precedences(where, load))
    own = {first.decision.id: decided(first.built.operations, kept) for first in firsts}
    if load.split and where.machine.works_at_once:
        own = {id: in_parts(ops, load.split, where.machine) for id, ops in own.items()}
    if load.both_sides and where.machine.works_at_once:
        stands = {first.decision.id: first.stands for first in firsts}
        own = {id: from_both(ops, stands[id], where.machine, load) for id, ops in own.items()}
    if where.handed_over:
        own = {id: tuple(cut_beside(op, where.machine) if op.kind == OperationKind.CUT_OFF else op for op in ops)
               for id, ops in own.items()}  # fmt: skip
    return {id: at_shared_speeds(ops, firsts, load, where.machine) for id, ops in own.items()}


def lost_precedences(where: Layout, load: Load) -> list[Precedence]:
    """By hand, that a rule came to ask the contrary of."""
    return [one for own in where.by_setup for one in lost_by_hand(own[0].built.operations, load)]


def in_rows(
    where: Layout, own: Own, load: Load, foreign: Mapping[str, ForeignTime]
) -> tuple[Layout, dict[str, tuple[Operation, ...]], list[Finding]]:
    """What runs once over each row, drawn out; and what was to and cannot."""
    once = {*load.in_rows, *(id for kind in where.kinds for id in goes_on(kind.built))}
    asked = [op for ops in own.values() for op in ops if op.id in once and op.id not in foreign]
    passes = [one_pass(where, op, where.machine) for op in asked] if len(where.placed) > 1 else []
    drawn = {one.operation.id: one for one in passes if not one.words}
    there = {id: tuple(drawn[op.id].operation if op.id in drawn else op for op in ops) for id, ops in own.items()}
    in_one = tuple(one.rows for one in drawn.values())
    return replace(where, in_one=in_one), there, [not_in_one(one, load) for one in passes if one.words]


def steps_of(where: Layout, own: Own, load: Load) -> list[At]:
    """In the order that the load decides."""
    order = each_at(where, [_ordered(own[pieces[0].decision.id], pieces[0], load) for pieces in where.by_setup])
    if load.by == "hand" and where.load.arrangement.on_bar == 1:
        return mended(where, order, load.sequence)
    if where.handed_over:  # the counter spindle is empty before it takes the next piece over
        return mended(where, order, [(one.place.id, op.id) for one, op in order])
    return order


def each_at(where: Layout, orders: Sequence[Sequence[Operation]]) -> list[tuple[Placed, Operation]]:
    """What is made at which piece, in its turn; `orders` of each setup."""
    index = {one.place.id: k for k, one in enumerate(where.placed)}
    groups = [([index[one.place.id] for one in own], order) for own, order in zip(where.by_setup, orders, strict=True)]
    if where.load.arrangement.on_bar > 1:  # each is cut off before the next can be come to
        built = where.placed[0].built
        once = (*made_by_the_blade(built), *begun_once(built, where.in_one))
        steps = interleaved(groups, "piece", (*where.load.first_only, *once))
    else:
        by = "tool" if where.load.by == "hand" else where.load.by
        steps = interleaved(groups, by, where.load.first_only)
    found = [(where.placed[k], op) for k, op in steps]
    if not where.in_one:
        return found
    found = [(one, op) for one, op in found if where.made_with(one.place.id, op.id)[0] == one.place.id]
    return mended(where, found, [(one.place.id, op.id) for one, op in found])  # a row waits for all of its pieces


def named(operations: Sequence[Operation], order: Sequence[str]) -> list[Operation]:
    by_id = {op.id: op for op in operations}
    return [by_id[id] for id in order]


def _ordered(operations: Sequence[Operation], placed: Placed, load: Load) -> list[Operation]:
    return named(operations, resolved_order(operations, load.ordered_at(load.base(placed.decision.id))))
