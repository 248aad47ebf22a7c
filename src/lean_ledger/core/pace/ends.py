"""Both ends of a turned part in one load, as an offer; and what could be made at the other end in less."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.changes import Scene
from lean_ledger.core.changes.hand_over import HandOver, PullBar, why_no_handover
from lean_ledger.core.changes.setups import MoveFeature
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.part.model import Part
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Library

LEAST_GAIN = 0.05  # s
MOST = 3


@dataclass(frozen=True)
class BothEnds:
    """The plan with both ends in one load of a machine; `refused` says why not."""

    machine: Machine
    refused: str
    ledger: Ledger | None

    @property
    def errors(self) -> tuple[str, ...]:
        found = self.ledger.findings if self.ledger is not None else ()
        return tuple(f.title for f in found if f.severity == Severity.ERROR)


def both_ends(ledger: Ledger, part: Part, library: Library, report: Report = silent) -> tuple[BothEnds, ...]:
    """On each lathe with a counter spindle that does not make both already; none where no two setups turn the part from
    both ends and no one lathe would.
    """
    able = [machine for machine in library.machines if not why_no_handover(ledger.plan, machine)]
    if part.axis is None:
        return ()
    found = []
    for k, machine in enumerate(able):
        report(f"trying {machine.name}", k / len(able))
        try:
            plan, _ = HandOver(machine.id).apply(ledger.plan, Scene(part, library, ledger))
            found.append(BothEnds(machine, "", evaluate(plan, part, library)))
        except PlanError as error:
            found.append(BothEnds(machine, error.message, None))
    return tuple(found)


@dataclass(frozen=True)
class AtOtherEnd:
    """A feature made in the other spindle: seconds of a cycle and money a piece that it saves."""

    feature: str
    to: str
    saves: float
    each: Decimal


def at_other_end(load: LoadLedger, ledger: Ledger, part: Part, library: Library) -> tuple[AtOtherEnd, ...]:
    """Of a load whose pieces go from spindle to spindle: each feature tried at the other end, what shortens the cycle
    and brings no error, the best first.
    """
    if not load.where.handed_over:
        return ()
    first, second = load.load.setups
    errors, found = _errors(ledger), list[AtOtherEnd]()
    for here, there in ((first, second), (second, first)):
        for feature in ledger.assigned[here]:
            try:
                plan, _ = MoveFeature((feature,), there).apply(ledger.plan, Scene(part, library, ledger))
                other = evaluate(plan, part, library)
            except PlanError:
                continue
            saves = load.cycle - other.load_of(first).cycle
            if saves > LEAST_GAIN and _errors(other) <= errors:
                each = ledger.prices[0].each - other.prices[0].each
                found.append(AtOtherEnd(feature, there, saves, each))
    return tuple(sorted(found, key=lambda one: -one.saves)[:MOST])


@dataclass(frozen=True)
class Pulled:
    """The bar pulled on by the counter spindle in place of being fed: seconds of a cycle with its loading, and money a
    piece, that this saves.
    """

    saves: float
    each: Decimal


def pulled_on(load: LoadLedger, ledger: Ledger, part: Part, library: Library) -> Pulled | None:
    """None where it is so already, cannot be, brings an error or saves nothing."""
    if not load.where.handed_over or load.where.pulled:
        return None
    try:
        plan, _ = PullBar(load.load.id).apply(ledger.plan, Scene(part, library, ledger))
        other = evaluate(plan, part, library)
    except PlanError:
        return None
    then = other.load_named(load.load.id)
    saves = load.cycle + load.idle - then.cycle - then.idle
    if saves <= LEAST_GAIN or _errors(other) > _errors(ledger):
        return None
    return Pulled(saves, ledger.prices[0].each - other.prices[0].each)


def _errors(ledger: Ledger) -> int:
    return sum(f.severity == Severity.ERROR for f in ledger.findings)
