"""What every way of holding answers. Coordinates are the holding's own: z away from the mount, jaws along x."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property

from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.holding.obstacles import Obstacle
from lean_ledger.core.part.bodies import AddedBody
from lean_ledger.core.part.model import Part
from lean_ledger.core.setups.frame import Frame
from lean_ledger.library.fixtures import Fixture

#: Where a tool goes below the stock: (x least, y least, x greatest, y greatest) of its way and width, in hold axes
Through = tuple[float, float, float, float]

JAW_CLEARANCE = 1.0  # mm between what holds and the lowest cut beside it
FRICTION = 0.15  # of ground steel jaws on metal, dry; handbook values run from 0.12 to 0.2
STEP = 0.5  # mm of stock that are tried
CONTACT = 0.01  # mm within which a face lies against a jaw


@dataclass(frozen=True)
class HeldStock:
    """The stock that a setup finds, as it lies in what holds it."""

    part: Part
    box: Bounds  # of the finished part
    section: str  # of the stock where it is not cut yet: block, round, hex
    upright: bool  # the section's axis lies along z
    finished: tuple[float, float] | None  # levels between which the walls around z are at size
    made: frozenset[str] = frozenset()  # features that are there when the setup begins
    here: frozenset[str] = frozenset()  # features that the setup makes
    tapped: Mapping[str, float] = field(default_factory=dict)  # major diameters of threaded holes, mm
    bodies: tuple[AddedBody, ...] = ()  # that the plan adds to hold by


@dataclass(frozen=True)
class Hold(ABC):
    """A setup's clamping, resolved: every choice made, by hand or by the rule."""

    frame: Frame
    turn: int
    boxes: tuple[Bounds, ...]  # the stock as this setup finds it
    held: HeldStock
    grip: float  # mm of stock, along z, that is held; 0 where it stands free on what holds it

    @property
    @abstractmethod
    def fixture(self) -> Fixture: ...

    @cached_property
    def stock(self) -> Bounds:
        low = tuple(min(b.min[i] for b in self.boxes) for i in range(3))
        high = tuple(max(b.max[i] for b in self.boxes) for i in range(3))
        return Bounds(low, high)  # type: ignore[arg-type]

    @property
    def floor(self) -> float:
        return self.stock.min[2]

    @property
    def centre(self) -> tuple[float, float]:
        """Over the mount's own axis."""
        low = [b for b in self.boxes if b.min[2] <= self.floor + 1e-6]
        return (
            (min(b.min[0] for b in low) + max(b.max[0] for b in low)) / 2,
            (min(b.min[1] for b in low) + max(b.max[1] for b in low)) / 2,
        )

    def grip_if_longer(self, by: float) -> float:
        """What the rule would grip of stock that is so much longer at its lower end, mm."""
        return self.grip

    def longer(self, by: float) -> tuple[Bounds, ...]:
        """The stock with so much more at its lower end."""
        return tuple(
            replace(b, min=(b.min[0], b.min[1], b.min[2] - by)) if b.min[2] <= self.floor + 1e-6 else b
            for b in self.boxes
        )

    @property
    @abstractmethod
    def seat(self) -> float:
        """From the fixture's mount up to the stock's lowest point, mm."""

    @property
    def jaw_top(self) -> float:
        """Level up to which it is gripped."""
        return self.floor + self.grip

    @property
    def lowest_outside_cut(self) -> float:
        """No cut outside the part's own outline may go below this."""
        return self.jaw_top + JAW_CLEARANCE

    @property
    @abstractmethod
    def friction(self) -> float:
        """N that the clamping holds along what it touches."""

    @property
    def grips_over(self) -> tuple[float, ...]:
        """Grips that the shop has the means for, mm; empty where any will do or none is to be chosen."""
        return ()

    @property
    @abstractmethod
    def obstacles(self) -> tuple[Obstacle, ...]:
        """What a tool must not run into."""

    @property
    def under(self) -> tuple[Obstacle, ...]:
        """What the stock lies on, where a tool may come through it: parallels."""
        return ()

    @property
    def drilled_free(self) -> tuple[Obstacle, ...]:
        """What the stock lies on, which is cut free under each hole that comes through: the pocket of soft jaws."""
        return ()

    def clear_of(self, through: Sequence[Through]) -> Hold:
        """The same hold with what lies under the stock laid where no tool comes through, as far as that can be."""
        return self

    @property
    def gripped_by(self) -> str:
        """What it is that grips, as the drawing names it."""
        return "jaws"

    @property
    def at_the_back(self) -> str:
        """Where a side lies that is turned to the back, in words."""
        return "at the back"

    @property
    @abstractmethod
    def words(self) -> tuple[tuple[str, str], ...]:
        """For the setter, as (what, how); the fixture's name first."""

    @property
    @abstractmethod
    def touches(self) -> str:
        """What is gripped, in words."""

    @property
    @abstractmethod
    def rests_on(self) -> str:
        """What the setter touches to find where the stock's underside is."""

    @property
    def load_seconds(self) -> float:
        return self.fixture.load_seconds

    @abstractmethod
    def findings(self, setup: str) -> list[Finding]:
        """What is wrong with this hold by itself."""


def error(setup: str, code: str, title: str, why: str, cures: tuple[Cure, ...] = ()) -> Finding:
    return Finding(code, Severity.ERROR, Chapter.SETUPS, title, why, setup, cures=cures)


def warning(setup: str, code: str, title: str, why: str, features: tuple[str, ...] = ()) -> Finding:
    return Finding(code, Severity.WARNING, Chapter.SETUPS, title, why, setup, features)


def more_below(hold: Hold, missing: float, *, by_hand: bool) -> float:
    """mm of stock below that leave `missing` more of it free: unless set by hand, the grip grows with the stock.

    A chuck that takes half of 40 grips 20; 4 more free ask for 8 more of the bar: 24 of 48.
    """
    extra = missing
    while not by_hand and extra - max(0.0, hold.grip_if_longer(extra) - hold.grip) < missing - 1e-6:
        extra += STEP
    return extra


def by_rule(setup: str) -> Cure:
    return Cure("Let the rule choose what holds", {"change": "set-fixture", "setup": setup, "fixture": None})


def turned(setup: str, turn: int) -> Cure:
    return Cure("Turn by 90°", {"change": "set-turn", "setup": setup, "turn": (turn + 90) % 360})


def grip_of(setup: str, grip: float | None) -> Cure:
    label = "Grip by the rule" if grip is None else f"Grip {grip:g}"
    return Cure(label, {"change": "set-grip", "setup": setup, "grip": grip})
