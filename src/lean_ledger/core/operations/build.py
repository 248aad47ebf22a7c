"""All operations of one setup, from its features and the stock it finds; and the stock that it leaves."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from functools import lru_cache

from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.basis.same import Same
from lean_ledger.core.features import Feature, Hole, flat_side
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import dot
from lean_ledger.core.holding import Found, Hold, resolve_hold
from lean_ledger.core.holding.placement import Bed
from lean_ledger.core.holding.resolve import Lowest, holding_side
from lean_ledger.core.holding.standing import Standing, standing
from lean_ledger.core.holding.vise import along_a_bar
from lean_ledger.core.operations.in_blank import InBlank
from lean_ledger.core.operations.milling.engraving import engrave_operations
from lean_ledger.core.operations.milling.from_above import cut_from_above, cut_inner, lowest_outside, outline_range
from lean_ledger.core.operations.milling.indexed import index_around
from lean_ledger.core.operations.milling.milling import BELOW_FLOOR
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.probing import probe_operations
from lean_ledger.core.operations.safe.standing import safe_operations
from lean_ledger.core.operations.safe.through import through
from lean_ledger.core.operations.turning.between_walls import HEAD, features_in
from lean_ledger.core.operations.turning.parting import BLADE
from lean_ledger.core.operations.turning.turning import turn
from lean_ledger.core.operations.workplace import Workplace
from lean_ledger.core.part.bodies import placed_bodies
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DIRECTIONS, Plan, SetupDecision
from lean_ledger.core.setups.frame import Frame, frame_of
from lean_ledger.core.setups.profile import levels_of, turned_from
from lean_ledger.core.setups.sides import from_open_side, is_outline, reaches_inside
from lean_ledger.core.setups.ways import Way, comes_across, turned_to, turns_sides_up, used_ways, way, way_of
from lean_ledger.core.stock import StockState
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Library, Material, Tool

KEPT = 128  # built setups
ACROSS = 8.0  # mm that a driven tool and its holder need towards the chuck beside what it makes


@dataclass(frozen=True)
class BuiltSetup:
    hold: Hold
    stands: Standing
    found: Found
    lowest: Lowest = field(compare=False, repr=False)
    home: Way  # the first that the tool comes from; zeros are counted in its axes
    operations: tuple[Operation, ...]
    findings: tuple[Finding, ...]
    before: StockState
    after: StockState
    to_set: tuple[Tool, ...] = ()  # tools that do not stand in the machine yet
    left_out: tuple[Operation, ...] = ()  # withheld: they would cut the part or what holds it
    blank: InBlank | None = None  # where the piece stays in one bar or plate with others
    not_joined: str = ""  # why it does not, though it was to


@dataclass(frozen=True)
class Bench:
    """What all setups of a plan are made with, and what the setups before made and left in the machines."""

    part: Part
    plan: Plan
    library: Library
    material: Material
    made: frozenset[str] = frozenset()  # features
    left: tuple[tuple[str, str], ...] = ()  # machine and tool

    def tools_at(self, machine: Machine) -> frozenset[str]:
        """Tools that need no setting up: those that stand in the machine, and what the plan's setups put there.

        What they put there goes out again where there are not pockets for all of it; by hand nothing stands.
        """
        inside = frozenset(self.library.in_machine(machine))
        together = inside | {tool for id, tool in self.left if id == machine.id}
        return together if len(together) <= machine.tool_pockets else inside

    def after(self, built: BuiltSetup, machine: Machine, made: Iterable[str]) -> Bench:
        left = dict.fromkeys((*self.left, *((machine.id, op.tool.id) for op in built.operations)))
        return replace(self, made=self.made | set(made), left=tuple(left))

    @property
    def tapped(self) -> dict[str, float]:
        """Major diameters of the holes that carry a thread, by their ids."""
        found = {}
        for hole in self.part.features:
            if isinstance(hole, Hole):
                thread = self.library.thread(self.plan.thread_in(hole) or "")
                if thread is not None:
                    found[hole.id] = thread.major
                elif hole.thread is not None:
                    found[hole.id] = hole.thread.diameter
        return found


def build_setup(
    bench: Bench, setup: SetupDecision, features: Sequence[Feature], state: StockState, bed: Bed,
    blank: InBlank | None = None,
) -> BuiltSetup:  # fmt: skip
    """Operations without an order yet; their precedences stand in each operation's `after`. `blank`: None for a piece
    that stands alone.

    Kept by what it is made from: an edit in one setup, or of a rate, builds no other setup again.
    """
    own = tuple(edit for edit in bench.plan.edits if edit.operation.startswith(f"{setup.id}."))
    plan = replace(bench.plan.as_made, edits=own)
    given = (Same(bench.part), Same(bench.library), bench.material, plan, bench.made, bench.left)
    return _built(given, setup, tuple(f.id for f in features), state, bed, blank)


Given = tuple[Same[Part], Same[Library], Material, Plan, frozenset[str], tuple[tuple[str, str], ...]]


@lru_cache(maxsize=KEPT)
def _built(
    given: Given, setup: SetupDecision, features: tuple[str, ...], state: StockState, bed: Bed, blank: InBlank | None
) -> BuiltSetup:
    part, library, material, plan, made, left = given
    bench = Bench(part.value, plan, library.value, material, made, left)
    return _Building(bench, setup, [part.value.by_id[id] for id in features], state, bed, blank).built()


@dataclass
class _Building:
    """A setup on its way from its features to its operations."""

    bench: Bench
    setup: SetupDecision
    features: Sequence[Feature]
    before: StockState
    bed: Bed
    blank: InBlank | None
    operations: list[Operation] = field(default_factory=list)
    findings: list[Finding] = field(default_factory=list)
    left_out: list[Operation] = field(default_factory=list)
    _lowest: dict[Frame, float | None] = field(default_factory=dict)  # by the holding's axes: many fixtures ask

    def __post_init__(self) -> None:
        bench, setup, part = self.bench, self.setup, self.bench.part
        self.axis = bench.plan.outline_axis
        self.outline = [f for f in self.features if is_outline(part, f, self.axis)]
        self.inner = [self._seen(f) for f in self.features if f not in self.outline]
        self.around = turns_sides_up(part, setup, self.axis)
        self.level = frame_of(holding_side(setup), 0)
        upright = self.outline and not self.around
        self.wanted = outline_range(part, self.level, self.axis, self.before) if upright else None
        here = frozenset(f.id for f in self.features)
        bodies = placed_bodies(part, bench.plan)
        rows, kerf = (self.blank.rows, self.blank.kerf) if self.blank is not None else (1, 0.0)
        self.found = Found(part, self.before, bench.made, here, bench.tapped, bodies, rows, kerf)
        hold = resolve_hold(setup, self.found, bench.library, self.bed, self.lowest)
        self.hold = hold if self.blank is None else along_a_bar(hold, self.blank.kerf)
        self.stands = standing(setup, self.hold, self.bed)
        used = used_ways(part, self.features, setup, self.axis)
        self.ways = [way(setup, d, self.hold.frame, self.stands.level) for d in used]
        self.tools_there = bench.tools_at(self.bed.machine)

    def _seen(self, feature: Feature) -> Feature:
        """As it is from the setup's own side, where it is come to from an edge."""
        up = DIRECTIONS[self.setup.up]
        if self.setup.free is not None or self.setup.part_turns or reaches_inside(feature, up):
            return feature
        return from_open_side(feature, up) or feature

    def built(self) -> BuiltSetup:
        setup, machine = self.setup, self.bed.machine
        if setup.free is not None and not machine.indexes_work:
            self.findings.append(_not_indexing(setup, machine, self.bench.library))
        after = self._turned() if setup.part_turns else self._around() if self.around else self._upright()
        if setup.probes and (self.around or setup.part_turns):
            self.findings.append(_not_probing(setup))
        self.hold = self.hold.clear_of(through(self.operations, self.hold))
        if machine.nose is not None:
            self.operations = [replace(op, tool=self.bench.library.at_counter(op.tool)) for op in self.operations]
        used = {op.tool.id: op.tool for op in self.operations}
        to_set = tuple(tool for id, tool in used.items() if id not in self.tools_there)
        return BuiltSetup(
            self.hold, self.stands, self.found, self.lowest, self.ways[0], tuple(self.operations),
            tuple(self.findings), self.before, after, to_set,
            tuple(self.left_out), self.blank,
        )  # fmt: skip

    def lowest(self, frame: Frame) -> float | None:
        """The lowest level that this setup would cut beside the part, in the holding's axes."""
        if frame not in self._lowest:
            self._lowest[frame] = self._lowest_in(frame)
        return self._lowest[frame]

    def _lowest_in(self, frame: Frame) -> float | None:
        part, setup = self.bench.part, self.setup
        if setup.part_turns:
            return self._lowest_turned(frame)
        if self.around:
            return self.level.box(part.model.solid.bounds).min[2] - BELOW_FLOOR
        first = [f for f in self.inner if way_of(part, f, setup, self.axis) == DIRECTIONS[setup.up]]
        return lowest_outside(part, frame, first, self.wanted if self.before.walls is not None else None)

    def _lowest_turned(self, frame: Frame) -> float | None:
        part, setup = self.bench.part, self.setup
        up = DIRECTIONS[setup.up]
        walls = [f for f in self.inner if flat_side(f) is None and not (isinstance(f, Hole) and f.on_axis)]
        levels = [levels_of(part, f, up)[0] for f in walls]
        levels += [recess.low - HEAD for recess, _ in features_in(part, walls, up)]
        # a driven tool across is wider than what it makes: a spot drill, a mill that runs out
        levels += [levels_of(part, f, up)[0] - ACROSS for f in self.features if comes_across(part, f, setup)]
        if self.wanted is not None and self.before.walls is not None:
            levels.append(self.wanted[1])
        if setup.cut_off is not None:
            levels.append(frame.box(part.model.solid.bounds).min[2] - setup.cut_off - BLADE)
        return min(levels, default=None)

    def at(self, one: Way, boxes: tuple[Bounds, ...], lowest: float) -> Workplace:
        bench, machine = self.bench, self.bed.machine
        across = self.stands.is_across(one.frame)
        # a turret's driven tool stands along the spindle or across it, never both
        there = [op for op in self.operations if not machine.turns_work or self.stands.is_across(op.frame) == across]
        used = frozenset(op.tool.id for op in there)
        return Workplace(
            bench.part, bench.plan, self.setup.id, self.hold, bench.library, bench.material, machine, one, boxes,
            lowest, used, self.tools_there, frozenset(f for op in self.operations for f in op.features),
            blank=self.blank,
        )  # fmt: skip

    def _own(self, one: Way, features: Sequence[Feature]) -> list[Feature]:
        return [f for f in features if way_of(self.bench.part, f, self.setup, self.axis) == one.direction]

    def _take(self, place: Workplace) -> None:
        self.operations += safe_operations(place)
        self.findings += place.findings
        self.left_out += place.left_out

    def _turned(self) -> StockState:
        """In a lathe: the outside and the bores on the axis first, then what driven tools make."""
        part, after = self.bench.part, self.before
        for one in self.ways:
            own = self._own(one, self.features)
            place = self.at(one, tuple(one.frame.box(b) for b in after.boxes()), self.hold.lowest_outside_cut)
            place.top = place.stock.max[2]
            if one is self.ways[0] and one.direction == DIRECTIONS[self.setup.up]:
                turned = [f for f in own if turned_from(part, f, one.direction)]
                after = turn(place, turned, after, self.axis)
                inner, off_axis = _turned_to_reach([f for f in own if f not in turned], place, self.stands)
                cut_inner(place, inner)
                for facing, hole in off_axis:
                    there = self.at(facing, tuple(facing.frame.box(b) for b in after.boxes()), place.lowest)
                    there.top = place.top
                    there.done |= {f for op in place.operations for f in op.features}
                    cut_inner(there, [hole])
                    self._take(there)
            else:
                place.lowest = -1e9
                cut_inner(place, own)
                if own:
                    after = after.flattened(*(s for s, d in DIRECTIONS.items() if dot(d, one.direction) > 0.999))
            self._take(place)
        return after

    def _around(self) -> StockState:
        """Side by side, as a rotary brings them up."""
        limit = max(self.hold.lowest_outside_cut, self.hold.held.box.min[2] - BELOW_FLOOR)
        facing = [(f, way_of(self.bench.part, f, self.setup, self.axis)) for f in self.features]
        operations, findings, after = index_around(
            self.at, self.setup, self.hold, self.ways, facing, self.before, self.axis, limit
        )
        self.operations += operations
        self.findings += findings
        return after

    def _upright(self) -> StockState:
        """From above, and from other sides where the machine brings them up; the outline with the first."""
        plan, after = self.bench.plan, self.before
        for k, one in enumerate(self.ways):
            own = self._own(one, self.inner)
            lowest = self.hold.lowest_outside_cut if k == 0 else -1e9
            place = self.at(one, tuple(one.frame.box(b) for b in after.boxes()), lowest)
            if k == 0:
                after = cut_from_above(place, self.setup, self.axis, own, self.outline, self.wanted, after)
                position = [s.id for s in plan.setups].index(self.setup.id)
                probe_operations(place, own, position, sorted(self.bench.made))
            else:
                place.top = place.stock.max[2]
                cut_inner(place, own)
            engrave_operations(place, self.features)
            self._take(place)
        return after


def _turned_to_reach(
    features: Sequence[Feature], place: Workplace, stands: Standing
) -> tuple[list[Feature], list[tuple[Way, Hole]]]:
    """Holes beside a lathe's axis: where X and Y do not come to all of them, the spindle brings each of them to X."""
    (low, high), (front, back), _ = place.machine.travel
    off = [f for f in features if isinstance(f, Hole) and not f.on_axis]
    spots = [stands.on_lathe(place.frame, place.frame.point(f.position)) for f in off]
    if all(low <= 2 * x <= high and front <= y <= back for x, y, _ in spots):
        return list(features), []
    turned = [(turned_to(f.position, stands.foot, place.way), f) for f in off]
    return [f for f in features if f not in off], sorted(turned, key=lambda one: one[0].angle)


def _not_probing(setup: SetupDecision) -> Finding:
    return Finding(
        "not-probed", Severity.WARNING, Chapter.SETUPS, f"Nothing is probed in setup {setup.id}.",
        "A probe feels from the setup's own side up, on a mill: not where sides are turned up, and not in a lathe.",
        setup.id,
        cures=tuple(Cure(f"Do not probe {what}", {"change": "set-probe", "setup": setup.id, "what": what, "on": False})
                    for what in setup.probes),
    )  # fmt: skip


def _not_indexing(setup: SetupDecision, machine: Machine, library: Library) -> Finding:
    able = ", ".join(m.name for m in library.machines if m.indexes_work)
    return Finding(
        "no-rotary", Severity.ERROR, Chapter.SETUPS, f"{machine.name} has no axis to turn setup {setup.id} by.",
        f"It is cut from several sides in one clamping. These turn it: {able or 'none in this shop'}.", setup.id,
        cures=(Cure(f"Cut from {setup.up} only", {"change": "set-indexed", "setup": setup.id, "free": None}),),
    )  # fmt: skip
