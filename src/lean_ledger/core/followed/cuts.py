"""What the stock's way through a plan is computed from: plain data, which goes to another process as it is."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, pi, sin

from shapely.geometry import Polygon

from lean_ledger.core.followed.nearest import RoundFace
from lean_ledger.core.geometry.masses import (
    Mass,
    box_mass,
    lathe_mass,
    mass_of_mesh,
    prism_mass,
    segments,
    united,
)
from lean_ledger.core.geometry.model import Bounds, Mesh, Vec
from lean_ledger.core.holding.obstacles import Block, Obstacle, Rod
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.setups.frame import Frame
from lean_ledger.core.stock.block import Section, StockState
from lean_ledger.core.timing.motion import Stroke
from lean_ledger.library.types import Tool

STRAIGHT = Frame((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))


@dataclass(frozen=True)
class Around:
    """What holds the stock, in its own axes."""

    pieces: tuple[Obstacle, ...] = ()
    frame: Frame = STRAIGHT

    @property
    def mass(self) -> Mass:
        """In part coordinates."""
        return united([_solid(piece) for piece in self.pieces]).placed(self.frame.right, self.frame.back, self.frame.up)


NOTHING_AROUND = Around()


@dataclass(frozen=True)
class Cut:
    """One operation's path in the coordinates of its setup, whose axes are given in those of the part."""

    operation: str
    motion: Motion
    tool: Tool
    frame: Frame  # the setup's axes
    high: float  # in the setup: above all stock
    around: Around = NOTHING_AROUND
    approach: tuple[Stroke, ...] = ()  # the rapids to its start, in the same axes
    into_part: bool = False  # what it takes is to be gone from the part
    step: float = 0.0  # mm, radial, of roughing: what it takes is looked at as finely as that asks for
    on_floor: bool = False  # it takes a thin layer off a floor, and goes along walls as roughing left them


@dataclass(frozen=True)
class Blank:
    """Stock as it is bought: what its box holds of its section, along one of the part's axes."""

    box: Bounds
    section: Section = Section.BLOCK
    along: Vec = (0.0, 0.0, 1.0)
    mesh: Mesh | None = None  # of near-net stock

    @classmethod
    def of(cls, state: StockState, mesh: Mesh | None) -> Blank:
        return cls(state.bounds, state.section, state.along, mesh)

    @property
    def mass(self) -> Mass:
        """Raises MassError where a model's triangles enclose no volume."""
        if self.mesh is not None:
            return mass_of_mesh(self.mesh)
        if self.section == Section.BLOCK:
            return box_mass(self.box)
        i = max(range(3), key=lambda k: abs(self.along[k]))
        j, k = (n for n in range(3) if n != i)
        low, high = self.box.min, self.box.max
        centre = ((low[j] + high[j]) / 2, (low[k] + high[k]) / 2)
        radius = max(high[n] - low[n] for n in (j, k)) / 2
        count = 6 if self.section == Section.HEX else segments(radius)
        # a corner of a hexagon lies where its box is wider
        first = pi / 2 if self.section == Section.HEX and high[k] - low[k] > high[j] - low[j] else 0.0
        angles = [first + 2 * pi * n / count for n in range(count)]
        ring = [(centre[0] + radius * cos(a), centre[1] + radius * sin(a)) for a in angles]
        axes = [(1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)]
        right, back, up = axes[j], axes[k], axes[i]
        if i == 1:  # X, Z, Y is left-handed: the section is turned over, which changes nothing of it
            ring, up = [(x, y) for x, y in reversed(ring)], (0.0, -1.0, 0.0)
            return prism_mass(Polygon(ring), -high[i], -low[i]).placed(right, back, up)
        return prism_mass(Polygon(ring), low[i], high[i]).placed(right, back, up)


@dataclass(frozen=True)
class Sawn:
    """A piece that is sawn out of the bar which it was in with others: after how many cuts, and what stays of it."""

    after: int
    kept: Bounds


@dataclass(frozen=True)
class Course:
    """Stock, what is to come out of it, and the cuts in their order. `part` comes first in `target`, bodies after."""

    stock: Blank
    target: tuple[Mesh, ...]
    cuts: tuple[Cut, ...]
    rounds: tuple[RoundFace, ...] = ()  # of the part
    sawn: Sawn | None = None


def _solid(piece: Obstacle) -> Mass:
    if isinstance(piece, Block):
        return box_mass(piece.box)
    if isinstance(piece, Rod):
        profile = [(0.0, piece.low), (piece.radius, piece.low), (piece.radius, piece.high), (0.0, piece.high)]
        return lathe_mass(profile, (piece.x, piece.y), piece.radius)
    return prism_mass(Polygon(piece.rings[0], piece.rings[1:]), piece.low, piece.high)
