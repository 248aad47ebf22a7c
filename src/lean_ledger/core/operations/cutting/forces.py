"""What an operation does to its tool and to the spindle: force, torque, power, and how far a mill bends."""

from __future__ import annotations

from dataclasses import dataclass
from math import acos, pi, sin

from lean_ledger.core.operations.cutting.conditions import Settled
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Cutting, Operation
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Material, Tool, ToolKind

YOUNG = {"carbide": 580_000.0, "hss": 210_000.0}  # N/mm²
CORE = 0.8  # × diameter: a fluted length is as stiff as a rod of this size
BENDS = (ToolKind.END_MILL,)  # face mills are short and thick, plunging tools are pushed along their axis
ROUGH_BEND, FINISH_BEND = 0.1, 0.03  # mm that a mill may bend
FINISHING = frozenset({OperationKind.FINISH_WALL, OperationKind.FINISH_FLOOR, OperationKind.FINISH_OUTLINE})


@dataclass(frozen=True)
class ToolLoad:
    """`force` N is tangential at the edges, `torque` N·m and `power` kW at the spindle, `bend` mm at the tip.

    Each limit is the machine's at that speed, or what is asked of the tool; 0 where the value has no meaning.
    """

    force: float
    torque: float
    torque_limit: float
    power: float
    power_limit: float
    bend: float = 0.0
    bend_limit: float = 0.0

    @property
    def nearest(self) -> tuple[str, float]:
        """The limit that it comes nearest to, and the share of it that it reaches."""
        shares = {
            "power": self.power / self.power_limit if self.power_limit > 0 else 0.0,
            "torque": self.torque / self.torque_limit if self.torque_limit > 0 else 0.0,
            "bending": self.bend / self.bend_limit if self.bend_limit > 0 else 0.0,
        }
        return max(shares.items(), key=lambda one: one[1])


def load_of(op: Operation, machine: Machine, material: Material) -> ToolLoad:
    most = FINISH_BEND if op.kind in FINISHING else ROUGH_BEND
    return load_at(op.tool, Settled(op.cutting, (), op.power, op.power_limit), machine, material, most)


def load_at(
    tool: Tool, settled: Settled, machine: Machine, material: Material, most_bend: float = ROUGH_BEND
) -> ToolLoad:
    """The load of a tool at settled cutting data."""
    cut, power = settled.cutting, settled.power
    torque = 9549 * power / cut.n if cut.n > 0 else 0.0
    bends = tool.kind in BENDS
    force = edge_force(tool, cut, material) if bends else 60_000 * power / max(cut.vc, 1e-9)
    return ToolLoad(
        force, torque, machine.spindle.torque_at(cut.n), power, settled.power_limit,
        bent(tool, force) if bends else 0.0, most_bend if bends else 0.0,
    )  # fmt: skip


def edge_force(tool: Tool, cut: Cutting, material: Material) -> float:
    """Greatest tangential force of a mill, N: kc·ap·h for each edge that is in cut.

    The chip is h = fz·sin φ thick where the edge leaves at the angle φ = arccos(1 − 2·ae/D) below a right one, else fz;
    z·φ/(2π) edges are in cut, at least one. D10 z3, ae 2, ap 5, fz 0.05 at 800 N/mm²: φ = 53.13°, h = 0.04, 160 N.
    """
    angle = acos(max(-1.0, min(1.0, 1 - 2 * cut.ae / tool.diameter)))
    chip = cut.fz * (sin(angle) if angle < pi / 2 else 1.0)
    return material.kc * cut.ap * chip * max(1.0, tool.flutes * angle / (2 * pi))


def bent(tool: Tool, force: float) -> float:
    """How far a force at its tip bends a tool that is held at its stick-out, mm.

    A beam in two stretches, F/(3E)·(a³/I₂ + (L³ − a³)/I₁): flutes of length a with 0.8 of the diameter, a full shank
    above. D10 of carbide, 46 long with 26 of flutes: I₁ = π·10⁴/64 = 490.9, I₂ = π·8⁴/64 = 201.1 mm⁴; 100 N bend it
    100/1 740 000 · (17 576/201.1 + 79 760/490.9) = 0.0144 mm.
    """
    shank = pi * tool.diameter**4 / 64
    flutes = pi * (CORE * tool.diameter) ** 4 / 64
    length = tool.reach
    fluted = min(tool.cutting_length, length)
    return force / (3 * YOUNG[tool.material]) * (fluted**3 / flutes + (length**3 - fluted**3) / shank)
