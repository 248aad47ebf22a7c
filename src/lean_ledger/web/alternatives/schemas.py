"""The plans of a job, several beside one another, and the combinations that are made by themselves."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from lean_ledger.web.shared.wire import Moment, Money


class AlternativeView(BaseModel):
    """A plan of the job; figures are those kept of its last version, None where there are none yet."""

    id: int
    name: str
    origin: str = Field(description="what it was forked from; empty for the job's first")
    chosen: bool = Field(description="the job is made by it")
    chosen_by: str = Field(description="empty where it is the job's from the first")
    chosen_at: Moment | None
    put_away: bool
    lines: int = Field(description="of its journal")
    last: datetime
    fresh: bool = Field(description="whether the figures are from what stands now")
    quantity: int | None = Field(description="that the price is for")
    cycle: float | None
    each: Money | None
    errors: int
    warnings: int
    followed: bool
    trouble: str


class AlternativesView(BaseModel):
    plans: list[AlternativeView]


class NewAlternative(BaseModel):
    """A plan forked from a line of this one's journal, with some changes made at once."""

    model_config = ConfigDict(extra="forbid")

    name: str = Field("", max_length=80, description="the name of the plan that it comes from by itself")
    seq: int | None = Field(None, ge=1, description="the line; the current one by itself")
    changes: list[dict[str, Any]] = Field(default=[], max_length=40)


class AlternativeEdit(BaseModel):
    model_config = ConfigDict(extra="forbid")

    name: str | None = Field(None, max_length=80)
    put_away: bool | None = None


class SideBySideQuery(BaseModel):
    plans: str = Field(pattern=r"^\d{1,9}(,\d{1,9})*$", description="ids of 2 to 5 plans of the job, with commas")


class SideRow(BaseModel):
    group: str
    name: str
    unit: Literal["words", "count", "seconds", "hours", "machine hours", "each"]
    values: list[str] = Field(description="of each plan, numbers as such; seconds and hours in full")
    best: list[int] = Field(description="which of them have the least, where less is better")
    differs: bool


class CurvePointOf(BaseModel):
    quantity: int
    each: list[Money] = Field(description="of each plan")


class StretchView(BaseModel):
    """From one number of pieces to another the least is one of these plans (their places)."""

    first: int
    last: int
    least: list[int]


class SideBySideView(BaseModel):
    plans: list[int]
    names: list[str]
    rows: list[SideRow]
    curve: list[CurvePointOf]
    stretches: list[StretchView]
    most: int = Field(description="up to which number of pieces it was looked")
    words: str = Field(description="who is the least up to which quantity")


class CombinationView(BaseModel):
    """A whole plan: machine and stock name its row, pieces and order its column."""

    on: str
    stock: str
    pieces: str
    order: str
    counts: list[int] = Field(description="pieces a cycle of each load")
    name: str
    each: list[Money] = Field(description="at each of the plan's quantities")
    cycle: float
    setup_hours: float
    left: list[str] = Field(description="titles of what is left to solve")
    changes: list[dict[str, Any]] = Field(description="that lead to it from the plan as it stands")


class RefusedMachine(BaseModel):
    name: str
    why: str


class GridView(BaseModel):
    line: int = Field(description="of the journal, that the combinations go on from")
    quantities: list[int]
    combinations: list[CombinationView]
    refused: list[RefusedMachine]
    untried: list[str]
