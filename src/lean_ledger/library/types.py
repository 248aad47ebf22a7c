"""What a shop has. Lengths mm, times s, speeds mm/min and rpm, money as Decimal."""

from __future__ import annotations

import itertools
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from decimal import Decimal
from enum import StrEnum
from functools import cached_property
from math import pow, sqrt
from typing import Literal

from lean_ledger.library.chains import ChainRule
from lean_ledger.library.fixtures import Carrier, Fixture, Vise
from lean_ledger.library.machines import Machine


class ToolKind(StrEnum):
    FACE_MILL = "face_mill"
    END_MILL = "end_mill"
    DRILL = "drill"
    SPOT_DRILL = "spot_drill"
    TAP = "tap"
    THREAD_MILL = "thread_mill"  # all teeth of one pitch over its cutting length
    REAMER = "reamer"
    BORING_HEAD = "boring_head"  # one edge, set from `diameter` to `widest`; `cutting_length` is its deepest bore
    CHAMFER_MILL = "chamfer_mill"
    COUNTERSINK = "countersink"
    TURNING = "turning"  # an insert that faces and turns the outside; `diameter` is 0
    BORING_BAR = "boring_bar"  # `diameter` is the least bore that it goes into
    GROOVING = "grooving"  # `diameter` is its width
    BALL_MILL = "ball_mill"  # its corner radius is half its diameter
    T_SLOT_MILL = "t_slot_mill"  # a head of `diameter` and `cutting_length` under a `neck`
    DOVETAIL_MILL = "dovetail_mill"  # `diameter` at its end, `tip_angle` of its flank to the end
    THREADING = "threading"  # an insert that turns threads outside; `cutting_length` is its deepest thread
    BORE_GROOVING = "bore_grooving"  # `diameter` is the least bore, `width` that of its insert
    PROFILING = "profiling"  # pointed, square at the axis, `tip_angle` wide; `cutting_length` is its deepest recess
    PROBE = "probe"  # a ball that feels the work

    @property
    def is_insert(self) -> bool:
        """Whether it stands beside work that turns."""
        return self in (
            ToolKind.TURNING, ToolKind.BORING_BAR, ToolKind.GROOVING, ToolKind.BORE_GROOVING, ToolKind.THREADING,
            ToolKind.PROFILING,
        )  # fmt: skip


@dataclass(frozen=True)
class Holder:
    """What a tool is held in: the nose's diameter, or a turning shank's height, and its length from the spindle, mm."""

    id: str
    description: str
    diameter: float
    length: float


@dataclass(frozen=True)
class Tool:
    number: int
    id: str
    kind: ToolKind
    family: str
    description: str
    diameter: float
    flutes: int
    corner_radius: float
    tip_angle: float  # included, degrees; 0 where it has no meaning
    cutting_length: float
    reach: float  # from the holder's nose to the tip
    pitch: float  # of a tap or a thread mill
    holder: Holder
    price: Decimal
    material: Literal["carbide", "hss"] = "carbide"
    overall: float = 0.0  # from end to end; 0 where it is not known
    neck: float = 0.0  # diameter of the shank behind a head that is wider
    width: float = 0.0  # of an insert that plunges from inside
    widest: float = 0.0  # that an edge can be set to

    @property
    def gauge(self) -> float:
        """From the spindle's nose to the tip."""
        return self.holder.length + self.reach


FURTHER = "#"
WHICH = {"2": "second", "3": "third", "4": "fourth"}
IN_COUNTER = "c"  # of the tool that stands the other way, for a counter spindle


def further(tool: str) -> str:
    """The id of one more tool of a kind; empty where there are as many as there may be."""
    name, _, which = tool.partition(FURTHER)
    following = str(int(which or "1") + 1) if which != IN_COUNTER else ""
    return f"{name}{FURTHER}{following}" if following in WHICH else ""


MOST_LIFE = 4.0
LEAST_LIFE = 0.001  # minutes
FARTHEST = 100.0  # times the usual speed or feed, beyond which tool life is not followed


@dataclass(frozen=True)
class CuttingData:
    family: str
    material: str
    vc: float  # m/min
    fz: tuple[tuple[float, float], ...]  # (diameter, mm per tooth), linear between
    life_minutes: float  # in cut, at this speed and feed
    source: str
    vc_most: float  # m/min that the tool stands at the most
    fz_most: float  # times the usual feed per tooth that it stands at the most
    life_vc: float  # life falls with speed to this power (Taylor), and with feed to the next
    life_fz: float

    @property
    def speed_most(self) -> float:
        """Times the usual speed."""
        return self.vc_most / self.vc

    def life_at(self, speed: float, feed: float) -> float:
        """Minutes in cut at so many times the usual speed and feed per tooth: T = T0·speed^−p·feed^−q.

        F. W. Taylor, On the Art of Cutting Metals, 1907, with the feed as in its extended form. Below the usual values
        life grows no further than MOST_LIFE times: other wear ends it. Nor is it less than LEAST_LIFE: far beyond the
        usual the law says nothing, and an edge that fails at once has cut for a moment.
        """
        s, f = (min(max(ratio, 1 / FARTHEST), FARTHEST) for ratio in (speed, feed))
        times = min(MOST_LIFE, pow(s, -self.life_vc) * pow(f, -self.life_fz))
        return max(LEAST_LIFE, self.life_minutes * times)

    def fz_at(self, diameter: float) -> float:
        points = self.fz
        if diameter <= points[0][0]:
            return points[0][1] * diameter / points[0][0]
        for (d0, f0), (d1, f1) in itertools.pairwise(points):
            if diameter <= d1:
                return f0 + (f1 - f0) * (diameter - d0) / (d1 - d0)
        return points[-1][1]


@dataclass(frozen=True)
class Material:
    id: str
    name: str
    density: Decimal  # g/cm³
    price_per_kg: Decimal
    kc: float  # N/mm²
    rough_ap: float  # × diameter
    rough_ae: float  # × diameter
    engaged_ap: float  # × diameter, at constant engagement
    engaged_ae: float  # × diameter
    face_ap: float  # mm
    ramp_angle: float  # degrees
    wall_allowance: float  # mm that roughing leaves
    modulus: float  # Young's, N/mm²
    yield_strength: float  # N/mm²

    def kg(self, volume: float) -> float:
        """Mass of a volume in mm³: 1000 mm³ at 2.70 g/cm³ are 0.0027 kg."""
        return volume * float(self.density) / 1e6


@dataclass(frozen=True)
class Thread:
    name: str
    series: str
    major: float
    pitch: float
    tap_drill: float

    def fits(self, diameter: float) -> bool:
        """Whether a hole modelled so can be meant: from the tap drill (less 0.1) up to the major diameter.

        Modelled threads have the basic minor diameter, D − 1.0825 P (ISO 68-1), which may be less still.
        """
        least = min(self.tap_drill - 0.1, self.major - 1.0825 * self.pitch - 0.02)
        return least <= diameter <= self.major + 0.05

    def fits_outside(self, diameter: float) -> bool:
        """Whether a cylinder turned so carries it: its major diameter, or a little less (6g of M24 has 0.4 at most)."""
        return self.major - 0.4 <= diameter <= self.major + 0.05


@dataclass(frozen=True)
class Rates:
    """What a plan is priced with where it says nothing else."""

    labour_rate: Decimal
    attendance: Decimal
    setup_hours_base: Decimal
    setup_hours_per_tool: Decimal
    setup_hours_per_place: Decimal  # each fixture or zero of a load after the first, to set and touch off
    programming_hours_per_setup: Decimal
    programming_hours_per_operation: Decimal
    programming_rate: Decimal
    inspection_seconds: Decimal
    inspection_rate: Decimal
    fixtures: Decimal
    scrap: Decimal
    overhead: Decimal
    margin: Decimal
    kerf: Decimal
    bar_length: Decimal
    remnant: Decimal
    cut_charge: Decimal


@dataclass(frozen=True)
class StockSizes:
    """What dealers keep, mm: diameters, across flats, width and thickness, thickness."""

    round: tuple[float, ...]
    hexagonal: tuple[float, ...]
    rectangular: tuple[tuple[float, float], ...]
    plate: tuple[float, ...]


@dataclass(frozen=True)
class Judgement:
    """What is thought of a kind of times before any was measured, as shares of an estimate (one standard deviation):
    how far a machine's factor lies from 1, one program from another, one run from another; `worth` so many runs.
    """

    machine: float
    program: float
    run: float
    worth: float


@dataclass(frozen=True)
class Measured:
    """A factor that estimates of a machine are taken times: of a category of its time, of loading or of setting up.

    `off` is its standard deviation; `programs` and `runs` that it was measured by.
    """

    machine: str
    category: str
    factor: Decimal
    off: float
    programs: int
    runs: int

    @property
    def words(self) -> str:
        return f"× {self.factor:.3f} {self.seen}"

    @property
    def seen(self) -> str:
        runs = f"{self.runs} run{'s' if self.runs != 1 else ''}"
        programs = f"{self.programs} program{'s' if self.programs != 1 else ''}"
        return f"± {self.off:.3f}, measured on {runs} of {programs}"


def next_spread(seen: Measured, judged: Judgement, used: Decimal) -> float:
    """How far the next program's time may be off, as a share of what is estimated at the factor that is `used`: what it
    is known to miss by, its own spread and that of programs are independent.

    1.052 ± 0.030 where programs differ by 0.03, in use: √(0.030² + 0.03²) / 1.052 = 0.040; estimated by the machine's
    data, at 1: √(0.052² + 0.030² + 0.03²) = 0.067.
    """
    return sqrt(float(seen.factor - used) ** 2 + seen.off**2 + judged.program**2) / float(used)


@dataclass(frozen=True)
class SetAside:
    """A row of the shop's own that cannot be read or used, and why: what ships stands in its place, or nothing."""

    what: str
    key: str
    why: str


@dataclass(frozen=True)
class Library:
    machines: tuple[Machine, ...]
    fixtures: tuple[Fixture, ...]
    carriers: tuple[Carrier, ...]
    holders: tuple[Holder, ...]
    tools: tuple[Tool, ...]
    cutting: tuple[CuttingData, ...]
    materials: tuple[Material, ...]
    threads: tuple[Thread, ...]
    rates: Rates
    stock: StockSizes
    chains: tuple[ChainRule, ...]
    spreads: Mapping[str, Mapping[str, Decimal]] = field(hash=False)  # of figures of a price, by their source
    judgements: Mapping[str, Judgement] = field(hash=False)  # of "run", "loading" and "setting up"
    magazines: tuple[tuple[str, tuple[str, ...]], ...] = ()  # by machine: ids of the tools that stand in it
    measured: tuple[Measured, ...] = ()  # factors that are in use
    set_aside: tuple[SetAside, ...] = ()  # rows of the shop's own that cannot be used

    def measured_on(self, machine: str) -> tuple[Measured, ...]:
        return tuple(one for one in self.measured if one.machine == machine)

    def judged(self, category: str) -> Judgement:
        """Of a category of a machine's time, of loading or of setting up."""
        return self.judgements.get(category) or self.judgements["run"]

    def in_machine(self, machine: Machine) -> tuple[str, ...]:
        """Ids of the tools that stand set up in a machine, whatever job comes next; a lathe's by their stations."""
        return next((tools for id, tools in self.magazines if id == machine.id), ())

    def chain(self, id: str) -> ChainRule | None:
        return next((rule for rule in self.chains if rule.id == id), None)

    def machine(self, id: str) -> Machine | None:
        return next((m for m in self.machines if m.id == id), None)

    def fixture(self, id: str) -> Fixture | None:
        return next((f for f in self.fixtures if f.id == id), None)

    def carrier(self, id: str) -> Carrier | None:
        return next((c for c in self.carriers if c.id == id), None)

    @property
    def vises(self) -> tuple[Vise, ...]:
        """With ground jaws and one station: what the rule takes where nothing else is decided."""
        return tuple(f for f in self.fixtures if isinstance(f, Vise) and f.jaws == "ground" and f.stations == 1)

    def tool(self, id: str) -> Tool | None:
        """By its id, or a further one of its kind in a pocket of its own: `E10#2`, with a number of its own."""
        known = next((t for t in self.tools if t.id == id), None)
        name, _, which = id.partition(FURTHER)
        found = next((t for t in self.tools if t.id == name), None)
        if known is not None or found is None or which not in (*WHICH, IN_COUNTER):
            return known
        numbers = 10 ** len(str(max(t.number for t in self.tools)))
        number = found.number + (int(which) - 1 if which in WHICH else len(WHICH) + 1) * numbers
        words = WHICH.get(which, "for the counter spindle")
        return replace(found, id=id, number=number, description=f"{found.description}, {words}")

    def at_counter(self, tool: Tool) -> Tool:
        """The one of its kind that stands the other way, for a counter spindle."""
        return tool if FURTHER in tool.id else self.tool(f"{tool.id}{FURTHER}{IN_COUNTER}") or tool

    def material(self, id: str) -> Material | None:
        return next((m for m in self.materials if m.id == id), None)

    def thread(self, name: str) -> Thread | None:
        return next((t for t in self.threads if t.name == name), None)

    def data(self, tool: Tool, material: Material) -> CuttingData | None:
        """Cutting data of a tool in a material; None where the tool is not meant for it."""
        return self._cutting_of.get((tool.family, material.id))

    @cached_property
    def _cutting_of(self) -> dict[tuple[str, str], CuttingData]:
        """By family and material; of several rows the first."""
        return {(row.family, row.material): row for row in reversed(self.cutting)}
