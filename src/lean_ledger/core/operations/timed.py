"""An operation's seconds on its path, and the figures that tell them."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

from lean_ledger.core.basis.findings import Figure
from lean_ledger.core.basis.same import Same
from lean_ledger.core.operations.milling.slowed import Slowed
from lean_ledger.core.operations.model import Cutting, Motion, Operation
from lean_ledger.core.timing.motion import StrokeTime, time_strokes
from lean_ledger.library.machines import Machine


@lru_cache(maxsize=4096)
def timed(motion: Same[Motion], machine: Machine) -> StrokeTime:
    return time_strokes(motion.value.strokes, machine)  # paths are cached: the same path is the same object


def on_path(operation: Operation, motion: Motion, machine: Machine) -> Operation:
    """An operation on another path: its seconds follow, and their figures."""
    time = timed(Same(motion), machine)
    reversal = motion.reversals * machine.spindle.start
    names = {f.label for f in time_figures(operation.cutting, operation.time, 0.0, Motion(()))} | {"reversals"}
    kept = tuple(f for f in operation.figures if f.label not in names)
    rows = time_figures(operation.cutting, time, reversal, motion)
    return replace(operation, motion=motion, time=time, reversal_seconds=reversal, figures=(*kept, *rows))


def slowed_figures(cutting: Cutting, fed: Slowed) -> tuple[Figure, ...]:
    if fed.rate == 0.0:
        return ()
    rows = [
        Figure("removed at the most", "followed along the path, over half the tool's width", fed.rate / 1000, "cm3/min")
    ]
    if fed.least_share < 1.0:
        formula = f"vf · {fed.least_share:g}, where the path takes more than the tool's usual step"
        rows.append(Figure("feed in full width", formula, fed.least_share * cutting.vf, "mm/min"))
    return tuple(rows)


def time_figures(cutting: Cutting, time: StrokeTime, reversal: float, motion: Motion) -> tuple[Figure, ...]:
    vf = cutting.vf
    rows = [
        Figure("path in cut", "sum of the path's cutting moves", time.cut_length, "mm"),
        Figure("time at feed", f"60 · path / feed ({vf:.0f} mm/min, ramps at half)", time.nominal_cut, "s"),
        Figure("starting, stopping, corners", "machine's accelerations", time.cut - time.nominal_cut, "s"),
        Figure("cutting", "time at feed + starting, stopping, corners", time.cut, "s"),
        Figure("rapid, within", f"{time.rapid_length:.0f} mm from rest to rest", time.rapid, "s"),
    ]
    if motion.reversals:
        rows.append(Figure("reversals", f"{motion.reversals} × spindle start", reversal, "s"))
    return tuple(rows)
