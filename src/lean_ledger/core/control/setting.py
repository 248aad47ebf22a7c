"""What a control has been told beside its program, and where a block then leads on the machine."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from lean_ledger.core.control.blocks import Block, ProgramError
from lean_ledger.core.control.modal import Modal
from lean_ledger.core.control.steps import Angles, StepKind
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.library.machines import Machine, Rotary

MARKS = 100  # wait marks that a control of several paths knows, one M code each
ORIGIN: Vec = (0.0, 0.0, 0.0)
LINEAR = "XYZ"
TURNS = "ABC"
ABOUT = {"x": "A", "y": "B", "z": "C"}


@dataclass(frozen=True)
class CounterCodes:
    """M codes of a control with a counter spindle: which spindle the words after them are about, the main one first;
    what starts a driven tool; what the counter spindle does to take a piece over; what opens and closes the main
    spindle's collet while it pulls the bar, 0 where nothing does.
    """

    spindles: tuple[float, float]
    drive: float
    eject: float
    synchronise: float
    close: float
    loosen: float = 0.0
    grip: float = 0.0

    @property
    def all(self) -> frozenset[float]:
        always = (*self.spindles, self.drive, self.eject, self.synchronise, self.close)
        return frozenset((*always, *(code for code in (self.loosen, self.grip) if code)))


@dataclass(frozen=True)
class Setting:
    """What the control has been told beside the program; as `program-time` has it, nothing.

    Offsets and tool lengths are added to what a program says; `start` and `angles` are where the machine stands.
    `clamp` and `unclamp` are the M codes of a rotary that does not clamp by itself; the turn's time has both in it.
    `in_front` is how far each tool of a lathe stands in front of the turret along Z, which the travel counts from.
    """

    offsets: Mapping[str, Vec] = field(default_factory=dict)
    lengths: Mapping[int, float] = field(default_factory=dict)
    start: Vec = ORIGIN
    angles: Angles = (0.0, 0.0, 0.0)
    clamp: float | None = None
    unclamp: float | None = None
    in_front: Mapping[int, float] = field(default_factory=dict)
    more_g: frozenset[float] = frozenset()  # that the control knows beside the common ones: PROBE, THREAD, LOCAL
    skips: bool = False  # blocks with a slash are left out
    wait: int = 0  # M code of the first mark at which paths wait for one another; 0 on a machine of one path
    counter: CounterCodes | None = None  # of a counter spindle
    timed: Mapping[float, tuple[StepKind, float]] = field(default_factory=dict)  # M codes that take these seconds
    brings: bool = False  # a lathe's spindle, which has turned, to each angle that is said, be it the one it had last

    @property
    def more_m(self) -> frozenset[float]:
        """M codes that the control knows beside the common ones."""
        own = self.counter.all if self.counter is not None else frozenset()
        return (
            frozenset(code for code in (self.clamp, self.unclamp) if code is not None)
            | self.waits
            | own
            | self.timed.keys()
        )

    @property
    def waits(self) -> frozenset[float]:
        """M codes of wait marks."""
        return frozenset(float(self.wait + k) for k in range(MARKS)) if self.wait else frozenset()


NOTHING_SET = Setting()


class Coordinates:
    """Where the machine stands, and where the words of a block lead from there."""

    def __init__(self, machine: Machine, setting: Setting) -> None:
        self.machine = machine
        self.modal = Modal()
        self.at: Vec = setting.start
        self.angles: Angles = setting.angles
        self.bounds: dict[str, tuple[Vec, Vec]] = {}
        self._setting = self.setting = setting
        self._turning: dict[str, Rotary] = {
            ABOUT[axis.about]: axis for axis in (machine.rotary, machine.tilt) if axis is not None
        }
        self._lathe = machine.turns_work

    def shift(self) -> Vec:
        """To be added to what the program says, to have it in machine coordinates."""
        x, y, z = self._setting.offsets.get(self.modal.offset, ORIGIN)
        length = self._setting.lengths.get(self.modal.length, 0.0) if self.modal.length is not None else 0.0
        u, v, w = self.modal.local
        return (x + u, y + v, z + w + length)

    def _local(self, block: Block) -> None:
        """G52: a shift on top of every work offset, until another; what is not named keeps it."""
        said = [block.values.get(letter) for letter in LINEAR]
        if all(value is None for value in said):
            raise ProgramError("missing-axis", "G52 needs an X, Y or Z that says how far the zero is off", block.line)
        scale, per = self.modal.scale, [self._per_radius(i) for i in range(3)]
        x, y, z = (was if v is None else v * scale / per[i]
                   for i, (v, was) in enumerate(zip(said, self.modal.local, strict=True)))  # fmt: skip
        self.modal.local = (x, y, z)

    def target(self, block: Block) -> tuple[Vec | None, Angles | None]:
        """Where the block's axis words lead; None where it has none."""
        values, modal = block.values, self.modal
        direct = 53 in block.g
        shift = ORIGIN if direct else self.shift()
        target = list(self.at)
        moved = False
        for i, letter in enumerate(LINEAR):
            if letter in values:
                value = values[letter] * modal.scale / self._per_radius(i)
                target[i] = value + shift[i] if modal.absolute or direct else self.at[i] + value
                moved = True
        for letter, i in (("U", 0), ("W", 2)):
            if letter in values:
                if not self._lathe:
                    raise ProgramError("no-axis", f"{letter} is an increment on a lathe; this is a mill", block.line)
                target[i] = self.at[i] + values[letter] * modal.scale / self._per_radius(i)
                moved = True
        found: Vec | None = (target[0], target[1], target[2]) if moved else None
        if found is not None and not direct:
            self.reach(found)
        return found, self._angles(block)

    def _per_radius(self, axis: int) -> float:
        """X of a lathe counts as a diameter."""
        return 2.0 if self._lathe and axis == 0 else 1.0

    def _angles(self, block: Block) -> Angles | None:
        if "A" not in block.values and "B" not in block.values and "C" not in block.values:
            return None
        angles = list(self.angles)
        for i, letter in enumerate(TURNS):
            if letter in block.values:
                if letter not in self._turning:
                    raise ProgramError("no-axis", f"{letter} turns an axis that this machine does not have", block.line)
                value = block.values[letter]
                angles[i] = value if self.modal.absolute else angles[i] + value
        return (angles[0], angles[1], angles[2])

    def reach(self, target: Vec) -> None:
        """Widen the bounds of the work offset to a commanded point."""
        shift = self.shift()
        x = (target[0] - shift[0]) * self._per_radius(0)
        y, z = target[1] - shift[1], target[2] - shift[2]
        box = self.bounds.get(self.modal.offset)
        if box is None:
            self.bounds[self.modal.offset] = ((x, y, z), (x, y, z))
            return
        (a, b, c), (d, e, f) = box
        if x < a or y < b or z < c or x > d or y > e or z > f:
            self.bounds[self.modal.offset] = (
                (min(a, x), min(b, y), min(c, z)), (max(d, x), max(e, y), max(f, z)),
            )  # fmt: skip
