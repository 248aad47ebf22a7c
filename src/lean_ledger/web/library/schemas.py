"""The shop's library as screens choose from it."""

from __future__ import annotations

from pydantic import BaseModel

from lean_ledger.web.setups.schemas import ToolView
from lean_ledger.web.shared.wire import Money


class MachineChoice(BaseModel):
    id: str
    name: str
    rate: Money
    max_rpm: float
    power: float
    tool_change: float
    kind: str
    axes: str


class FixtureChoice(BaseModel):
    id: str
    name: str
    kind: str
    mount: str


class MaterialChoice(BaseModel):
    id: str
    name: str
    density: Money
    price_per_kg: Money


class ThreadChoice(BaseModel):
    name: str
    series: str
    major: float
    pitch: float
    tap_drill: float


class LibraryView(BaseModel):
    machines: list[MachineChoice]
    fixtures: list[FixtureChoice]
    materials: list[MaterialChoice]
    threads: list[ThreadChoice]
    tools: list[ToolView]
    statuses: list[str]
