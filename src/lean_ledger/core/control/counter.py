"""A counter spindle on the simulated machine: which spindle the words are about, its slide, what it does to take a
piece over.

Z of a block is counted out of the spindle that its words are about, and so is where the machine stands: 100 before a
counter spindle whose mount is at 860 is 760 of the main one's. W is the slide: machine Z of that mount.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from lean_ledger.core.control.blocks import Block, ProgramError
from lean_ledger.core.control.steps import StepKind
from lean_ledger.core.timing.chain import trapezoid_seconds

if TYPE_CHECKING:
    from lean_ledger.core.control.run import Control

BOTH, LOOSE = "both spindles", "the counter spindle"  # hold the bar
SYNCHRONISED = "with the main spindle"  # what is asked of the counter spindle then


class CounterSpindle:
    """Of a control; nothing where the machine has none or its codes are not told."""

    def __init__(self, control: Control) -> None:
        self._control = control
        self._codes = control.setting.counter
        counter = control.machine.counter
        self._facing = counter.facing if counter is not None and self._codes is not None else None
        self._at = self._facing.travel[1] if self._facing is not None else 0.0
        self._held, self._since = "", 0  # what holds the piece that is being taken over, from which step on

    def block(self, block: Block) -> None:
        """The M codes of a block."""
        codes, facing = self._codes, self._facing
        if codes is None or facing is None:
            return
        for code in block.m:
            if code in codes.spindles:
                self._select(codes.spindles.index(code))
                continue
            took = {codes.eject: facing.eject, codes.synchronise: facing.synchronise, codes.close: facing.close,
                    codes.loosen: facing.collet, codes.grip: facing.collet}.get(code) if code else None  # fmt: skip
            if took is None:
                continue
            self._check(code, block.line)
            self._step(block.line, took)
            if code == codes.synchronise:
                last = self._control.steps[-1]
                last.asks, last.spindle = SYNCHRONISED, 1
            self._held = {codes.eject: "", codes.close: BOTH, codes.loosen: LOOSE, codes.grip: BOTH}.get(
                code, self._held
            )
            self._since = len(self._control.steps)

    def drives(self, block: Block) -> bool:
        """Whether a block starts a driven tool: S, M3 and M4 are then about that one, until a spindle is named."""
        if self._codes is None or self._codes.drive not in block.m:
            return False
        self._control.modal.driven = True
        return True

    def slides(self, block: Block) -> bool:
        """Whether a block moves the slide, which then is done. Raises ProgramError past its travel."""
        facing, modal = self._facing, self._control.modal
        if facing is None or "W" not in block.values:
            return False
        if any(letter in block.values for letter in "XYZUABC"):
            raise ProgramError("slide-alone", "W moves the counter spindle: in a block of its own", block.line)
        to = block.values["W"] * modal.scale
        low, high = facing.travel
        if not low - 0.01 <= to <= high + 0.01:
            raise ProgramError("past-slide", f"W goes from {low:g} to {high:g}, here to {to:g}", block.line)
        if self._held == BOTH and not self._cut_since():
            what = "W would tear at a bar that both spindles hold: open the main spindle's collet, or cut the piece off"
            raise ProgramError("bar-held", what, block.line)
        length = abs(to - self._at)
        speed = facing.rapid if modal.motion == 0 else self._control.feed_at(block.line, self._control.at)
        self._step(block.line, trapezoid_seconds(length, 0.0, speed / 60, 0.0, facing.acceleration) if length else 0.0)
        self._at = to
        return True

    def _check(self, code: float, line: int) -> None:
        """Raises ProgramError where the main spindle's collet would let go of a bar that nothing else has."""
        codes, facing = self._codes, self._facing
        assert codes is not None
        assert facing is not None
        if code in (codes.loosen, codes.grip) and not facing.collet:
            what = f"M{code:g}: this machine does not open its main collet while the counter spindle has the bar"
            raise ProgramError("no-collet", what, line)
        if code == codes.loosen and self._held != BOTH:
            what = "the main spindle's collet opens and the counter spindle does not hold the bar"
            raise ProgramError("bar-loose", what, line)

    def check_cut(self, line: int) -> None:
        """Raises ProgramError for a cut while the main spindle's collet is open."""
        if self._held == LOOSE:
            raise ProgramError("bar-loose", "a cut while the main spindle's collet is open: close it first", line)

    def _cut_since(self) -> bool:
        """Whether it may have been cut off since: here, or by another path that this one waited for."""
        return any(step.kind in (StepKind.CUT, StepKind.WAIT) for step in self._control.steps[self._since :])

    def _select(self, spindle: int) -> None:
        control, facing = self._control, self._facing
        assert facing is not None
        control.rest()
        if spindle != control.modal.spindle:
            x, y, z = control.at
            control.at = (x, y, facing.travel[1] - z)
        control.modal.spindle, control.modal.driven = spindle, False
        control.modal.turning, control.modal.running = 0, None

    def _step(self, line: int, seconds: float) -> None:
        self._control.rest()
        self._control.add(StepKind.PICK_OFF, line, self._control.at, seconds)
