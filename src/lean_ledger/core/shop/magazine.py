"""Which tools stand set up in a machine: refused where that cannot be."""

from __future__ import annotations

from collections.abc import Sequence

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Library, Tool


def stands_in(tool: Tool, machine: Machine) -> bool:
    """Whether a machine of the kind can use it at all."""
    return machine.turns_work or not tool.kind.is_insert


def checked_magazine(machine: Machine, tools: Sequence[str], library: Library) -> tuple[str, ...]:
    """The tools in their order. Raises PlanError for one that is unknown, doubled or does not fit, and for too many."""
    if machine.tool_pockets == 0 and tools:
        raise PlanError("no-magazine", f"tools of {machine.name} are changed by hand; none stands in it")
    if len(tools) > machine.tool_pockets:
        raise PlanError(
            "magazine-full",
            f"{machine.name} has {machine.tool_pockets} pockets, these are {len(tools)} tools; take one out first",
        )
    for i, id in enumerate(tools):
        tool = library.tool(id)
        if tool is None:
            raise PlanError("no-such-tool", f"there is no tool {id!r} in the library", f"tool {i + 1}")
        if id in tools[:i]:
            raise PlanError("twice", f"{tool.description} ({id}) stands here a second time", f"tool {i + 1}")
        if not stands_in(tool, machine):
            words = f"{tool.description} is for a lathe; {machine.name} is a {machine.axes}"
            raise PlanError("not-for-mill", words, f"tool {i + 1}")
    return tuple(tools)


def where(*, to_set: bool) -> str:
    """In a setter's words."""
    return "to set up" if to_set else "in the machine"


def with_magazine(library: Library, machine: str, tools: Sequence[str]) -> tuple[tuple[str, tuple[str, ...]], ...]:
    """The library's magazines with one machine's exchanged."""
    return (*((id, held) for id, held in library.magazines if id != machine), (machine, tuple(tools)))
