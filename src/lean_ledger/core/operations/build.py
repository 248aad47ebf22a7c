"""All operations of one setup, from its features and the stock it finds; and the stock that it leaves."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace

from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.features import Feature, Hole, flat_side
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.holding import Found, Hold, resolve_hold
from lean_ledger.core.holding.placement import Bed
from lean_ledger.core.holding.resolve import Lowest, holding_side
from lean_ledger.core.holding.standing import Standing, standing
from lean_ledger.core.operations.milling.engraving import engrave_operations
from lean_ledger.core.operations.milling.from_above import cut_from_above, cut_inner, lowest_outside, outline_range
from lean_ledger.core.operations.milling.indexed import index_around
from lean_ledger.core.operations.milling.milling import BELOW_FLOOR
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.probing import probe_operations
from lean_ledger.core.operations.turning.parting import BLADE
from lean_ledger.core.operations.turning.turning import turn
from lean_ledger.core.operations.workplace import Workplace
from lean_ledger.core.part.bodies import placed_bodies
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DIRECTIONS, Plan, SetupDecision
from lean_ledger.core.setups.frame import Frame, frame_of
from lean_ledger.core.setups.profile import levels_of, turned_from
from lean_ledger.core.setups.sides import is_outline
from lean_ledger.core.setups.ways import Way, comes_across, turned_to, turns_sides_up, used_ways, way, way_of
from lean_ledger.core.stock import StockState
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Library, Material, Tool

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


@dataclass(frozen=True)
class Bench:
    """What all setups of a plan are made with, and what the setups before made and left in the machines."""

    part: Part
    plan: Plan
    library: Library
    material: Material
    made: frozenset[str] = frozenset()  # features
    left: tuple[tuple[str, str], ...] = ()  # machine and tool

    def standing(self, machine: Machine) -> frozenset[str]:
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
    bench: Bench, setup: SetupDecision, features: Sequence[Feature], state: StockState, bed: Bed
) -> BuiltSetup:
    """Operations without an order yet; their precedences stand in each operation's `after`."""
    part, plan, library, machine = bench.part, bench.plan, bench.library, bed.machine
    axis, side = plan.outline_axis, holding_side(setup)
    outline = [f for f in features if is_outline(part, f, axis)]
    inner = [f for f in features if f not in outline]
    around = turns_sides_up(part, setup, axis)
    level = frame_of(side, 0)
    wanted = outline_range(part, level, axis, state) if outline and not around else None

    def lowest(frame: Frame) -> float | None:
        if setup.part_turns:
            up = DIRECTIONS[setup.up]
            walls = [f for f in inner if flat_side(f) is None and not (isinstance(f, Hole) and f.on_axis)]
            levels = [levels_of(part, f, up)[0] for f in walls]
            # a driven tool across is wider than what it makes: a spot drill, a mill that runs out
            levels += [levels_of(part, f, up)[0] - ACROSS for f in features if comes_across(part, f, setup)]
            if wanted is not None and state.walls is not None:
                levels.append(wanted[1])
            if setup.cut_off is not None:
                levels.append(frame.box(part.model.solid.bounds).min[2] - setup.cut_off - BLADE)
            return min(levels, default=None)
        if around:
            return level.box(part.model.solid.bounds).min[2] - BELOW_FLOOR
        first = [f for f in inner if way_of(part, f, setup, axis) == DIRECTIONS[setup.up]]
        return lowest_outside(part, frame, first, wanted if state.walls is not None else None)

    here = frozenset(f.id for f in features)
    found = Found(part, state, bench.made, here, bench.tapped, placed_bodies(part, plan))
    hold = resolve_hold(setup, found, library, bed, lowest)
    stands = standing(setup, hold, bed)
    ways = [way(setup, d, hold.frame, stands.level) for d in used_ways(part, features, setup, axis)]
    operations: list[Operation] = []
    findings: list[Finding] = []
    if setup.free is not None and not machine.indexes_work:
        findings.append(_not_indexing(setup, machine, library))
    after = state
    standing_tools = bench.standing(machine)

    def at(one: Way, boxes: tuple[Bounds, ...], lowest: float) -> Workplace:
        across = stands.is_across(one.frame)
        # a turret's driven tool stands along the spindle or across it, never both
        there = [op for op in operations if not machine.turns_work or stands.is_across(op.frame) == across]
        used = frozenset(op.tool.id for op in there)
        return Workplace(
            part, plan, setup.id, hold, library, bench.material, machine, one, boxes, lowest, used, standing_tools
        )

    if setup.part_turns:
        for one in ways:
            own = [f for f in features if way_of(part, f, setup, axis) == one.direction]
            place = at(one, tuple(one.frame.box(b) for b in after.boxes()), hold.lowest_outside_cut)
            place.top = place.stock.max[2]
            if one is ways[0] and one.direction == DIRECTIONS[setup.up]:
                turned = [f for f in own if turned_from(part, f, one.direction)]
                after = turn(place, turned, after, axis)
                inner, off_axis = _turned_to_reach([f for f in own if f not in turned], place, stands)
                cut_inner(place, inner)
                for facing, hole in off_axis:
                    there = at(facing, tuple(facing.frame.box(b) for b in after.boxes()), place.lowest)
                    there.top = place.top
                    cut_inner(there, [hole])
                    operations += there.operations
                    findings += there.findings
            else:
                place.lowest = -1e9
                cut_inner(place, own)
            operations += place.operations
            findings += place.findings
    elif around:
        limit = max(hold.lowest_outside_cut, hold.held.box.min[2] - BELOW_FLOOR)
        operations, more, after = index_around(
            at, setup, hold, ways, [(f, way_of(part, f, setup, axis)) for f in features], state, axis, limit
        )
        findings += more
    else:
        for k, one in enumerate(ways):
            own = [f for f in inner if way_of(part, f, setup, axis) == one.direction]
            place = at(one, tuple(one.frame.box(b) for b in after.boxes()), hold.lowest_outside_cut if k == 0 else -1e9)
            if k == 0:
                after = cut_from_above(place, setup, axis, own, outline, wanted, after)
                probe_operations(place, own, [s.id for s in plan.setups].index(setup.id), sorted(bench.made))
            else:
                place.top = place.stock.max[2]
                cut_inner(place, own)
            engrave_operations(place, features)
            operations += place.operations
            findings += place.findings
    if setup.probes and (around or setup.part_turns):
        findings.append(_not_probing(setup))
    used = {op.tool.id: op.tool for op in operations}
    to_set = tuple(tool for id, tool in used.items() if id not in standing_tools)
    return BuiltSetup(hold, stands, found, lowest, ways[0], tuple(operations), tuple(findings), state, after, to_set)


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
