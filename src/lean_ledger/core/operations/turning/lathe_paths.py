"""Motion and cutting data on a lathe: constant surface speed, feed per turn, moves in the plane of the axis."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil, pi

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Figure
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.cutting.conditions import EFFICIENCY, Settled, feed_share, speed_share
from lean_ledger.core.operations.model import Cutting, Motion, Ring2, Spin
from lean_ledger.core.operations.workplace import Workplace
from lean_ledger.core.plan import OperationEdit
from lean_ledger.core.timing.motion import Stroke, feed, rapid
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import CuttingData, Material, Tool

CLEAR = 1.0  # mm between the tool and the work on its way back

CutLine = Sequence[tuple[float, float]]  # (r, z)


@dataclass(frozen=True)
class Spun:
    """`vc` m/min and `per_turn` mm of a turned cut; `cap` rpm that the spindle goes to at the most."""

    settled: Settled
    vc: float
    per_turn: float
    cap: float
    figures: tuple[Figure, ...] = ()

    def speed(self, diameter: float) -> float:
        """rpm at a diameter: 1000·vc/(π·d), at most the cap.

        At 200 m/min Ø40 turns with 1592 rpm.
        """
        return min(self.cap, 1000 * self.vc / (pi * diameter)) if diameter > 1e-6 else self.cap


def css(
    place: Workplace, tool: Tool, id: str, depth: float, ap_most: float, diameter: float, *, share: float = 1.0,
    allowance: float = 0.0,
) -> Spun:  # fmt: skip
    """As `turned_at`, with what was set by hand for an operation."""
    data = place.library.data(tool, place.material)
    assert data is not None
    means = Means(tool, data, place.material, place.machine, place.edit(id))
    return turned_at(means, depth, ap_most, diameter, share=share, allowance=allowance)


@dataclass(frozen=True)
class Means:
    """What a cut is made with, and what was set for it by hand."""

    tool: Tool
    data: CuttingData
    material: Material
    machine: Machine
    edit: OperationEdit


def turned_at(
    means: Means, depth: float, ap_most: float, diameter: float, *, share: float = 1.0, allowance: float = 0.0
) -> Spun:
    """Settled data of a cut of `depth` on the radius that starts at `diameter`; `share` of the usual feed is taken.

    Raises PlanError for a value that is not above 0.
    """
    tool, data, material, machine, edit = means.tool, means.data, means.material, means.machine, means.edit
    for name in ("n", "vf", "ap"):
        value = getattr(edit, name)
        if value is not None and value <= 0:
            raise PlanError("not-positive", f"{name} is {value:g}; it must be above 0", edit.operation)
    cap = min(edit.n, machine.spindle.max_rpm) if edit.n is not None else machine.spindle.max_rpm
    usual = data.fz_at(max(tool.diameter, 3.0)) * share
    per_turn, vc_wanted = usual * feed_share(data, edit), data.vc * speed_share(data, edit)
    most = edit.ap if edit.ap is not None else ap_most
    passes = edit.passes if edit.passes is not None else max(1, ceil(round(depth / most, 6)))
    ap = depth / passes
    n = min(cap, 1000 * vc_wanted / (pi * diameter))
    if edit.vf is not None:
        per_turn = edit.vf / n
    vc = pi * diameter * n / 1000
    power = ap * per_turn * vc * material.kc / (60_000 * EFFICIENCY)
    limit = machine.spindle.power_at(n)
    formula = f"f = {per_turn:.3f} a turn"
    if power > limit and edit.vf is None:
        per_turn *= limit / power
        power, formula = limit, f"{formula}, held back to {limit:.1f} kW"
    figures = (
        Figure("passes", f"ceil({depth:.3g} / at most {most:g}) = {passes} of {ap:.3g}", passes, ""),
        Figure("n", f"1000·vc/(π·d) = 1000 · {vc_wanted:g} / (π · {diameter:.1f}), at most {cap:g}", n, "rpm"),
        Figure("vf", f"{formula} · n; n grows as the diameter falls", n * per_turn, "mm/min"),
        Figure("power", f"ap·f·vc·kc/(60 000·η) = {ap:.2f} · {per_turn:.3f} · {vc:.0f} · {material.kc:g} / "
               f"(60 000 · {EFFICIENCY})", power, "kW"),
    )  # fmt: skip
    cutting = Cutting(n, n * per_turn, vc, per_turn, ap, 0.0, passes, allowance, vc / data.vc, per_turn / usual)
    return Spun(Settled(cutting, figures, power, limit), vc_wanted, per_turn, cap)


def lathe_motion(
    place: Workplace, spun: Spun, cuts: Sequence[CutLine], taken: tuple[Ring2, ...], clear: float, radius: float
) -> Motion:
    """Each cut from its first point on, in rapid to it and away from it: outwards as far as `radius`, or towards the
    axis where that is below 0; `clear` is a level in front of the work.
    """
    away = CLEAR if radius > 0 else -CLEAR / 2
    assert place.part.axis is not None
    x, y, _ = place.frame.point(place.part.axis.point)
    strokes: list[Stroke] = []
    at: Vec | None = None

    def vec(point: tuple[float, float]) -> Vec:
        return (x + point[0], y, point[1])

    for cut in cuts:
        start = vec(cut[0])
        if at is not None:
            off = (max(at[0] + away, start[0]) if away > 0 else at[0] + away, y, at[2])
            strokes.append(rapid(at, off, (off[0], y, max(start[2], at[2])), (start[0], y, start[2])))
        for a, b in itertools.pairwise(cut):
            for p, q in _at_one_speed(a, b, spun):
                mean = abs(p[0]) + abs(q[0])
                strokes.append(feed(spun.speed(mean) * spun.per_turn, (vec(p), vec(q))))
        at = vec(cut[-1])
    if at is not None:
        off = (max(at[0] + away, x + radius + CLEAR) if away > 0 else at[0] + away, y, at[2])
        strokes.append(rapid(at, off, (off[0], y, max(clear, at[2]))))
    return Motion(tuple(strokes), turned=taken, axis=(x, y), spin=Spin(spun.vc, spun.per_turn, spun.cap))


def _at_one_speed(
    a: tuple[float, float], b: tuple[float, float], spun: Spun
) -> list[tuple[tuple[float, float], tuple[float, float]]]:
    """A move, parted where the spindle reaches its cap: beyond it n does not grow."""
    at_cap = 1000 * spun.vc / (pi * spun.cap) / 2
    ends = sorted((abs(a[0]), abs(b[0])))
    if not ends[0] < at_cap < ends[1] or abs(a[0] - b[0]) < 1e-6:
        return [(a, b)]
    share = (at_cap - a[0]) / (b[0] - a[0])
    middle = (at_cap, a[1] + share * (b[1] - a[1]))
    return [(a, middle), (middle, b)]


def inside_plunges(
    place: Workplace, spun: Spun, plunges: Sequence[tuple[float, float]], inside: float, clear: float,
    taken: tuple[Ring2, ...],
) -> Motion:  # fmt: skip
    """Into a bore in rapid at the radius `inside`, out to each (radius, level) in feed and back, out again at last."""
    assert place.part.axis is not None
    x, y, _ = place.frame.point(place.part.axis.point)
    strokes: list[Stroke] = []
    at: Vec = (x + inside, y, clear)
    for radius, z in plunges:
        here, bottom = (x + inside, y, z), (x + radius, y, z)
        strokes.append(rapid(at, here))
        strokes += [feed(spun.speed(p + q) * spun.per_turn, ((x + p, y, z), (x + q, y, z)))
                    for (p, _), (q, _) in _at_one_speed((inside, z), (radius, z), spun)]  # fmt: skip
        strokes.append(rapid(bottom, here))
        at = here
    strokes.append(rapid(at, (x + inside, y, clear)))
    return Motion(tuple(strokes), turned=taken, axis=(x, y), spin=Spin(spun.vc, spun.per_turn, spun.cap))
