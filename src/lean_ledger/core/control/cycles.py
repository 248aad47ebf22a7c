"""Canned cycles as the moves that they stand for; every plunge and every retract starts and ends at rest."""

from __future__ import annotations

from typing import TYPE_CHECKING

from lean_ledger.core.control.blocks import Block, ProgramError
from lean_ledger.core.control.modal import Cycle, Modal
from lean_ledger.core.control.steps import StepKind
from lean_ledger.core.geometry.vectors import Vec

if TYPE_CHECKING:
    from lean_ledger.core.control.run import Control

BACK = 0.5  # mm that G73 draws back, and above the last depth that G83 comes back to
LAST = 1e-6  # mm: a peck of less is none

TAPPING = frozenset({74, 84})
PECKING = frozenset({73, 83})


def cycle_words(modal: Modal, code: int, level: float) -> None:
    """A cycle word: the initial level is the Z at the first one after G80 or G0 to G3."""
    if modal.cycle is None:
        modal.cycle = Cycle(code, level)
    modal.cycle.code = code


def drill(control: Control, block: Block) -> None:
    """One block while a cycle is on: its words, and a hole where it names a place.

    Raises ProgramError for a missing R, Z, Q or feed.
    """
    modal, values = control.modal, block.values
    cycle = modal.cycle
    assert cycle is not None
    shift = control.shift()[2]
    if "R" in values:
        r = values["R"] * modal.scale
        cycle.r = r + shift if modal.absolute else cycle.initial + r
    if "Z" in values:
        z = values["Z"] * modal.scale
        cycle.z = z + shift if modal.absolute else (cycle.r if cycle.r is not None else cycle.initial) + z
    if "Q" in values:
        cycle.q = abs(values["Q"]) * modal.scale
    if "P" in values and 54.1 not in block.g and 154 not in block.g:
        cycle.dwell = values["P"] if "P" in block.pointed else values["P"] / 1000
    if not any(c in values for c in "XYZRABC"):
        return
    _check(cycle, block.line)
    repeats = int(values.get("L", values.get("K", 1)))
    for time in range(repeats):
        place = Block(block.line, {c: v for c, v in values.items() if c in "XYABC"}, g=block.g)
        if modal.absolute and time:
            place.values = {}
        target, angles = control.target(place)
        over = target or control.at
        over = (over[0], over[1], control.at[2])
        if angles is not None and angles != control.angles:
            control.turn(block.line, over, angles, None)
        else:
            control.rapid(block.line, over)
        _hole(control, cycle, block.line)


def _check(cycle: Cycle, line: int) -> None:
    for name, value in (("R", cycle.r), ("Z", cycle.z)):
        if value is None:
            raise ProgramError("missing-word", f"G{cycle.code} needs {name}", line)
    if cycle.code in PECKING and not cycle.q:
        raise ProgramError("missing-word", f"G{cycle.code} needs Q above 0: the depth of a peck", line)


def _hole(control: Control, cycle: Cycle, line: int) -> None:
    assert cycle.r is not None
    assert cycle.z is not None
    x, y, _ = control.at

    def at(z: float) -> Vec:
        return (x, y, z)

    bottom, r = cycle.z, cycle.r
    back = cycle.initial if control.modal.to_initial else r
    control.rapid(line, at(r))
    feed = control.feed_at(line, control.at)
    control.reach(at(bottom))
    if cycle.code in PECKING:
        _pecks(control, cycle, line, feed)
    else:
        control.cut(line, at(bottom), feed)
    control.rest()
    if cycle.code == 82 and cycle.dwell > 0:
        control.add(StepKind.DWELL, line, control.at, cycle.dwell)
    if cycle.code in TAPPING:
        control.add(StepKind.SPINDLE, line, control.at, control.spindle.start)
    if cycle.code in TAPPING or cycle.code == 85:
        control.cut(line, at(r), feed)
        control.rest()
    control.rapid(line, at(back))


def _pecks(control: Control, cycle: Cycle, line: int, feed: float) -> None:
    """G83 returns to R and comes back to just above the last depth; G73 draws back a little. The last peck is what
    remains."""
    assert cycle.r is not None
    assert cycle.z is not None
    assert cycle.q is not None
    x, y, _ = control.at
    depth = cycle.r
    while depth - cycle.z > LAST:
        depth = max(cycle.z, depth - cycle.q)
        if depth - cycle.z <= LAST:
            depth = cycle.z
        control.cut(line, (x, y, depth), feed)
        control.rest()
        if depth > cycle.z:
            if cycle.code == 83:
                control.rapid(line, (x, y, cycle.r))
            control.rapid(line, (x, y, depth + BACK))
