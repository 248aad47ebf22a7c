"""Which subprograms another revision changes: a hole more leaves the others as they are, to the byte."""

from __future__ import annotations

from dataclasses import replace

import pytest

from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.part.lineage import follow
from lean_ledger.core.program.write import programs_of
from lean_ledger.core.revised.priced import priced
from lean_ledger.core.revised.subprograms import subprograms
from lean_ledger.core.revisions.match import Became
from lean_ledger.core.setups.first_plan import quick_plan
from lean_ledger.library import shipped_library
from tests.conftest import built

LIB = shipped_library()
A = block((0, 0, 0), (80, 50, 20)) - rod((15, 15, 0), (0, 0, 1), 5, 20)
B = A - rod((60, 30, 0), (0, 0, 1), 8, 20)


def test_hole_more_is_new_and_what_was_there_keeps_its_program() -> None:
    """The new hole's drill comes between others: what comes after it has another number and the same moves."""
    (a, _), (b, revised) = follow([("A", built(A))], ()), follow([("A", built(A)), ("B", built(B))], ())
    assert revised is not None
    plan = quick_plan(a, "al-6082", (10,), LIB)
    before = evaluate(plan, a, LIB)
    after = evaluate(replace(plan, revision="B"), b, LIB)
    found = subprograms(programs_of(before, a, "J"), programs_of(after, b, "J"))
    stays = {one.operation: one.stays for one in found}
    new = {op.id for op in after.operations} - {op.id for op in before.operations}
    assert new
    assert {id for id, how in stays.items() if how == "new"} == new
    old = {id: how for id, how in stays.items() if id not in new and "spot" not in id}
    assert set(old.values()) <= {"same", "renumbered"}
    assert "same" in old.values()
    assert "renumbered" in old.values()
    back = subprograms(programs_of(after, b, "J"), programs_of(before, a, "J"))
    assert {one.operation for one in back if one.stays == "gone"} == new
    # and in seconds: the hole is new, what it takes is what the piece takes more, but for ways and what it shares
    cost = priced(before, after, revised, LIB.rates, found)
    (hole,) = [one for one in cost.features if one.became == Became.NEW]
    assert hole.before == 0 < hole.after
    assert cost.rest[0] == cost.rest[1] or abs(cost.rest[1] - cost.rest[0]) < 0.5
    assert sum(one.after - one.before for one in cost.features) + cost.rest[1] - cost.rest[0] == (
        pytest.approx(after.per_piece - before.per_piece)
    )
