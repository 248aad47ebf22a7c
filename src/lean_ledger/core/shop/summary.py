"""What is said of a plan where many stand together: a row of the list of jobs, and the values that it was made with."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction
from itertools import groupby
from math import ceil

from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.model import Part
from lean_ledger.core.pricing.hours import LoadHours
from lean_ledger.core.shop.habits import Habit, habits_of

THUMB_STEPS = 400  # across a part: finer than any small picture shows
MARGIN = 0.04  # of a small picture around the part
INK = "#22281f"


@dataclass(frozen=True)
class Summary:
    """Seconds of a cycle; money each at the first quantity. `trouble` says why there are no figures."""

    material: str  # its id
    material_name: str
    quantities: tuple[int, ...]
    revision: str
    file: str
    length_unit: str
    aligned: bool
    cycle: float = 0.0
    each: Decimal = Decimal(0)
    errors: int = 0
    warnings: int = 0
    habits: tuple[Habit, ...] = ()
    trouble: str = ""
    followed: bool = False  # whether the findings hold what its stock shows
    hours: tuple[LoadHours, ...] = ()  # of its machines, in the order of the loads
    scrap: Decimal = Decimal(0)
    outside: bool = False  # work elsewhere follows

    def started(self, quantity: int) -> int:
        """Pieces that have to be begun for so many good ones."""
        return ceil(quantity / (1 - Fraction(self.scrap)))


def summary_of(ledger: Ledger, part: Part, *, followed: bool = False) -> Summary:
    """Of an evaluated plan."""
    plan, model = ledger.plan, part.model
    count = {s: sum(1 for f in ledger.findings if f.severity == s) for s in Severity}
    return Summary(
        material=plan.material,
        material_name=ledger.material.name,
        quantities=plan.quantities,
        revision=plan.revision,
        file=model.file,
        length_unit=model.length_unit,
        aligned=model.aligned,
        cycle=ledger.cycle,
        each=ledger.prices[0].each,
        errors=count[Severity.ERROR],
        warnings=count[Severity.WARNING],
        habits=habits_of(ledger),
        followed=followed,
        hours=tuple(
            LoadHours(
                load.machine.id,
                setup.setup_hours,
                setup.cycle_seconds + setup.load_seconds,
                load.pieces,
                load.load.setups[0],
            )
            for setup, load in zip(ledger.problem.setups, ledger.loads, strict=True)
        ),
        scrap=ledger.problem.scrap,
        outside=any(one.per_piece or one.lot for one in ledger.problem.outside),
    )


def thumb_svg(part: Part) -> str:
    """The part's visible lines from in front and above as SVG, as coarse as a small picture is; y upward in mm."""
    iso = next((d for d in part.model.drawings if d.view[2] > 0.5 and abs(d.view[0]) > 0.5), None)
    lines = [[(x, -y) for x, y in line] for line in iso.visible] if iso is not None else []
    points = [point for line in lines for point in line]
    x0, x1 = min((x for x, _ in points), default=0.0), max((x for x, _ in points), default=1.0)
    y0, y1 = min((y for _, y in points), default=0.0), max((y for _, y in points), default=1.0)
    across = max(x1 - x0, y1 - y0)
    places = max(0, 1 - _exponent(across / THUMB_STEPS))
    pad = MARGIN * across
    box = " ".join(f"{v:.{places}f}" for v in (x0 - pad, y0 - pad, x1 - x0 + 2 * pad, y1 - y0 + 2 * pad))
    paths = []
    for line in lines:
        run = [point for point, _ in groupby((round(x, places), round(y, places)) for x, y in line)]
        if len(run) > 1:
            paths.append("M" + "L".join(f"{x:g} {y:g}" for x, y in run))
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{box}"><path d="{"".join(paths)}" fill="none" '
        f'stroke="{INK}" stroke-width="0.9" vector-effect="non-scaling-stroke"/></svg>'
    )


def _exponent(value: float) -> int:
    return int(f"{value:e}".partition("e")[2]) if value > 0 else 0
