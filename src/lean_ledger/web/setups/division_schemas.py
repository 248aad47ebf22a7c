"""The division of a part and its plan on other machines, as they go over the wire."""

from __future__ import annotations

from pydantic import BaseModel

from lean_ledger.web.shared.wire import Money


class LostView(BaseModel):
    """A feature that no setup of three axes reaches, and the machines of the shop that could."""

    feature: str
    title: str
    machines: list[str]


class DivisionView(BaseModel):
    """What the solver makes of the part: `least` setups; `sides` that would do, where they are fewer than now."""

    least: int
    proven: bool
    sides: list[str]
    clashes: list[str]
    together: list[list[str]]
    before: list[list[str]]
    lost: list[LostView]


class OnMachineView(BaseModel):
    """All setups on one machine; where `refused` says why not, the figures are none."""

    id: str
    name: str
    axes: str
    rate: Money
    current: bool
    refused: str
    cycle: float | None
    setup_hours: Money | None
    each: Money | None
    cycle_change: float | None
    each_change: Money | None
    come: list[str]
    gone: list[str]


class MachinesView(BaseModel):
    machines: list[OnMachineView]
