"""The stock through the operations, as it goes over the wire."""

from __future__ import annotations

from pydantic import BaseModel, Field

from lean_ledger.web.plans.schemas import PlanPath
from lean_ledger.web.shared.wire import Vec


class StockStepView(BaseModel):
    """After an operation: mm³ that the stock has left, its kg, and mm³ that the operation took off.

    `rate` is the greatest mm³/min that a mill took, `stated` what its operation says; 0 for other tools.
    """

    operation: str
    name: str
    setup: str
    volume: float
    kg: float
    removed: float
    rate: float
    stated: float


class RemainderView(BaseModel):
    """A piece left on the part or cut out of it; `amounts` are mm off the part's surface, on each triangle."""

    cut_into: bool
    amount: float
    volume: float
    at: Vec
    feature: str
    operation: str
    vertices: list[float]
    triangles: list[int]
    amounts: list[float]


class StockView(BaseModel):
    """The stock's way through the operations, which ends larger than the part by `over_share` of it.

    `unknown` says why it could not be followed.
    """

    unknown: str
    start: float
    part: float
    over_share: float
    kg: float
    steps: list[StockStepView]
    remainders: list[RemainderView]


class StockSolidView(BaseModel):
    """Flat lists, three numbers a vertex and three a triangle."""

    vertices: list[float]
    triangles: list[int]


class HeightQuestion(BaseModel):
    point: Vec
    along: Vec


class HeightView(BaseModel):
    """mm of stock along the line."""

    height: float


class StockPath(PlanPath):
    count: int = Field(ge=0, description="Operations that are done")
