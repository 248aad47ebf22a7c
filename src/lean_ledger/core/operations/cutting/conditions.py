"""Cutting data: speeds and feeds from the library, the machine's limits, and what was set by hand.

Formulas (docs/formulas.md): n = 1000·vc/(π·D); vf = n·z·fz; tap vf = n·pitch; chip thinning
1/(2·sqrt(ae/D − (ae/D)²)); Q = ap·ae·vf; P = Q·kc/(60·10⁶·η).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, pi, sqrt

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Figure
from lean_ledger.core.operations.model import Cutting
from lean_ledger.core.plan import OperationEdit
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import CuttingData, Material, Tool, ToolKind

EFFICIENCY = 0.8  # η of the spindle drive
REAMED = 0.1  # mm that a reamer takes off the wall
BORED = 0.3  # that a boring head takes at the usual
MOST_THINNING = 2.0  # feed is never raised more than this for thin chips


@dataclass(frozen=True)
class Wish:
    """What an operation would like, before edits and limits; lengths mm."""

    depth: float
    ap: float  # at most
    ae: float
    allowance: float = 0.0
    thin_chips: bool = True  # raise the feed where the cut is thin; not when finishing


@dataclass(frozen=True)
class Settled:
    cutting: Cutting
    figures: tuple[Figure, ...]
    power: float  # kW needed
    power_limit: float  # kW the spindle has at that speed


def chip_thinning(ae: float, diameter: float) -> float:
    """Factor by which the feed may grow at a radial depth below half the diameter.

    >>> round(chip_thinning(1.0, 10.0), 4)  # 1/(2·sqrt(0.1 − 0.01)) = 1/0.6
    1.6667
    """
    share = ae / diameter
    if not 0 < share < 0.5:
        return 1.0
    return min(MOST_THINNING, 1 / (2 * sqrt(share - share * share)))


def spindle_speed(vc: float, diameter: float) -> float:
    """rpm: 1000·vc/(π·D), vc in m/min."""
    return 1000 * vc / (pi * diameter)


def cutting_power(ap: float, ae: float, vf: float, kc: float) -> float:
    """kW: Q·kc/(60·10⁶·η).

    >>> round(cutting_power(5, 4, 1000, 800), 4)  # 20 000 mm³/min × 800 / 60·10⁶ / 0.8
    0.3333
    """
    return power_of(ap * ae * vf, kc)


def power_of(rate: float, kc: float) -> float:
    """kW that the removal of `rate` mm³/min takes."""
    return rate * kc / (60e6 * EFFICIENCY)


def settle(
    tool: Tool, data: CuttingData, material: Material, machine: Machine, edit: OperationEdit, wish: Wish
) -> Settled:
    """Choose n, vf, passes and ap; raises PlanError for a value that no machine can take."""
    for name in ("n", "vf", "ap", "ae"):
        value = getattr(edit, name)
        if value is not None and value <= 0:
            raise PlanError("not-positive", f"{name} is {value:g}; it must be above 0", edit.operation)
    figures: list[Figure] = []
    n = _speed(tool, data, machine, edit, figures)
    allowance = edit.allowance if edit.allowance is not None else wish.allowance
    ap_most = edit.ap if edit.ap is not None else wish.ap
    passes = edit.passes if edit.passes is not None else max(1, ceil(round(wish.depth / ap_most, 6)))
    ap = wish.depth / passes
    figures.append(
        Figure("passes", f"ceil({wish.depth:g} deep / at most {ap_most:g}) = {passes} of {ap:.3g}", passes, "")
    )
    ae = edit.ae if edit.ae is not None else wish.ae
    fz = data.fz_at(tool.diameter)
    usual = fz
    if wish.thin_chips and (thinning := chip_thinning(ae, tool.diameter)) > 1.001:
        share = ae / tool.diameter
        figures.append(
            Figure("chip thinning", f"1/(2·sqrt({share:.3f} − {share:.3f}²)), at most {MOST_THINNING:g}", thinning, "×")
        )
        fz *= thinning
        usual = fz
    fz *= _feed_share(data, edit, figures)
    vf = n * tool.flutes * fz
    formula = f"n·z·fz = {n:.0f} · {tool.flutes} · {fz:.4f}"
    limit = machine.spindle.power_at(n)
    power = cutting_power(ap, ae, vf, material.kc)
    if edit.vf is not None:
        vf, formula = edit.vf, "set by hand"
    elif power > limit:
        vf *= limit / power
        formula += f", held back to {limit:.1f} kW"
    figures.append(Figure("vf", formula, vf, "mm/min"))
    power = cutting_power(ap, ae, vf, material.kc)
    figures.append(
        Figure(
            "power",
            f"ap·ae·vf·kc/(60·10⁶·η) = {ap:.2f} · {ae:.2f} · {vf:.0f} · {material.kc:g} / (60·10⁶ · {EFFICIENCY})",
            power,
            "kW",
        )
    )
    vc = pi * tool.diameter * n / 1000
    used_fz = vf / n / tool.flutes
    cutting = Cutting(n, vf, vc, used_fz, ap, ae, passes, allowance, vc / data.vc, used_fz / usual)
    return Settled(cutting, tuple(figures), power, limit)


def settle_plunge(
    tool: Tool, data: CuttingData, material: Material, machine: Machine, edit: OperationEdit, depth: float
) -> Settled:
    """Drills, spot drills, countersinks: the full diameter in feed along the axis."""
    figures: list[Figure] = []
    n = _speed(tool, data, machine, edit, figures)
    usual = data.fz_at(tool.diameter)
    fz = usual * _feed_share(data, edit, figures)
    vf, formula = n * tool.flutes * fz, f"n·z·fz = {n:.0f} · {tool.flutes} · {fz:.4f}"
    if edit.vf is not None:
        vf, formula = edit.vf, "set by hand"
    figures.append(Figure("vf", formula, vf, "mm/min"))
    area = plunged_area(tool)
    power = area * vf * material.kc / (60e6 * EFFICIENCY)
    vc, used_fz = pi * tool.diameter * n / 1000, vf / n / tool.flutes
    cutting = Cutting(n, vf, vc, used_fz, depth, tool.diameter / 2, 1, 0.0, vc / data.vc, used_fz / usual)
    return Settled(cutting, tuple(figures), power, machine.spindle.power_at(n))


def plunged_area(tool: Tool) -> float:
    """mm² that a tool takes in feed along its axis: all of its diameter, of a reamer or a boring head what was left."""
    wall = {ToolKind.REAMER: REAMED, ToolKind.BORING_HEAD: BORED}.get(tool.kind)
    return pi * tool.diameter * wall if wall is not None else pi * tool.diameter**2 / 4


def settle_tap(tool: Tool, data: CuttingData, machine: Machine, edit: OperationEdit, depth: float) -> Settled:
    """A tap's feed follows from its pitch; setting vf has no meaning and is refused."""
    if edit.vf is not None:
        raise PlanError("tap-feed", "a tap feeds its pitch per turn; set n instead of vf", edit.operation)
    figures: list[Figure] = []
    n = _speed(tool, data, machine, edit, figures)
    vf = n * tool.pitch
    figures.append(Figure("vf", f"n·pitch = {n:.0f} · {tool.pitch:g}", vf, "mm/min"))
    vc = pi * tool.diameter * n / 1000
    cutting = Cutting(n, vf, vc, tool.pitch / tool.flutes, depth, 0.0, 1, 0.0, vc / data.vc)
    return Settled(cutting, tuple(figures), 0.0, machine.spindle.power_at(n))


def _speed(tool: Tool, data: CuttingData, machine: Machine, edit: OperationEdit, figures: list[Figure]) -> float:
    most = machine.spindle.max_rpm
    if edit.n is not None:
        n, formula = min(edit.n, most), "set by hand"
    else:
        vc = data.vc * speed_share(data, edit)
        free = spindle_speed(vc, tool.diameter)
        n, formula = min(free, most), f"1000·vc/(π·D) = 1000 · {vc:g} / (π · {tool.diameter:g})"
        if vc != data.vc:
            formula += f", vc {vc / data.vc:.2f} times the usual {data.vc:g}"
        if free > most:
            formula += f" = {free:.0f}, the spindle's most is {most:g}"
    figures.append(Figure("n", formula, n, "rpm"))
    return n


def speed_share(data: CuttingData, edit: OperationEdit) -> float:
    """Times the usual speed that is asked for, at most what the tool stands."""
    return min(edit.speed, data.speed_most) if edit.speed is not None else 1.0


def feed_share(data: CuttingData, edit: OperationEdit) -> float:
    """Times the usual feed per tooth that is asked for, at most what the tool stands."""
    return min(edit.feed, data.fz_most) if edit.feed is not None else 1.0


def _feed_share(data: CuttingData, edit: OperationEdit, figures: list[Figure]) -> float:
    share = feed_share(data, edit)
    if share != 1.0 and edit.vf is None:
        figures.append(Figure("feed", f"times the usual feed per tooth, the tool stands {data.fz_most:g}", share, "×"))
    return share
