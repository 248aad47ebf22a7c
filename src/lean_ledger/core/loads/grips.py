"""All that the shop could hold a setup's stock with: what holds, the best first, and why the rest does not."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from lean_ledger.core.basis.findings import Cure, Finding, Severity
from lean_ledger.core.holding.checks import grip_findings
from lean_ledger.core.holding.hold import Hold, error
from lean_ledger.core.holding.placement import Bed, mount_findings
from lean_ledger.core.holding.resolve import Found, Lowest, held_in, resolve_hold
from lean_ledger.core.loads.force import SAFETY, cutting_force, force_findings
from lean_ledger.core.operations.build import BuiltSetup
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.safe.through import through
from lean_ledger.core.plan import Plan, SetupDecision, material_of
from lean_ledger.library.fixtures import Around
from lean_ledger.library.types import Library


@dataclass(frozen=True)
class Grip:
    """One way to hold: `findings` say what is against it; it holds where none of them is an error."""

    hold: Hold
    findings: tuple[Finding, ...]
    safety: float | None  # friction over the greatest cutting force; None where nothing is milled

    @property
    def holds(self) -> bool:
        return all(f.severity != Severity.ERROR for f in self.findings)


def grips(
    plan: Plan, setup: SetupDecision, found: Found, lowest: Lowest, operations: Sequence[Operation], library: Library,
    bed: Bed, first_turn: int,
) -> tuple[Grip, ...]:  # fmt: skip
    """Every fixture of the library, in each of its turns; those that hold come first, the quickest to load of them."""
    force = max((cutting_force(op) for op in operations), default=0.0)
    tried = []
    for fixture in library.fixtures:
        for turn in (first_turn,) if isinstance(fixture, Around) else (first_turn, (first_turn + 90) % 360):
            decided = replace(setup, fixture=fixture.id, grip=None, force=None, spacers=(), turn=turn)  # type: ignore[arg-type]
            hold = held_in(fixture, decided, found, turn, lowest)
            hold = hold.clear_of(through(operations, hold))
            found_wrong = against(decided, hold, plan, operations, library, bed)
            tried.append(Grip(hold, found_wrong, hold.friction / force if force else None))
    return tuple(sorted(tried, key=_rank))


def against(
    setup: SetupDecision, hold: Hold, plan: Plan, operations: Sequence[Operation], library: Library, bed: Bed
) -> tuple[Finding, ...]:  # fmt: skip
    """All that is wrong with how a setup is held."""
    return (
        *hold.findings(setup.id),
        *mount_findings(setup, hold.fixture, bed),
        *grip_findings(setup.id, hold, plan, material_of(plan, library)),
        *force_findings(setup, hold, operations),
    )


HELD_BY = {"set-fixture": "fixture", "set-turn": "turn", "set-grip": "grip"}  # changes of a hold, and what they set


def that_help(
    finding: Finding, setup: SetupDecision, plan: Plan, built: BuiltSetup, library: Library, bed: Bed
) -> Finding:  # fmt: skip
    """The finding with those cures about the hold that mend it: what is decided so already, or ends in the same, is
    none.
    """

    def helps(cure: Cure) -> bool:
        name = HELD_BY.get(cure.change["change"])
        if name is None:
            return True
        decided = replace(setup, **{name: cure.change[name]})
        if decided == setup:
            return False
        hold = resolve_hold(decided, built.found, library, bed, built.lowest)
        hold = hold.clear_of(through(built.operations, hold))
        wrong = against(decided, hold, plan, built.operations, library, bed)
        return all(f.code != finding.code for f in wrong)

    return replace(finding, cures=tuple(cure for cure in finding.cures if helps(cure)))


def _rank(grip: Grip) -> tuple[object, ...]:
    errors = sum(1 for f in grip.findings if f.severity == Severity.ERROR)
    firm = min(grip.safety if grip.safety is not None else 2 * SAFETY, 2 * SAFETY)
    return (errors, len(grip.findings) - errors, grip.hold.load_seconds, -firm, grip.hold.fixture.id, grip.hold.turn)


def cannot_be_held(setup: str, tried: Sequence[Grip]) -> Finding:
    """Where nothing of the shop holds: what stands against the nearest ones."""
    reasons: dict[str, str] = {}
    for grip in tried:
        worst = next(f for f in grip.findings if f.severity == Severity.ERROR)
        reasons.setdefault(worst.title, grip.hold.fixture.name)
    told = " ".join(list(reasons)[:4])
    return error(
        setup,
        "cannot-be-held",
        f"Nothing in the shop holds the part in setup {setup} after what comes before.",
        f"{told} Leave stock to hold by, make the setup earlier, or add a lug on the Part page.",
    )


def with_better(finding: Finding, tried: Sequence[Grip]) -> Finding:
    """A finding about a hold, with the best ones that would do as cures."""
    better = [g for g in tried if g.holds][:2]
    cures = tuple(
        Cure(
            f"{g.hold.fixture.name}, turned {g.hold.turn}°",
            {"change": "set-hold", "setup": finding.setup, "fixture": g.hold.fixture.id, "turn": g.hold.turn},
        )
        for g in better
    )
    return replace(finding, cures=(*cures, *finding.cures))
