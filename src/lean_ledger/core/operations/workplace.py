"""What a setup's operations are made at: the part as it is clamped, the machine, the tools, what was decided."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property

from shapely.geometry import LineString

from lean_ledger.core.basis.findings import Chapter, Cure, Figure, Finding, Severity
from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.holding import Hold
from lean_ledger.core.holding.obstacles import Obstacle
from lean_ledger.core.operations.beyond import say_beyond_limits
from lean_ledger.core.operations.cutting.choose import AtHand
from lean_ledger.core.operations.cutting.conditions import Settled, power_of
from lean_ledger.core.operations.in_blank import InBlank, Rectangle
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.many import Led
from lean_ledger.core.operations.milling.slowed import Lines, Mill, Slowed, Standing, in_stock, lines_of, slowed
from lean_ledger.core.operations.milling.surface_paths import Over
from lean_ledger.core.operations.model import Cutting, Depth, Motion, Operation
from lean_ledger.core.operations.safe.off_part import STRAY, Keep, Kept, fixture_along, kept_off
from lean_ledger.core.operations.safe.ridges import ridges_along
from lean_ledger.core.operations.safe.shadows import bores_along, part_above
from lean_ledger.core.operations.safe.short_holes import elsewhere, held_longer, other_side, stays_in_hole
from lean_ledger.core.operations.safe.withheld import without
from lean_ledger.core.operations.timed import on_path, slowed_figures, time_figures, timed
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import OperationEdit, Plan
from lean_ledger.core.setups.frame import Frame
from lean_ledger.core.setups.ways import Way
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Library, Material, Tool, ToolKind

CLEARANCE = 5.0  # mm of the clearance plane above the stock
SPENT_WITH_CHANGE = 3.0  # s of ways to and from the change position, and of the spindle's start
#: mm that a path may come nearer to the part: a spot breaks the edge of a hole by 0.2, bevels and outlines are chords
ASTRAY = {
    OperationKind.SPOT: 0.22, OperationKind.CHAMFER: 0.1, OperationKind.COUNTERSINK: 0.1,
    OperationKind.ROUGH_OUTLINE: 0.03, OperationKind.FINISH_OUTLINE: 0.03,
}  # fmt: skip
#: Tools whose cut is as wide as they are, nearly from their tip on.
FLAT_ENOUGH = (ToolKind.END_MILL, ToolKind.FACE_MILL, ToolKind.DRILL)
ALONG_WALLS = (OperationKind.FINISH_WALL, OperationKind.FINISH_OUTLINE)
WALL = 0.1  # mm by which the part has to stand higher beside a path to count as a higher wall


@dataclass(frozen=True)
class Named:
    """What an operation is: of which features, in which chain; `outer` where it works on the outside of the part."""

    id: str
    kind: OperationKind
    name: str
    features: tuple[str, ...]
    chain: str
    outer: bool = False


@dataclass
class Workplace:
    """Collects the operations and findings of one setup. Levels are in setup coordinates."""

    part: Part
    plan: Plan
    setup: str
    hold: Hold
    library: Library
    material: Material
    machine: Machine
    way: Way
    boxes: tuple[Bounds, ...]  # the stock, in the way's axes
    lowest: float  # below which no cut outside the part's outline may go, in the way's axes
    in_use: frozenset[str] = frozenset()  # tools of the setup's operations from other ways
    in_machine: frozenset[str] = frozenset()  # tools that need no setting up
    done: frozenset[str] = frozenset()  # features that the setup has made from other ways
    top: float = 0.0  # of the material once the top is faced
    suffix: str = ""  # of the ids of operations, where a feature is made from two sides
    operations: list[Operation] = field(default_factory=list)
    findings: list[Finding] = field(default_factory=list)
    measured: dict[str, Depth] = field(default_factory=dict)  # by operation, before it is added
    cut_along: dict[str, Lines] = field(default_factory=dict)  # by operation, as it came and not parted
    later: set[str] = field(default_factory=set)  # operations that come after the outline, in a bar
    withheld: set[str] = field(default_factory=set)  # operations that cannot be made without harm
    left_out: list[Operation] = field(default_factory=list)  # these, as they would have been
    led: Led = field(default_factory=Led)  # of many alike features the first one's values are those of all
    blank: InBlank | None = None  # where the piece stays in one bar or plate with others

    @property
    def frame(self) -> Frame:
        return self.way.frame

    @cached_property
    def stock(self) -> Bounds:
        low = tuple(min(b.min[i] for b in self.boxes) for i in range(3))
        high = tuple(max(b.max[i] for b in self.boxes) for i in range(3))
        return Bounds(low, high)  # type: ignore[arg-type]

    @cached_property
    def box(self) -> Bounds:
        return self.frame.box(self.part.model.solid.bounds)

    @cached_property
    def fixture(self) -> tuple[Obstacle, ...]:
        """What holds the part, as far as tools from this way are kept off it."""
        return fixture_along(self.hold, self.frame)

    @property
    def clearance(self) -> float:
        return self.stock.max[2] + CLEARANCE

    @property
    def over(self) -> float:
        """A level that is clear of the stock and of what holds the part."""
        return max([self.clearance, *(one.box.max[2] + CLEARANCE for one in self.fixture)])

    @property
    def stock_rectangle(self) -> tuple[float, float, float, float]:
        stock = self.stock
        return (stock.min[0], stock.min[1], stock.max[0], stock.max[1])

    @property
    def standing_rectangle(self) -> Rectangle:
        """Where stock stands beside the part: in one bar with others up to the next parts."""
        return self.stock_rectangle if self.blank is None else self.blank.standing(self.box, self.stock)

    @property
    def between_parts(self) -> Rectangle | None:
        """Within which a tool stays that comes out of the part in one bar with others."""
        return None if self.blank is None else self.blank.limit(self.box, self.stock, self.material.wall_allowance)

    @property
    def around_rectangle(self) -> Rectangle:
        """What a mill takes around the part in steps from its edge inward."""
        return self.stock_rectangle if self.blank is None else self.blank.around(self.box, self.stock)

    @property
    def hand(self) -> AtHand:
        """The tools that are there anyway. Setting one up is spread over the plan's first quantity."""
        used = frozenset(op.tool.id for op in self.operations)
        hours = float(self.library.rates.setup_hours_per_tool)
        return AtHand(
            self.in_use | used, self.in_machine, (self.machine.tool_change + SPENT_WITH_CHANGE) / 60,
            hours * 60 / self.plan.quantities[0],
        )  # fmt: skip

    def z(self, point: Vec) -> float:
        return round(self.frame.point(point)[2], 5)

    def id_of(self, group: str, kind: OperationKind, extra: str = "") -> str:
        return f"{self.setup}.{group}.{kind.value.replace(' ', '-')}{extra}{self.suffix}"

    def edit(self, operation: str) -> OperationEdit:
        return self.plan.edit_of(self.led.operation(operation))

    def tool(self, operation: str, kind: OperationKind, rule: Tool | None) -> Tool | None:
        """The tool set by hand where there is one, else the rule's.

        A tool that is not in the library, of a wrong kind or without data for the material is a finding, and the
        rule's choice stands.
        """
        wanted = self.edit(operation).tool
        if wanted is None:
            first = self.led.operation(operation)
            leads = next((op for op in self.operations if op.id == first != operation), None)
            return leads.tool if leads is not None and rule is not None else rule
        tool = self.library.tool(wanted)
        if tool is None:
            why = f"The library has no tool {wanted}."
        elif tool.kind not in kind.tool_kinds:
            why = f"{tool.description} is no {' or '.join(k.value.replace('_', ' ') for k in kind.tool_kinds)}."
        elif self.library.data(tool, self.material) is None:
            why = f"There is no cutting data for {tool.description} in {self.material.name}."
        else:
            return tool
        self.find(
            "tool-unusable",
            Severity.ERROR,
            f"The tool chosen for {self.led.operation(operation)} cannot be used.",
            why,
            operation=operation,
            cures=(
                Cure("Let the rule choose", {"change": "edit-operation", "operation": operation, "clear": ["tool"]}),
            ),
        )
        return rule

    def add(
        self, named: Named, tool: Tool, settled: Settled, motion: Motion, *, depth: float,
        figures: tuple[Figure, ...] = (),
    ) -> Operation:  # fmt: skip
        kept = self._kept_off(named, tool, motion)
        depth -= kept.shallower
        path = kept.path or motion
        if named.kind == OperationKind.ROUGH_OUTLINE and named.id not in self.withheld:
            path = self._in_stock(tool, settled, path)
        self.cut_along[named.id] = lines_of(path)
        fed = self.fed(named, tool, settled, path, depth)
        motion = fed.motion
        time = timed(Same(motion), self.machine)
        reversal = motion.reversals * self.machine.spindle.start
        operation = Operation(
            id=named.id,
            setup=self.setup,
            kind=named.kind,
            name=named.name,
            features=named.features,
            tool=tool,
            cutting=settled.cutting,
            motion=motion,
            time=time,
            reversal_seconds=reversal,
            depth=round(depth, 4),
            figures=settled.figures
            + figures
            + slowed_figures(settled.cutting, fed)
            + time_figures(settled.cutting, time, reversal, motion),
            outer=named.outer,
            chain=named.chain,
            power=max(settled.power, power_of(fed.rate, self.material.kc)),
            power_limit=settled.power_limit,
            rate=fed.rate,
            way=self.way,
            measured=self.measured.get(named.id),
            direction=(self.edit(named.id).direction or "climb") if named.kind.follows_walls else None,
        )
        self.operations.append(operation)
        say_beyond_limits(self, operation)
        return operation

    def comes_down(self, named: Named, tool: Tool, motion: Motion) -> bool:
        """Whether anything of a path is left that cuts neither the part nor what holds it."""
        return self._off(named, tool, motion).path is not None

    def goes_as_it_is(self, named: Named, tool: Tool, motion: Motion) -> bool:
        """Whether a path cuts neither the part nor what holds it, and goes over that everywhere."""
        return self._off(named, tool, motion).path is motion

    def _off(self, named: Named, tool: Tool, motion: Motion, *, held: bool = True) -> Kept:
        """Off the part and, where it is `held`, off what holds it."""
        measured = self.measured.get(named.id)
        if motion.turns or motion.probes or named.kind.cuts_into_part or (measured is not None and measured.words):
            return Kept(motion)
        solid = self.part.model.solid
        over, bores = Over(solid.mesh, self.frame), bores_along(Same(solid), self.frame)
        ridges = ridges_along(Same(solid), self.frame) if tool.kind == ToolKind.BALL_MILL else ()
        astray = ASTRAY.get(named.kind, STRAY)
        fixture = self.fixture if held else ()
        if motion.cycle is not None and self.frame == self.hold.frame:
            fixture = tuple(one for one in fixture if one not in self.hold.drilled_free)
        keep = Keep(over, bores, ridges, fixture, self.clearance, self.stock.max[2], astray)
        return kept_off(Same(motion), tool, keep)

    def _kept_off(self, named: Named, tool: Tool, motion: Motion) -> Kept:
        """The path without what would cut the part or what holds it; where nothing remains, it is withheld.

        A depth that was set by hand stands, with the finding that it has.
        """
        kept = self._off(named, tool, motion)
        if kept.path is None and named.kind == OperationKind.SPOT:
            self.withheld.add(named.id)
            self.find(
                "no-spot", Severity.WARNING, f"“{named.name}” is left out: no spot drill comes down there.",
                f"{tool.description} would cut what stands beside the hole, which is drilled without it: where the "
                "surface is curved or slanted the drill may wander. A thinner one, or a stub drill, would do.",
                features=named.features, operation=named.id,
            )  # fmt: skip
            return Kept(motion)
        if kept.path is None:
            self.withheld.add(named.id)
            in_the_way = self._off(named, tool, motion, held=False).path is not None
            own = self.part, self.plan, self.setup, self.hold
            longer = held_longer(*own, self.frame.up, named.features, tool) if in_the_way else ()
            over = other_side(*own, named.features, tool) if motion.cycle is not None else ()
            self.find(
                "would-cut", Severity.ERROR,
                f"“{named.name}” is left out: {tool.description} would cut the part or what holds it.",
                "All of its way comes nearer than the tool is thick. Take a thinner or a longer one, another side, or "
                "hold it otherwise.", features=named.features, operation=named.id,
                cures=(*longer, *over),
            )  # fmt: skip
            return Kept(motion)
        if not kept.whole:
            said = [f"{kept.length:.0f} mm of its way are left out."] if kept.length > 0 else []
            said += [f"{kept.holes} of its holes are left out."] if kept.holes else []
            said += [f"It goes {kept.shallower:.2f} less deep."] if kept.shallower > 0 else []
            stays = stays_in_hole(self.part, named.features, kept.holes, kept.shallower)
            if named.kind == OperationKind.DRILL and stays:
                self.find(
                    "hole-short", Severity.ERROR, f"“{named.name}” does not get to the end.",
                    f"{tool.description} stands {tool.reach:g} out of its holder, which would run into what stands "
                    f"there. {' '.join(said)} Drill from the other side, or with a longer one.",
                    features=named.features, operation=named.id,
                    cures=elsewhere(self.part, self.plan, self.setup, named.features),
                )  # fmt: skip
                return kept
            self.find(
                "way-limited", Severity.WARNING, f"“{named.name}” keeps off what its tool would cut.", " ".join(said),
                features=named.features, operation=named.id, cures=self._over_the_jaws(named, tool, motion, kept),
            )  # fmt: skip
        return kept

    def _over_the_jaws(self, named: Named, tool: Tool, motion: Motion, kept: Kept) -> tuple[Cure, ...]:
        """More stock to hold by, where only what holds the part keeps a tool that comes across it off its way."""
        free = self._off(named, tool, motion, held=False)
        if motion.cycle is not None or free.path is None or free.length >= kept.length - 1:
            return ()
        cuts = (p for s in motion.strokes if not s.is_rapid for p in s.points)
        # where its edge comes to the end of the part: farther down it runs out
        end = self.hold.held.box.min[2] + tool.diameter / 2
        lowest = max(end, min((self.hold.frame.point(self.frame.in_part(p))[2] for p in cuts), default=end))
        own = (self.part, self.plan, self.setup, self.hold, self.frame.up, named.features, tool)
        return held_longer(*own, lowest=lowest)

    def _in_stock(self, tool: Tool, settled: Settled, path: Motion) -> Motion:
        """The outline's way where stock is left of all that is made before it: it goes last."""
        mill = self._mill(tool, settled.cutting, settled.power_limit)
        before = tuple(
            (self.cut_along[op.id], op.tool) for op in without(self.operations, self.withheld)
            if op.tool.kind in FLAT_ENOUGH and op.id not in self.later
        )  # fmt: skip
        return in_stock(path, mill, Standing(self.standing_rectangle, self.stock.max[2], before), self.clearance)

    def fed(self, named: Named, tool: Tool, settled: Settled, motion: Motion, depth: float) -> Slowed:
        """The path at the feed that its engagement allows, of a mill that takes a step sideways.

        What nothing has taken before in its own chain is thought to stand: others may come after it.
        """
        cutting = settled.cutting
        if tool.kind not in (ToolKind.END_MILL, ToolKind.FACE_MILL) or named.kind.cuts_into_part or cutting.ae <= 0:
            return Slowed(motion)
        lowest = min((p[2] for s in motion.strokes if not s.is_rapid for p in s.points), default=0.0)
        before = tuple(
            (self.cut_along[op.id], op.tool)
            for op in self.operations
            if op.chain == named.chain
            and op.id != named.id
            and op.tool.kind in FLAT_ENOUGH
            and op.id not in self.withheld
        )
        mill = self._mill(tool, cutting, settled.power_limit)
        high = round(lowest + depth, 5)
        if named.kind in ALONG_WALLS and high < self.top - WALL and self._rises_beside(motion, tool, cutting.ae, high):
            high = self.top  # what roughing left on such a wall stands as high as the wall
        return slowed(motion, cutting.vf, mill, Standing(self.standing_rectangle, high, before))

    def fed_again(self, operation: Operation, before: Sequence[Operation]) -> Operation:
        """The operation at a feed for all the stock of the way, less what others have cut before it."""
        tool, cutting = operation.tool, operation.cutting
        cut = tuple((self.cut_along[op.id], op.tool) for op in before if op.tool.kind in FLAT_ENOUGH)
        mill = self._mill(tool, cutting, operation.power_limit)
        fed = slowed(operation.motion, cutting.vf, mill, Standing(self.standing_rectangle, self.stock.max[2], cut))
        rows = slowed_figures(cutting, fed)
        kept = tuple(f for f in operation.figures if f.label not in {row.label for row in rows})
        power = max(operation.power, power_of(fed.rate, self.material.kc))
        moved = self.moved(replace(operation, figures=(*kept, *rows), power=power, rate=fed.rate), fed.motion)
        return self.exchange(moved)

    def _mill(self, tool: Tool, cutting: Cutting, power_limit: float) -> Mill:
        return Mill(tool.diameter, cutting.ae, round(self._most_taken(tool, cutting, power_limit), 4))

    def _rises_beside(self, motion: Motion, tool: Tool, ae: float, level: float) -> bool:
        """Whether the part stands higher than a level where a path goes along it."""
        ways = [LineString([p[:2] for p in s.points]) for s in motion.strokes if not s.is_rapid and len(s.points) > 2]
        part = part_above(Over(self.part.model.solid.mesh, self.frame), (), level + WALL)
        beside = tool.diameter / 2 + ae
        return any(part.dwithin(way, beside) for way in ways)

    def _most_taken(self, tool: Tool, cutting: Cutting, power_limit: float) -> float:
        """mm³ for each mm of way: the operation's own ap·ae, or what the material's steps take with that tool, where
        that is more and the spindle has the power: a finishing cut stands as much in a corner as a roughing one does.
        """
        own, data, material = cutting.ap * cutting.ae, self.library.data(tool, self.material), self.material
        if data is None:
            return own
        usual = cutting.n * tool.flutes * data.fz_at(tool.diameter)
        steps = material.rough_ap * material.rough_ae * tool.diameter**2 * min(1.0, usual * cutting.feed / cutting.vf)
        return max(own, min(steps, power_limit / power_of(cutting.vf, material.kc)))

    def climbs(self, operation: str) -> bool:
        return self.edit(operation).direction != "conventional"

    def seconds(self, motion: Motion) -> float:
        """Of a path's own moves on this machine."""
        time = timed(Same(motion), self.machine)
        return time.cut + time.rapid

    def drop_withheld(self) -> None:
        """Take out what is withheld, and what goes with it."""
        self.left_out += [op for op in self.operations if op.id in self.withheld]
        self.operations = without(self.operations, self.withheld)

    def exchange(self, operation: Operation) -> Operation:
        """Put an operation in the place of the one with its id."""
        self.operations[self._index(operation.id)] = operation
        return operation

    def moved(self, operation: Operation, motion: Motion) -> Operation:
        """The operation on another path: its seconds follow."""
        return on_path(operation, motion, self.machine)

    def _index(self, id: str) -> int:
        """Looked for from the end: what is changed was mostly made last."""
        return next(i for i in range(len(self.operations) - 1, -1, -1) if self.operations[i].id == id)

    def made_by(self, rule: str, count: int) -> None:
        """Say of the last operations which rule of the shop chose them."""
        for operation in self.operations[len(self.operations) - count :]:
            self.exchange(replace(operation, rule=rule))

    def find(
        self,
        code: str,
        severity: Severity,
        title: str,
        why: str,
        *,
        chapter: Chapter = Chapter.OPERATIONS,
        features: tuple[str, ...] = (),
        operation: str = "",
        cures: tuple[Cure, ...] = (),
    ) -> None:
        self.findings.append(Finding(code, severity, chapter, title, why, self.setup, features, operation, cures))

    def lack(
        self, code: str, title: str, why: str, *, wanted: str, features: tuple[str, ...] = (),
        cures: tuple[Cure, ...] = (), severity: Severity = Severity.ERROR, chapter: Chapter = Chapter.OPERATIONS,
    ) -> None:  # fmt: skip
        """For want of a tool; `wanted` goes on the shopping list."""
        self.findings.append(Finding(code, severity, chapter, title, why, self.setup, features, "", cures, wanted))

    def require(self, operation: Operation, before: str, reason: str) -> None:
        """State that another operation must come before this one."""
        current = self.operations[self._index(operation.id)]
        if before != current.id and all(b != before for b, _ in current.after):
            self.exchange(replace(current, after=(*current.after, (before, reason))))
