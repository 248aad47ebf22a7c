"""The ledger: every second and cent of a plan, computed from its decisions.

`evaluate` is pure: the same plan, part and library give the same ledger, down to the last digit.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from time import perf_counter

from lean_ledger.core.bodies import planned_part
from lean_ledger.core.errors import PlanError
from lean_ledger.core.features import Feature, Turned, flat_side
from lean_ledger.core.features.describe import title
from lean_ledger.core.findings import Chapter, Cure, Figure, Finding, Severity
from lean_ledger.core.geometry.vectors import DIRECTION_NAMES, dot
from lean_ledger.core.holding.force import force_findings
from lean_ledger.core.holding.mounts import mount_findings
from lean_ledger.core.operations.build import BuiltSetup, build_setup
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.order import Transition, grouped_by_tool, resolved_order, tool_calls, transition
from lean_ledger.core.order.transitions import change_height, return_seconds
from lean_ledger.core.part import Part
from lean_ledger.core.part_findings import in_the_way, part_findings
from lean_ledger.core.plan import DIRECTIONS, Plan, SetupDecision, Zero
from lean_ledger.core.pricing.of_plan import price_problem, setup_hours
from lean_ledger.core.pricing.price import PriceProblem, QuantityPrice, price
from lean_ledger.core.setups import assign_features
from lean_ledger.core.setups.assign import is_outline, needs_machining
from lean_ledger.core.setups.machines import machines_for
from lean_ledger.core.setups.wishes import wish_findings
from lean_ledger.core.setups.zero import Place, bores_there, proposed_zero, zero_findings
from lean_ledger.core.stock import StockState, first_stock
from lean_ledger.library.types import Library, Machine, Material

CATEGORIES = ("cutting", "rapid", "tool change", "spindle", "handling")


@dataclass(frozen=True)
class Entry:
    """One operation in its place in the order, with all the seconds that it costs there."""

    operation: Operation
    transition: Transition
    position: int

    @property
    def seconds(self) -> dict[str, float]:
        return {
            "cutting": self.operation.time.cut,
            "rapid": self.operation.time.rapid + self.transition.rapid,
            "tool change": self.transition.tool_change,
            "spindle": self.operation.reversal_seconds + self.transition.spindle,
            "handling": 0.0,
        }

    @property
    def total(self) -> float:
        return sum(self.seconds.values())

    @property
    def figures(self) -> tuple[Figure, ...]:
        """The operation's own, and what it takes to get to it in this place of the order."""
        way = self.transition
        route = "up to the change position, across and down" if way.changes_tool else "from the operation before"
        rows = [Figure("rapid, way to it", route, way.rapid, "s")]
        if way.changes_tool:
            rows.append(Figure("tool change", f"T{self.operation.tool.number} in, chip to chip", way.tool_change, "s"))
        if way.spindle:
            rows.append(Figure("spindle start", f"to {self.operation.cutting.n:.0f} rpm", way.spindle, "s"))
        return (*self.operation.figures, *rows, Figure("total", "cutting, rapids, changes, starts", self.total, "s"))


@dataclass(frozen=True)
class SetupLedger:
    decision: SetupDecision
    machine: Machine
    built: BuiltSetup
    entries: tuple[Entry, ...]
    return_rapid: float  # up to the change position at cycle end
    load_seconds: float
    calls: int
    grouped: tuple[str, ...]  # the order with the fewest tool calls
    grouped_calls: int
    grouping_saves: float  # seconds a cycle
    setup_hours: Decimal

    @property
    def seconds(self) -> dict[str, float]:
        found = {category: sum(e.seconds[category] for e in self.entries) for category in CATEGORIES}
        found["rapid"] += self.return_rapid
        found["handling"] += self.load_seconds
        return found

    @property
    def cycle(self) -> float:
        return sum(self.seconds.values()) - self.load_seconds


@dataclass(frozen=True)
class Ledger:
    plan: Plan
    material: Material
    stock: StockState
    setups: tuple[SetupLedger, ...]
    assigned: Mapping[str, tuple[str, ...]]
    findings: tuple[Finding, ...]
    problem: PriceProblem
    prices: tuple[QuantityPrice, ...]
    tool_wear: Figure
    stages: Mapping[str, float]  # seconds that each stage of the evaluation took

    @property
    def seconds(self) -> dict[str, float]:
        """Per piece, by category."""
        return {category: sum(s.seconds[category] for s in self.setups) for category in CATEGORIES}

    @property
    def cycle(self) -> float:
        """Seconds a piece spends in cycles, all setups together."""
        return sum(s.cycle for s in self.setups)

    @property
    def per_piece(self) -> float:
        return sum(self.seconds.values())

    @property
    def setup_hours(self) -> Decimal:
        return sum((s.setup_hours for s in self.setups), Decimal(0))

    @property
    def operations(self) -> tuple[Operation, ...]:
        return tuple(e.operation for s in self.setups for e in s.entries)

    def zero_place(self, part: Part, index: int) -> Place:
        """What the zero of a setup can be on: bores count that setups before it made."""
        hold = self.setups[index].built.hold
        before = [id for s in self.setups[:index] for id in self.assigned[s.decision.id]]
        bores = bores_there(part, hold.frame, before)
        return Place(hold.stock, hold.frame.box(part.model.solid.bounds), bores)

    def zero_of(self, part: Part, index: int) -> Zero:
        """The zero of a setup: decided by hand, else by the rule."""
        decided = self.setups[index].decision.zero
        return decided if decided is not None else proposed_zero(index, self.zero_place(part, index))[0]

    def setup_of(self, id: str) -> SetupLedger:
        return next(s for s in self.setups if s.decision.id == id)


def evaluate(plan: Plan, part: Part, library: Library) -> Ledger:
    """Everything that follows from a plan's decisions. Raises PlanError for decisions that have no meaning here."""
    watch = _Watch()
    material = library.material(plan.material)
    if material is None:
        names = ", ".join(m.id for m in library.materials)
        raise PlanError("no-such-material", f"there is no material {plan.material!r}; the library has {names}")
    bare, part = part, planned_part(part, plan)
    assigned = assign_features(part, plan)
    stock = first_stock(part.model.solid.bounds, plan.allowances)
    watch.stage("setups")
    findings: list[Finding] = []
    built: list[tuple[SetupDecision, Machine, BuiltSetup]] = []
    state = stock
    for setup in plan.setups:
        machine = library.machine(setup.machine)
        if machine is None:
            names = ", ".join(m.id for m in library.machines)
            raise PlanError("no-such-machine", f"there is no machine {setup.machine!r}; the library has {names}")
        features = [part.by_id[id] for id in assigned[setup.id]]
        one = build_setup(part, plan, setup, features, state, library, material, machine)
        findings.extend(one.findings)
        state = one.after
        built.append((setup, machine, one))
    watch.stage("operations and paths")
    setups = tuple(_setup_ledger(plan, setup, machine, one, library, findings) for setup, machine, one in built)
    watch.stage("order and transitions")
    operations = [e.operation for s in setups for e in s.entries]
    said = {feature for f in findings if f.severity == Severity.ERROR for feature in f.features}
    findings.extend(part_findings(plan, bare, library))
    findings.extend(wish_findings(plan, assigned))
    findings.extend(zero_findings(part, plan, assigned))
    findings.extend(_coverage(part, plan, library, operations, assigned, state, said))
    findings.extend(_tool_findings(setups))
    watch.stage("findings")
    problem, wear = price_problem(
        plan,
        library,
        material,
        stock.bounds,
        {s.decision.id: s.cycle for s in setups},
        {s.decision.id: s.load_seconds for s in setups},
        {s.decision.id: len({e.operation.tool.id for e in s.entries}) for s in setups},
        operations,
    )
    prices = price(problem)
    watch.stage("price")
    order = {severity: i for i, severity in enumerate(Severity)}
    ranked = tuple(sorted(findings, key=lambda f: order[f.severity]))
    return Ledger(plan, material, stock, setups, assigned, ranked, problem, prices, wear, watch.stages)


class _Watch:
    def __init__(self) -> None:
        self.stages: dict[str, float] = {}
        self._last = perf_counter()

    def stage(self, name: str) -> None:
        now = perf_counter()
        self.stages[name] = now - self._last
        self._last = now


def _setup_ledger(
    plan: Plan,
    setup: SetupDecision,
    machine: Machine,
    built: BuiltSetup,
    library: Library,
    findings: list[Finding],
) -> SetupLedger:
    by_id = {op.id: op for op in built.operations}
    findings.extend(mount_findings(setup, built.hold, machine))
    findings.extend(force_findings(setup, built.hold, built.operations))
    order = resolved_order(built.operations, setup.order)
    entries = _entries(order, by_id, built, machine)
    grouped = grouped_by_tool(built.operations)
    grouped_entries = _entries(grouped, by_id, built, machine)
    spent, best = sum(e.total for e in entries), sum(e.total for e in grouped_entries)
    back = return_seconds(entries[-1].operation, built.hold, machine) if entries else 0.0
    tools = len({op.tool.id for op in built.operations})
    for op in built.operations:
        room = change_height(built.hold, machine, op.tool)
        if room < built.hold.stock.size[2] + 5:
            findings.append(_no_room(setup, op, machine, room, built))
            break
    return SetupLedger(
        decision=setup,
        machine=machine,
        built=built,
        entries=entries,
        return_rapid=back,
        load_seconds=float(setup.load_seconds) if setup.load_seconds is not None else built.hold.vise.load_seconds,
        calls=tool_calls(order, by_id),
        grouped=grouped,
        grouped_calls=tool_calls(grouped, by_id),
        grouping_saves=max(0.0, spent - best) if grouped != order else 0.0,
        setup_hours=setup_hours(plan, setup.id, tools, library.rates),
    )


def _no_room(setup: SetupDecision, op: Operation, machine: Machine, room: float, built: BuiltSetup) -> Finding:
    return Finding(
        "z-travel",
        Severity.ERROR,
        Chapter.SETUPS,
        f"{op.tool.description} does not clear the stock at the change position of {machine.name}.",
        f"Its tip stands {room:.0f} above the stock's foot there, the stock is {built.hold.stock.size[2]:.0f} high. "
        "Take a lower vise, a shorter tool or another machine.",
        setup.id,
        operation=op.id,
    )


def _entries(
    order: Sequence[str], by_id: Mapping[str, Operation], built: BuiltSetup, machine: Machine
) -> tuple[Entry, ...]:
    entries: list[Entry] = []
    before: Operation | None = None
    for position, id in enumerate(order):
        op = by_id[id]
        entries.append(Entry(op, transition(before, op, built.hold, machine), position))
        before = op
    return tuple(entries)


def _coverage(
    part: Part,
    plan: Plan,
    library: Library,
    operations: Sequence[Operation],
    assigned: Mapping[str, tuple[str, ...]],
    state: StockState,
    said: set[str],
) -> list[Finding]:
    """A feature without an operation is named, unless a finding already says why; so is an outline cut short."""
    found: list[Finding] = []
    made = {feature for op in operations for feature in op.features}
    out = {left.feature for left in plan.left_out} | said
    placed = {feature for ids in assigned.values() for feature in ids}
    axis = plan.outline_axis
    for feature in part.features:
        if feature.id in made or feature.id in out or not needs_machining(feature, plan.allowances):
            continue
        found.append(_uncovered(part, library, feature, feature.id in placed))
    outline = [f for f in part.features if is_outline(part, f, axis) and f.id in made]
    if outline and state.walls is not None:
        i = max(range(3), key=lambda k: abs(axis[k]))
        low, high = part.model.solid.bounds.min[i], part.model.solid.bounds.max[i]
        left = max(state.walls.low - low, 0.0) + max(high - state.walls.high, 0.0)
        if left > 0.01:
            found.append(_outline_short(plan, outline, left))
    return found


def _uncovered(part: Part, library: Library, feature: Feature, placed: bool) -> Finding:  # noqa: FBT001 - a fact
    cures = [
        Cure(
            "Leave to deburring",
            {"change": "leave-out", "features": [feature.id], "reason": "deburring"},
        ),
        Cure(
            "Made elsewhere",
            {"change": "leave-out", "features": [feature.id], "reason": "made elsewhere"},
        ),
    ]
    if feature.kind not in ("chamfer", "fillet"):
        cures = cures[1:]
    if isinstance(feature, Turned) and feature.where != "end":
        why = f"It is turned, and no machine of this plan turns it. {_could(part, feature, library)}".strip()
    elif placed:
        why = "A setup reaches it, but no tool or kind of operation here makes it."
    elif (flat := flat_side(feature)) is not None:
        side = next((n for n in DIRECTIONS if dot(DIRECTIONS[n], flat.normal) > 0.999), None)
        why = "No setup has its side up."
        if side is not None:
            cures.insert(0, Cure(f"Add a setup with {side} up", {"change": "add-setup", "up": side}))
    elif feature.access:
        ways = [DIRECTION_NAMES[d] for d in feature.access if d in DIRECTION_NAMES]
        why = f"A tool reaches it from {', '.join(ways) or 'a slanted direction'} only, and no setup has that side up."
        if not ways:
            why = f"{why} {_could(part, feature, library)}".strip()
        cures = [Cure(f"Add a setup with {way} up", {"change": "add-setup", "up": way}) for way in ways[:2]] + cures
    else:
        why = f"No straight tool reaches all of it from any side. {in_the_way(part, feature)}".strip()
    return Finding(
        "no-operation",
        Severity.ERROR,
        Chapter.OPERATIONS if placed else Chapter.SETUPS,
        f"Nothing makes {feature.id}, {title(feature)}.",
        why,
        features=(feature.id,),
        cures=tuple(cures),
    )


def _could(part: Part, feature: Feature, library: Library) -> str:
    """Which machines of the shop could make it, as a sentence; empty where none does."""
    names = [machine.name for machine in machines_for(part, feature, library)]
    return f"It could be made on: {'; '.join(names)}." if names else ""


def _outline_short(plan: Plan, outline: Sequence[Feature], left: float) -> Finding:
    first = plan.setups[0]
    side = {"+": "-", "-": "+"}[first.up[1]]
    below = f"{first.up[0]}{side}"
    over = plan.allowances.on(below)
    more = round(over + left + 0.5, 1)
    return Finding(
        "outline-short",
        Severity.ERROR,
        Chapter.SETUPS,
        f"{left:.1f} of the outline's height is cut in no setup.",
        "The jaws are in the way in the first setup and no other setup cuts it. Turn the part over in a second setup, "
        "or leave more stock to hold by.",
        setup=first.id,
        features=tuple(f.id for f in outline),
        cures=(
            Cure(f"Add a setup with {below} up", {"change": "add-setup", "up": below}),
            Cure(f"Leave {more:g} below", {"change": "set-allowance", "side": below, "value": more}),
        ),
    )


def _tool_findings(setups: Sequence[SetupLedger]) -> list[Finding]:
    """More tools than pockets; a tool that is called, put away and called again."""
    found: list[Finding] = []
    for s in setups:
        tools = Counter(e.operation.tool.id for e in s.entries if e.transition.changes_tool)
        if len(tools) > s.machine.tool_pockets > 0:
            found.append(
                Finding(
                    "too-many-tools", Severity.ERROR, Chapter.OPERATIONS,
                    f"Setup {s.decision.id} asks {len(tools)} tools, {s.machine.name} has {s.machine.tool_pockets}.",
                    "Use one tool for more, or split the setup.", s.decision.id,
                )
            )  # fmt: skip
        if s.grouping_saves >= 1.0:
            found.append(
                Finding(
                    "tool-called-again", Severity.WARNING, Chapter.ORDER,
                    f"Setup {s.decision.id} calls tools {s.calls} times where {s.grouped_calls} do.",
                    f"Grouped by tool the cycle is {s.grouping_saves:.1f} s shorter.", s.decision.id,
                    cures=(Cure(f"Group by tool, −{s.grouping_saves:.1f} s",
                                {"change": "group-by-tool", "setup": s.decision.id}),),
                )
            )  # fmt: skip
    return found
