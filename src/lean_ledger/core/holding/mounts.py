"""Where fixtures sit: by mounts of the same name, so that a change of machine moves them by itself."""

from __future__ import annotations

from lean_ledger.core.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.holding.vise import Hold
from lean_ledger.core.plan import SetupDecision
from lean_ledger.library.types import Machine


def mount_findings(setup: SetupDecision, hold: Hold, machine: Machine) -> list[Finding]:
    """A fixture whose mount the machine does not have, with what it offers."""
    wanted = hold.vise.mount
    if machine.mount(wanted) is not None:
        return []
    offered = ", ".join(m.name for m in machine.mounts)
    return [
        Finding(
            "no-mount", Severity.ERROR, Chapter.SETUPS, f"{hold.vise.name} finds no place on {machine.name}.",
            f"It sits on a mount named “{wanted}”; this machine offers: {offered}. Take another machine, or a fixture "
            "for one of these.",
            setup.id, cures=(Cure("Vise by the rule", {"change": "set-vise", "setup": setup.id, "vise": None}),)
            if setup.vise is not None else (),
        )
    ]  # fmt: skip
