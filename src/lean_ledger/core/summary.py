"""What is said of a plan where many stand together: a row of the list of jobs, and the values that it was made with."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal
from itertools import groupby

from lean_ledger.core.findings import Severity
from lean_ledger.core.habits import Habit, habits_of
from lean_ledger.core.ledger import Ledger
from lean_ledger.core.part import Part

THUMB_STEPS = 400  # across a part: finer than any small picture shows


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


def summary_of(ledger: Ledger, part: Part) -> Summary:
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
    )


Line = tuple[tuple[float, float], ...]


def thumb_of(part: Part) -> tuple[Line, ...]:
    """The part's visible lines from in front and above, as coarse as a small picture is."""
    iso = next((d for d in part.model.drawings if d.view[2] > 0.5 and abs(d.view[0]) > 0.5), None)
    if iso is None:
        return ()
    across = [c for line in iso.visible for point in line for c in point]
    step = (max(across) - min(across)) / THUMB_STEPS if across else 1.0
    places = max(0, 1 - _exponent(step))
    found = []
    for line in iso.visible:
        points = tuple(point for point, _ in groupby((round(x, places), round(y, places)) for x, y in line))
        if len(points) > 1:
            found.append(points)
    return tuple(found)


def _exponent(value: float) -> int:
    return int(f"{value:e}".partition("e")[2]) if value > 0 else 0
