"""The machine of a new plan: the usual one where it makes the part whole, else the one that does at the least price, or
that leaves the least.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import inf
from time import monotonic

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.first.mended import errors_of, mended
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.machines import moved_to
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan
from lean_ledger.core.setups.first_plan import quick_plan
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Library

MOST_FEATURES = 100  # of a part that is tried on every machine: somebody waits for its plan


@dataclass(frozen=True)
class Begun:
    """A plan with its ledger; `words` say why it is on another machine than usual and which cures were taken; empty
    where neither is.
    """

    plan: Plan
    ledger: Ledger
    words: str = ""


def begun(
    part: Part, material: str, quantities: tuple[int, ...], library: Library, report: Report = silent,
    patience: float = inf,
) -> tuple[Begun, ...]:  # fmt: skip
    """The plan that a new job gets: on the usual machine, or before it those on other machines that leave less to
    solve, none at best, at the least price of the first quantity first. After `patience` seconds no further machine is
    tried, and the words say so.

    Raises PlanError for a material that is not in the library or a quantity below 1.
    """
    plan = quick_plan(part, material, quantities, library)
    until = monotonic() + patience
    usual = _mended(plan, evaluate(plan, part, library, report=report), part, library, until)
    lacking = errors_of(usual.ledger)
    if not lacking or len(part.features) > MOST_FEATURES:
        return (usual,)
    others = [machine for machine in library.machines if machine.id != plan.loads[0].machine]
    tried: list[tuple[Machine, Begun]] = []
    left_out = ""
    for k, machine in enumerate(others):
        if monotonic() > until:
            left_out = f"{len(others) - k} machines were not tried"
            break
        report(f"trying {machine.name}", k / len(others))
        tried += _tried(plan, machine, part, library, until)
    tried.sort(key=lambda pair: (len(errors_of(pair[1].ledger)), pair[1].ledger.prices[0].each))
    # where no machine makes the part whole, the one that leaves the least
    least = len(errors_of(tried[0][1].ledger)) if tried else len(lacking)
    name = usual.ledger.loads[0].machine.name
    found = [
        Begun(
            one.plan, one.ledger,
            "; ".join(
                words for words in
                (f"on {machine.name}, which {_leaves(least)}", f"{name} leaves {_of(len(lacking))}", one.words,
                 left_out)
                if words
            ),
        ) for machine, one in tried if len(errors_of(one.ledger)) == least < len(lacking)
    ]  # fmt: skip
    return (*found, usual) if found else (replace(usual, words="; ".join(w for w in (usual.words, left_out) if w)),)


def _leaves(count: int) -> str:
    return f"leaves {_of(count)}" if count else "makes all of it"


def _tried(plan: Plan, machine: Machine, part: Part, library: Library, until: float) -> Iterator[tuple[Machine, Begun]]:
    """The plan on another machine, where that holds the part."""
    try:
        moved = moved_to(plan, machine, part, library)
        found = _mended(moved, evaluate(moved, part, library), part, library, until)
    except PlanError:
        return
    yield machine, found


def _mended(plan: Plan, ledger: Ledger, part: Part, library: Library, until: float) -> Begun:
    plan, ledger, taken = mended(plan, ledger, part, library, until)
    return Begun(plan, ledger, f"mended: {'; '.join(taken)}" if taken else "")


def _of(count: int) -> str:
    return "one thing to solve" if count == 1 else f"{count} things to solve"
