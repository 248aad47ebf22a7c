"""Small views that many others are made of."""

from __future__ import annotations

from collections.abc import Mapping

from lean_ledger.core.basis.findings import Figure
from lean_ledger.library.types import Tool
from lean_ledger.web.setups import schemas as su
from lean_ledger.web.shared.wire import SecondsView


def figure(f: Figure) -> su.FigureView:
    return su.FigureView(label=f.label, formula=f.formula, value=f.value, unit=f.unit)


def seconds_view(seconds: Mapping[str, float]) -> list[SecondsView]:
    return [SecondsView(category=category, seconds=value) for category, value in seconds.items()]


def tool_view(tool: Tool) -> su.ToolView:
    return su.ToolView(
        id=tool.id,
        number=tool.number,
        kind=tool.kind.value,
        description=tool.description,
        diameter=tool.diameter,
        flutes=tool.flutes,
        cutting_length=tool.cutting_length,
        reach=tool.reach,
    )
