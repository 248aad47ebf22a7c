"""What a setup's tools are called by at the machine."""

from __future__ import annotations

from lean_ledger.core.loads.load_ledger import LoadLedger


def tool_numbers(setup: LoadLedger) -> dict[str, int]:
    """By tool id: its number in a magazine, on a lathe its station in the turret; those of all that its load makes.

    What stands in the turret keeps its station; the others take those that are free in the order of first use, then
    those of tools that the setup does not use.
    """
    tools = {e.operation.tool.id: e.operation.tool for e in setup.whole.rows}
    if setup.machine.turns_work:
        standing = {id: station for station, id in enumerate(setup.in_machine, start=1)}
        kept = {id: standing[id] for id in tools if id in standing}
        free = [n for n in range(1, len(standing) + len(tools) + 1) if n not in standing.values()]
        pockets = max(setup.machine.tool_pockets, len(tools))
        spare = [n for n in free if n <= pockets] + sorted(set(standing.values()) - set(kept.values()))
        return kept | dict(zip((id for id in tools if id not in standing), spare, strict=False))
    return {id: tool.number for id, tool in tools.items()}


def numbers_by_operation(setup: LoadLedger) -> dict[str, int]:
    """What the tool of each operation is called by: of several carriages each counts its own stations."""
    found: dict[str, int] = {}
    for own in setup.by_carriage:
        numbers = tool_numbers(own)
        found |= {e.operation.id: numbers[e.operation.tool.id] for e in own.rows}
    return found
