"""What is wrong with operations that are to run at the same time on a machine of several carriages."""

from __future__ import annotations

from collections.abc import Iterator

from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.loads.balanced import Finder
from lean_ledger.core.loads.drum import DrumFinder, finder_of
from lean_ledger.core.loads.lanes import carriage_for
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.plan import AtOneSpeed

OVER = 0.5  # rpm that are not worth a word


def beside_findings(load: LoadLedger) -> Iterator[Finding]:
    """Of each group at one speed: one that is too fast for an operation, that cannot share, that shares for nothing."""
    if not load.machine.works_at_once or not (load.load.at_one_speed or load.machine.drum):
        return
    finder = finder_of(load)
    if isinstance(finder, DrumFinder):
        yield from _on_drum(finder, load)
    for group in load.load.at_one_speed:
        there = [id for id in group.operations if id in finder.operations]
        yield from _alone(finder, load, there)
        able = [id for id in there if finder.most(id) is not None]
        if len(able) > 1:
            yield from _too_fast(finder, load, group, able)
            yield from _for_nothing(finder, load, able)


def _on_drum(finder: DrumFinder, load: LoadLedger) -> Iterator[Finding]:
    """Work that the drum's slides and positions do not allow as it is shared out."""
    cure = Cure("Spread over the positions", {"change": "spread-out", "load": load.load.id})
    for code, id, other in finder.troubles(finder.now):
        op, first = finder.operations[id], finder.operations.get(other)
        title, why = {
            "too-early": (
                f"“{op.name}” is at a position before “{first.name if first is not None else other}”.",
                "Pieces go on from position to position: what it waits for has to be at the same one or before.",
            ),
            "slide-full": (
                f"{other} has no place for the tool of “{op.name}”.",
                f"A slide takes {finder.tools}. Make it at another position, or with the tool that stands there.",
            ),
            "cut-off-early": (
                f"“{op.name}” cuts the piece off before the last position.",
                "Behind it nothing is left to work on, and the bar is fed in the last position.",
            ),
            "wrong-slide": (
                f"“{op.name}” is not made from {other}.",
                "A tool works across the spindle or from its end.",
            ),
        }[code]
        yield Finding(code, Severity.ERROR, Chapter.BALANCE, title, why, op.setup, operation=id, cures=(cure,))


def _own_speed(load: LoadLedger, *operations: str) -> dict[str, object]:
    return {"change": "own-speed", "load": load.load.id, "operations": list(operations)}


def _alone(finder: Finder, load: LoadLedger, there: list[str]) -> Iterator[Finding]:
    for id in there:
        op = finder.operations[id]
        if finder.most(id) is None:
            yield Finding(
                "alone-on-spindle", Severity.WARNING, Chapter.BALANCE, f"“{op.name}” shares no speed with others.",
                "It reverses the spindle, follows a thread, or its tool is driven; it runs by itself.", op.setup,
                operation=id, cures=(Cure("Its own speed", _own_speed(load, id)),),
            )  # fmt: skip


def _too_fast(finder: Finder, load: LoadLedger, group: AtOneSpeed, able: list[str]) -> Iterator[Finding]:
    slowest = min(able, key=lambda id: finder.most(id) or 0.0)
    most = finder.most(slowest) or 0.0
    if group.n <= most + OVER:
        return
    op, fit = finder.operations[slowest], finder.shared(frozenset(able))
    past = group.n > load.machine.spindle.max_rpm
    change = {"change": "share-speed", "load": load.load.id, "operations": able, "n": fit}
    yield Finding(
        "shared-too-fast", Severity.ERROR if past else Severity.WARNING, Chapter.BALANCE,
        f"{group.n:.0f} rpm, which is shared, is too fast for “{op.name}”.",
        f"{load.machine.name} turns at {load.machine.spindle.max_rpm:g} at the most." if past else
        f"Its cutting data allow {most:.0f}: its edge would wear faster than the price says.",
        op.setup, operation=slowest, cures=(Cure(f"All at {fit:.0f} rpm", change),),
    )  # fmt: skip


def _for_nothing(finder: Finder, load: LoadLedger, able: list[str]) -> Iterator[Finding]:
    carriages = {carriage_for(load.load, load.machine, finder.operations[id]) for id in able}
    if len(carriages) > 1:
        return
    names = ", ".join(f"“{finder.operations[id].name}”" for id in able)
    yield Finding(
        "shares-for-nothing", Severity.WARNING, Chapter.BALANCE, f"{names} share a speed on {carriages.pop()}.",
        "One carriage makes them one after the other: at their own speeds they would be no longer.",
        finder.operations[able[0]].setup, operation=able[0],
        cures=(Cure("Each at its own speed", _own_speed(load, *able)),),
    )  # fmt: skip
