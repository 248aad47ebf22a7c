"""The division of a part and its plan on other machines, as they go over the wire."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from lean_ledger.core.plan import Sizing, StockForm
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


class BegunView(BaseModel):
    """The part begun anew by the rules on a machine, or on a lathe and the mill of what it leaves; `left` are the
    titles of what somebody has to solve.
    """

    machines: list[str]
    name: str
    current: bool
    setups: int
    cycle: float
    setup_hours: Money
    each: Money
    bought: str
    cures: list[str]
    left: list[str]


class RefusedView(BaseModel):
    name: str
    why: str


class BeginningsView(BaseModel):
    """The best first: what leaves least to solve, of these the cheapest at the first quantity."""

    begun: list[BegunView]
    refused: list[RefusedView]
    untried: list[str]


class BoughtAsView(BaseModel):
    """The plan from other stock; `stays` are sides that stay as they are bought. Without a price it is `only_more` to
    buy and to cut, or there was no time to compute it.
    """

    named: str
    stays: str
    form: StockForm
    along: Literal["X", "Y", "Z"] | None
    sizing: Sizing
    stay: bool
    kg: float
    kg_more: float
    only_more: bool
    each: Money | None
    each_change: Money | None
    left: list[str]


class BoughtView(BaseModel):
    """What was evaluated first, the least first. None of a plan whose stock is delivered."""

    now: str
    kg: float
    each: Money
    others: list[BoughtAsView]


class BeginAgainBody(BaseModel):
    machines: list[str] = Field(min_length=1, max_length=2)
