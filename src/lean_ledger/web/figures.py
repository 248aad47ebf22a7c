"""Small views that many others are made of."""

from __future__ import annotations

from collections.abc import Mapping

from lean_ledger.core.findings import Figure
from lean_ledger.library.types import Tool
from lean_ledger.web import schemas as s


def figure(f: Figure) -> s.FigureView:
    return s.FigureView(label=f.label, formula=f.formula, value=f.value, unit=f.unit)


def seconds_view(seconds: Mapping[str, float]) -> list[s.SecondsView]:
    return [s.SecondsView(category=category, seconds=value) for category, value in seconds.items()]


def tool_view(tool: Tool) -> s.ToolView:
    return s.ToolView(
        id=tool.id,
        number=tool.number,
        kind=tool.kind.value,
        description=tool.description,
        diameter=tool.diameter,
        flutes=tool.flutes,
        cutting_length=tool.cutting_length,
        reach=tool.reach,
    )
