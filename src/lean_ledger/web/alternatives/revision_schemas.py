"""What another revision of a part costs."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from lean_ledger.web.shared.wire import Money


class FeatureCostView(BaseModel):
    """Seconds of a piece with the ways to its operations; an operation on several features is shared evenly."""

    feature: str
    title: str
    became: Literal["same", "moved", "resized", "new", "gone"]
    words: str = Field(description="what became of its measures")
    before: float
    after: float
    each: Money = Field(description="what they change in the price of a piece")


class SetupCostView(BaseModel):
    """Before and after; None where the setup is not there."""

    setup: str
    seconds: list[float | None]
    hours: list[float | None]
    each: list[Money] = Field(
        description="at each quantity, what a piece's price changes by for setting up and running"
    )


class LineChange(BaseModel):
    line: str
    each: Money


class RevisedPriceView(BaseModel):
    quantity: int
    before: Money
    after: Money
    lines: list[LineChange] = Field(description="what each line of the cost changes by, a piece")


class OnceView(BaseModel):
    what: str
    how: str
    amount: Money


class SubprogramView(BaseModel):
    """same: to the byte; renumbered: every move is the same, its number is another."""

    program: str
    operation: str
    name: str
    number: int
    stays: Literal["same", "renumbered", "changed", "new", "gone"]


class RevisionPriceView(BaseModel):
    before: str
    after: str
    line: int = Field(description="of the journal, at which the plan last made the revision before")
    features: list[FeatureCostView]
    rest: list[float] = Field(description="seconds that belong to no feature, before and after")
    setups: list[SetupCostView]
    prices: list[RevisedPriceView]
    once: list[OnceView]
    paid_once: Money
    fixtures: Money
    on_shelf: int
    programs: list[SubprogramView]
