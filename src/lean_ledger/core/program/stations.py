"""What a setup's tools are called by at the machine."""

from __future__ import annotations

from lean_ledger.core.ledger import SetupLedger


def tool_numbers(setup: SetupLedger) -> dict[str, int]:
    """By tool id: its number in a magazine, on a lathe its station in the turret, in the order of first use."""
    tools = {e.operation.tool.id: e.operation.tool for e in setup.entries}
    if setup.machine.kind == "lathe":
        return {id: station for station, id in enumerate(tools, start=1)}
    return {id: tool.number for id, tool in tools.items()}
