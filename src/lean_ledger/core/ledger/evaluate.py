"""The ledger: every second and cent of a plan, computed from its decisions.

`evaluate` is pure: the same plan, part and library give the same ledger, down to the last digit.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from functools import cached_property
from time import perf_counter

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Chapter, Figure, Finding, Severity
from lean_ledger.core.control.foreign import ForeignTime, time_or_finding
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import dot
from lean_ledger.core.holding.checks import grip_findings
from lean_ledger.core.holding.placement import mount_findings
from lean_ledger.core.holding.resolve import holding_side
from lean_ledger.core.ledger.coverage import coverage_findings
from lean_ledger.core.ledger.part_findings import part_findings
from lean_ledger.core.ledger.tool_findings import shop_findings, tool_findings
from lean_ledger.core.loads.between import Transition, index_seconds, return_seconds, transition
from lean_ledger.core.loads.force import force_findings
from lean_ledger.core.loads.grips import Grip, cannot_be_held, grips, with_better
from lean_ledger.core.loads.sequence import grouped_by_tool, resolved_order, tool_calls
from lean_ledger.core.loads.travel import travel_findings
from lean_ledger.core.operations.build import Bench, BuiltSetup, build_setup
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.part.bodies import planned_part
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan, SetupDecision, Zero
from lean_ledger.core.pricing.of_plan import price_problem, setup_hours
from lean_ledger.core.pricing.price import PriceProblem, QuantityPrice, price
from lean_ledger.core.setups import assign_features
from lean_ledger.core.setups.frame import default_turn
from lean_ledger.core.setups.sides import needs_machining
from lean_ledger.core.setups.wishes import wish_findings
from lean_ledger.core.setups.zero import Place, bores_there, proposed_zero, zero_findings
from lean_ledger.core.stock import StockState
from lean_ledger.core.stock.sizes import Sized, near_net_findings, settled, stock_findings
from lean_ledger.library.types import Library, Machine, Material

CATEGORIES = (
    "cutting",
    "rapid",
    "tool change",
    "index",
    "spindle",
    "dwell",
    "probing",
    "handling",
    "hand work",
    "waiting",
)


@dataclass(frozen=True)
class Entry:
    """One operation in its place in the order, with all the seconds that it costs there.

    A program from elsewhere stands for the operation's own motion; the way to it stays.
    """

    operation: Operation
    transition: Transition
    position: int
    foreign: ForeignTime | None = None

    @cached_property
    def own_seconds(self) -> Mapping[str, float]:
        """By the operation's own motion, whatever it is timed by."""
        op = self.operation
        feed = "probing" if op.motion.probes else "cutting"
        return self._with_way({feed: op.time.cut, "rapid": op.time.rapid, "spindle": op.reversal_seconds})

    @cached_property
    def seconds(self) -> Mapping[str, float]:
        return self.own_seconds if self.foreign is None else self._with_way(self.foreign.seconds)

    def _with_way(self, own: Mapping[str, float]) -> dict[str, float]:
        way = self.transition
        to_it = {"rapid": way.rapid, "tool change": way.tool_change, "index": way.index, "spindle": way.spindle}
        return {category: own.get(category, 0.0) + to_it.get(category, 0.0) for category in CATEGORIES}

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
        if way.index:
            formula = f"unclamp, turn by {way.turned:g}°, clamp"
            rows.append(Figure("index", formula, way.index, "s"))
        if way.spindle:
            rows.append(Figure("spindle start", f"to {self.operation.cutting.n:.0f} rpm", way.spindle, "s"))
        if self.foreign is not None:
            formula = f"{self.foreign.lines} lines on the simulated machine"
            rows.insert(0, Figure(f"program {self.foreign.file}", formula, self.foreign.total, "s"))
        return (*self.operation.figures, *rows, Figure("total", "cutting, rapids, changes, starts", self.total, "s"))


@dataclass(frozen=True)
class SetupLedger:
    decision: SetupDecision
    machine: Machine
    built: BuiltSetup
    entries: tuple[Entry, ...]
    return_rapid: float  # up to the change position at cycle end
    return_index: float  # until rotary and tilt stand as they do at cycle start
    load_seconds: float
    calls: int
    grouped: tuple[str, ...]  # the order with the fewest tool calls
    grouped_calls: int
    grouping_saves: float  # seconds a cycle
    setup_hours: Decimal
    in_machine: tuple[str, ...] = ()  # tools that stand in it, whatever job comes
    foreign: ForeignTime | None = None  # in place of all that the operations take

    @property
    def own_seconds(self) -> dict[str, float]:
        """By the operations' own motion, load and unload left out."""
        found = {category: sum(e.own_seconds[category] for e in self.entries) for category in CATEGORIES}
        found["rapid"] += self.return_rapid
        found["index"] += self.return_index
        return found

    @cached_property
    def _machine_seconds(self) -> dict[str, float]:
        if self.foreign is not None:
            found = {category: self.foreign.seconds.get(category, 0.0) for category in CATEGORIES}
        else:
            found = {category: sum(e.seconds[category] for e in self.entries) for category in CATEGORIES}
            found["rapid"] += self.return_rapid
            found["index"] += self.return_index
        return found

    @property
    def seconds(self) -> dict[str, float]:
        """A piece's, by category; what is done by hand while the machine runs costs only what it is made to wait."""
        beside = sum(float(work.seconds) for work in self.decision.hand if work.during)
        return self._machine_seconds | {
            "handling": self.load_seconds,
            "hand work": sum(float(work.seconds) for work in self.decision.hand if not work.during),
            "waiting": max(0.0, beside - self.cycle),
        }

    @property
    def cycle(self) -> float:
        return sum(self._machine_seconds.values())

    @property
    def standing(self) -> float:
        """Seconds a piece that the machine stands: load and unload, hand work at it, waiting."""
        seconds = self.seconds
        return seconds["handling"] + seconds["hand work"] + seconds["waiting"]


@dataclass(frozen=True)
class Ledger:
    """`plan` has the allowances that its stock comes out with, which may be more than was decided."""

    plan: Plan
    sized: Sized
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
        built = self.setups[index].built
        frame = built.home.frame
        before = [id for s in self.setups[:index] for id in self.assigned[s.decision.id]]
        boxes = [frame.box(box) for box in built.before.boxes()]
        stock = Bounds(*(tuple(pick(getattr(b, end)[i] for b in boxes) for i in range(3))
                         for pick, end in ((min, "min"), (max, "max"))))  # type: ignore[arg-type]  # fmt: skip
        box = frame.box(part.model.solid.bounds)
        axis = None
        along = dot(frame.right, built.hold.frame.up)
        if abs(along) > 0.5:
            _, y, z = frame.point(built.stands.foot)
            axis = (round(box.max[0] if along > 0 else box.min[0], 4), round(y, 4), round(z, 4))
        spun = self.setups[index].decision.spindle != "tool"
        return Place(stock, box, bores_there(part, frame, before), axis, spun)

    def zero_of(self, part: Part, index: int) -> Zero:
        """The zero of a setup: decided by hand, else by the rule."""
        decided = self.setups[index].decision.zero
        if decided is not None:
            return decided
        return proposed_zero(index, self.zero_place(part, index))[0]

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
    plan, sized = settled(plan, part, library)
    as_bought = frozenset(f.id for f in part.features if not needs_machining(part, f, plan.allowances))
    bench = Bench(part, plan, library, material, as_bought)
    assigned = assign_features(part, plan)
    stock = sized.state(part)
    watch.stage("setups")
    findings: list[Finding] = [*stock_findings(sized, plan), *near_net_findings(bare)]
    built: list[tuple[SetupDecision, Machine, BuiltSetup]] = []
    state = stock
    for setup in plan.setups:
        machine = library.machine(setup.machine)
        if machine is None:
            names = ", ".join(m.id for m in library.machines)
            raise PlanError("no-such-machine", f"there is no machine {setup.machine!r}; the library has {names}")
        features = [part.by_id[id] for id in assigned[setup.id]]
        one = build_setup(bench, setup, features, state, machine)
        findings.extend(one.findings)
        state = one.after
        bench = bench.after(one, machine, assigned[setup.id])
        built.append((setup, machine, one))
    watch.stage("operations and paths")
    setups = tuple(_setup_ledger(plan, part, setup, machine, one, library, findings) for setup, machine, one in built)
    watch.stage("order and transitions")
    operations = [e.operation for s in setups for e in s.entries]
    said = {feature for f in findings if f.severity == Severity.ERROR for feature in f.features}
    findings.extend(part_findings(plan, bare, library))
    findings.extend(shop_findings(library))
    findings.extend(wish_findings(plan, assigned))
    findings.extend(zero_findings(part, plan, assigned))
    findings.extend(coverage_findings(part, plan, library, operations, assigned, state, said))
    for ready in setups:
        findings.extend(tool_findings(ready))
    watch.stage("findings")
    problem, wear = price_problem(
        plan,
        library,
        material,
        stock.section_and_length,
        {s.decision.id: s.cycle for s in setups},
        {s.decision.id: s.standing for s in setups},
        {s.decision.id: len(s.built.to_set) for s in setups},
        operations,
    )
    prices = price(problem)
    watch.stage("price")
    order = {severity: i for i, severity in enumerate(Severity)}
    ranked = tuple(sorted(findings, key=lambda f: order[f.severity]))
    return Ledger(plan, sized, material, stock, setups, assigned, ranked, problem, prices, wear, watch.stages)


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
    part: Part,
    setup: SetupDecision,
    machine: Machine,
    built: BuiltSetup,
    library: Library,
    findings: list[Finding],
) -> SetupLedger:
    by_id = {op.id: op for op in built.operations}
    findings.extend(_held(plan, setup, machine, built, library))
    findings.extend(travel_findings(setup, built.stands, machine, built.operations))
    order = resolved_order(built.operations, setup.order)
    foreign = _attached(plan, part, setup, machine, findings)
    entries = tuple(replace(e, foreign=foreign.get(e.operation.id)) for e in _entries(order, by_id, built, machine))
    grouped = grouped_by_tool(built.operations)
    grouped_entries = _entries(grouped, by_id, built, machine)
    spent = sum(replace(e, foreign=None).total for e in entries)
    best = sum(e.total for e in grouped_entries)
    back = return_seconds(entries[-1].operation, built.stands, machine) if entries else 0.0
    turned_back = index_seconds(entries[-1].operation, entries[0].operation, machine)[0] if entries else 0.0
    for op in built.operations if machine.kind == "mill" else ():
        top = op.frame.box(built.before.bounds).max[2]
        room = built.stands.tool_height(op.frame, machine, op.tool)
        if room < top + 5:
            findings.append(_no_room(setup, op, machine, top - room))
            break
    return SetupLedger(
        decision=setup,
        machine=machine,
        built=built,
        entries=entries,
        return_rapid=back,
        return_index=turned_back,
        load_seconds=float(setup.load_seconds) if setup.load_seconds is not None else built.hold.load_seconds,
        calls=tool_calls(order, by_id),
        grouped=grouped,
        grouped_calls=tool_calls(grouped, by_id),
        grouping_saves=max(0.0, spent - best) if grouped != order else 0.0,
        setup_hours=setup_hours(plan, setup.id, len(built.to_set), library.rates),
        in_machine=library.in_machine(machine),
        foreign=foreign.get(""),
    )


def _attached(
    plan: Plan, part: Part, setup: SetupDecision, machine: Machine, findings: list[Finding]
) -> dict[str, ForeignTime]:
    """The programs that a setup is timed by, by operation; under "" that of the whole setup."""
    texts = {program.key: program for program in part.programs}
    found = {}
    for one in plan.attached:
        if one.setup == setup.id:
            timed = time_or_finding(texts.get(one.key), one.file, one.setup, one.operation, machine)
            if isinstance(timed, Finding):
                findings.append(timed)
            else:
                found[one.operation] = timed
    return found


def _held(
    plan: Plan, setup: SetupDecision, machine: Machine, built: BuiltSetup, library: Library
) -> list[Finding]:  # fmt: skip
    """What is wrong with how a setup is held; with what would hold instead, or that nothing does."""
    own = [
        *built.hold.findings(setup.id),
        *mount_findings(setup, built.hold.fixture, machine, library),
        *grip_findings(setup.id, built.hold, plan),
        *force_findings(setup, built.hold, built.operations),
    ]
    if all(f.severity != Severity.ERROR for f in own):
        return own
    tried = grips_of(plan, setup, machine, built, library)
    if not any(grip.holds for grip in tried):
        return [*own, cannot_be_held(setup.id, tried)]
    return [with_better(f, tried) if f.severity == Severity.ERROR else f for f in own]


def grips_of(
    plan: Plan, setup: SetupDecision, machine: Machine, built: BuiltSetup, library: Library
) -> tuple[Grip, ...]:
    """What a setup could be held with, the best first."""
    turn = default_turn(holding_side(setup), built.before.bounds)
    return grips(plan, setup, built.found, built.lowest, built.operations, library, machine, turn)


def _no_room(setup: SetupDecision, op: Operation, machine: Machine, lacking: float) -> Finding:
    return Finding(
        "z-travel",
        Severity.ERROR,
        Chapter.SETUPS,
        f"{op.tool.description} does not clear the stock at the change position of {machine.name}.",
        f"It would have to stand {lacking + 5:.0f} higher there. Take a lower fixture, a shorter tool or another "
        "machine.",
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
        entries.append(Entry(op, transition(before, op, built.stands, machine), position))
        before = op
    return tuple(entries)
