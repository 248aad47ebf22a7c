"""A stepped piece with a bore on a lathe with two turrets, as drawn arrangements of its operations have it."""

from __future__ import annotations

from dataclasses import replace
from functools import cache

from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.geometry.solids import revolved, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.machines import moved_to
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.balanced import Finder
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan, StockChoice
from lean_ledger.library import shipped_library
from tests.conftest import built, quick

LIB = shipped_library()
TWIN = next(m for m in LIB.machines if m.id == "lathe-twin")
UP = (0.0, 0.0, 1.0)
STEPPED = revolved([(0, 0), (16, 0), (16, 12), (22, 12), (22, 30), (15, 30), (15, 55), (0, 55)]) - rod(
    (0, 0, 15), UP, 10, 40
)
FACE, ROUGH, SPOT, DRILL, FINISH = (
    f"S1.{id}" for id in ("end.face-in-the-lathe", "outside.rough-turn", "H1.spot", "H1.drill", "outside.finish-turn")
)


@cache
def part() -> Part:
    return built(STEPPED)


@cache
def one_after_other() -> Plan:
    plan = replace(quick(part()), stock=StockChoice("round bar", sizing="next size up", along="Z"))
    return moved_to(plan, TWIN, part(), LIB)


def changed(plan: Plan, **change: object) -> Plan:
    scene = Scene(part(), LIB, evaluate(plan, part(), LIB))
    return read_change(dict(change)).apply(plan, scene)[0]


def on_second(*operations: str, plan: Plan | None = None) -> Plan:
    plan = plan or one_after_other()
    for id in operations:
        plan = changed(plan, change="set-carriage", load="L1", operation=id, carriage="turret 2")
    return plan


def ledger(plan: Plan) -> Ledger:
    return evaluate(plan, part(), LIB)


def load(plan: Plan) -> LoadLedger:
    return ledger(plan).loads[0]


def finder(plan: Plan | None = None) -> Finder:
    return Finder(load(plan or one_after_other()))
