"""From a plan to its ledger: every second and cent, computed from its decisions.

`evaluate` is pure: the same plan, part and library give the same ledger, down to the last digit. The part is all that
it needs beside plan and library: the model with its features, and what was brought in with it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from time import perf_counter

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Finding, Severity
from lean_ledger.core.basis.same import Same
from lean_ledger.core.cells.of_plan import wanted_findings
from lean_ledger.core.features import Feature
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.holding.placement import Bed, bed_for, bed_of
from lean_ledger.core.ledger.beside_findings import beside_findings
from lean_ledger.core.ledger.coverage import coverage_findings
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.ledger.offsets import offset_findings
from lean_ledger.core.ledger.part_findings import part_findings
from lean_ledger.core.ledger.tool_findings import (
    bought_findings,
    out_findings,
    shop_findings,
    tool_findings,
    worn_findings,
)
from lean_ledger.core.loads.joined import kerf_of, left_alone, way_cut, why_not_cut_in_a_bar, why_not_in_a_bar
from lean_ledger.core.loads.made import MadeFrom, load_ledger
from lean_ledger.core.operations.build import Bench, BuiltSetup, build_setup
from lean_ledger.core.operations.in_blank import InBlank
from lean_ledger.core.part.bodies import planned_part
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Load, Plan, SetupDecision, material_of
from lean_ledger.core.pricing.of_plan import price_problem
from lean_ledger.core.pricing.price import price
from lean_ledger.core.setups import assign_features
from lean_ledger.core.setups.sides import needs_machining
from lean_ledger.core.setups.wishes import wish_findings
from lean_ledger.core.setups.zero import zero_findings
from lean_ledger.core.stock import StockState
from lean_ledger.core.stock.sizes import near_net_findings, settled, stock_findings
from lean_ledger.library.types import Library


def evaluate(plan: Plan, part: Part, library: Library, report: Report = silent) -> Ledger:
    """Everything that follows from a plan's decisions. Raises PlanError for decisions that have no meaning here.

    `report` hears of each setup before it is planned, with the share that is done; what it raises ends the planning.
    """
    watch = _Watch()
    material = material_of(plan, library)
    bare, part = part, planned_part(part, plan)
    plan, sized = settled(plan, part, library)
    as_bought = frozenset(f.id for f in part.features if not needs_machining(part, f, plan))
    assigned = assign_features(part, plan)
    stock = sized.state(part)
    beds = {load.id: _bed(load, plan.setup(load.places[0].setup), library) for load in plan.loads}
    watch.stage("setups")
    built = _built(Bench(part, plan, library, material, as_bought), assigned, stock, beds, report)
    watch.stage("operations and paths")
    given = MadeFrom(plan, part, library)
    made = [load_ledger(given, load, beds[load.id], built) for load in plan.loads]
    loads = tuple(load for load, _ in made)
    watch.stage("order and transitions")
    findings = [
        *stock_findings(sized, plan),
        *near_net_findings(bare),
        *(f for one in built.values() for f in one.findings),
        *(f for _, own in made for f in own),
    ]
    operations = [call.operation for load in loads for share in load.shares for call in share.rows]
    said = {feature for f in findings if f.severity == Severity.ERROR for feature in f.features}
    left = built[plan.setups[-1].id].after
    findings += part_findings(plan, bare, library)
    findings += shop_findings(library)
    findings += wish_findings(part, plan, assigned)
    findings += zero_findings(part, plan, assigned)
    findings += coverage_findings(part, plan, library, operations, assigned, left, said, built[plan.setups[0].id].hold)
    findings += [f for load in loads for one in load.by_carriage for f in tool_findings(one)]
    findings += [f for load in loads for f in beside_findings(load)]
    findings += worn_findings(loads, library, material)
    findings += bought_findings(plan, loads)
    findings += out_findings(loads)
    watch.stage("findings")
    problem, wear = price_problem(plan, library, material, stock, loads)
    prices = price(problem)
    watch.stage("price")
    findings += wanted_findings(plan.cell, loads, problem.setups)
    made_of = Ledger(plan, sized, material, stock, loads, assigned, (), problem, prices, wear, watch.stages)
    return replace(made_of, findings=_ranked([*findings, *offset_findings(made_of, part)]))


class _Watch:
    def __init__(self) -> None:
        self.stages: dict[str, float] = {}
        self._last = perf_counter()

    def stage(self, name: str) -> None:
        now = perf_counter()
        self.stages[name] = now - self._last
        self._last = now


def _bed(load: Load, setup: SetupDecision, library: Library) -> Bed:
    machine = library.machine(load.machine)
    if machine is None:
        names = ", ".join(m.id for m in library.machines)
        raise PlanError("no-such-machine", f"there is no machine {load.machine!r}; the library has {names}")
    return bed_of(load, machine, library, setup)


def _built(
    bench: Bench,
    assigned: Mapping[str, tuple[str, ...]],
    state: StockState,
    beds: Mapping[str, Bed],
    report: Report,
) -> dict[str, BuiltSetup]:
    """The setups one after the other, each from the stock that the one before leaves."""
    found: dict[str, BuiltSetup] = {}
    for k, setup in enumerate(bench.plan.setups):
        report(f"planning setup {setup.id}", k / len(bench.plan.setups))
        load = bench.plan.load_of(setup.id)
        bed = bed_for(beds[load.id], load, setup.id)
        features = [bench.part.by_id[id] for id in assigned[setup.id]]
        one = build_setup(bench, setup, features, state, bed)
        if load.arrangement.joined > 1:
            one = _in_a_bar(bench, setup, features, state, bed, one, rows=load.arrangement.joined_rows)
        state = one.after
        bench = bench.after(one, bed.machine, assigned[setup.id])
        found[setup.id] = one
    return found


def _in_a_bar(
    bench: Bench, setup: SetupDecision, features: Sequence[Feature], state: StockState, bed: Bed, alone: BuiltSetup,
    *, rows: int,
) -> BuiltSetup:  # fmt: skip
    """A piece that stays in one bar or plate with others; by itself, with the reason, where it cannot."""
    why = why_not_in_a_bar(bench.plan, setup, alone, bed.machine)
    if why:
        return left_alone(Same(alone), why)
    blank = InBlank(kerf_of(bench.plan, bench.library), rows)
    joined = build_setup(bench, setup, features, state, bed, blank)
    why = why_not_cut_in_a_bar(alone, joined)
    way = way_cut(joined) if why else None
    if way is not None:  # what comes out of the part keeps to what is cut free there
        kept = build_setup(bench, setup, features, state, bed, replace(blank, way=way))
        still = why_not_cut_in_a_bar(alone, kept)
        joined, why = (joined, why) if still else (kept, "")
    return left_alone(Same(alone), why) if why else joined


def _ranked(findings: Sequence[Finding]) -> tuple[Finding, ...]:
    """Errors first; otherwise in the order in which they were found."""
    order = {severity: i for i, severity in enumerate(Severity)}
    return tuple(sorted(findings, key=lambda f: order[f.severity]))
