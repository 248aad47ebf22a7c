"""The shop's tools, holders and cutting data as the API shows them, and the calculator's answers."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, Field

from lean_ledger.web.pace.schemas import LoadView
from lean_ledger.web.setups.schemas import FigureView
from lean_ledger.web.shared.requests import Uploaded


class ShelfToolView(BaseModel):
    """A tool under the columns of the tool file; what its kind does not have is empty."""

    row: dict[str, str]
    own: bool = Field(description="the shop's own, not as it ships")
    measures: list[str] = Field(description="the symbols that its kind has")
    asks: list[str] = Field(description="what the calculator can be told for it")
    turns: bool = Field(description="for a lathe")
    materials: list[str] = Field(description="that there is cutting data for")


class HolderView(BaseModel):
    id: str
    description: str
    diameter: float
    length: float
    tools: int


class CuttingRowView(BaseModel):
    row: dict[str, str]
    own: bool


class MagazineView(BaseModel):
    """The tools that stand in a machine, by their ids, and those that could."""

    machine: str
    name: str
    pockets: int
    places: str = Field(description="pockets or stations")
    own: bool
    tools: list[str]
    others: list[str]


class MachinePath(BaseModel):
    machine: str


class MagazineBody(BaseModel):
    tools: list[str] = Field(max_length=400, description="ids; on a lathe in the order of the stations")


class SetAsideView(BaseModel):
    """A row of the shop's own that cannot be used."""

    what: str
    key: str
    why: str


class ShelfView(BaseModel):
    tools: list[ShelfToolView]
    holders: list[HolderView]
    cutting: list[CuttingRowView]
    magazines: list[MagazineView]
    set_aside: list[SetAsideView]
    columns: list[str]
    cutting_columns: list[str]


class BroughtView(BaseModel):
    brought: list[str]
    notes: list[str]


class ToolsForm(BaseModel):
    file: Uploaded = Field(description="Tools, or cutting data, as CSV or JSON")


class ToolRowBody(BaseModel):
    """One tool under the columns of the tool file."""

    row: dict[str, Any]


class ShelfFile(BaseModel):
    file: str


class OwnPath(BaseModel):
    what: str = Field(pattern="^(tool|cutting|chains|magazine|factor)$")
    key: str


class CalculatorQuery(BaseModel):
    tool: str
    material: str
    machine: str
    ap: float = Field(default=0.0, ge=0, le=1000, description="mm; 0 for the usual")
    ae: float = Field(default=0.0, ge=0, le=1000, description="mm; 0 for the usual")
    speed: float = Field(default=1.0, gt=0, le=10)
    feed: float = Field(default=1.0, gt=0, le=10)
    diameter: float = Field(default=40.0, gt=0, le=2000, description="of turned work, mm")


class CalculatedView(BaseModel):
    n: float
    vf: float
    vc: float
    fz: float
    ap: float
    ae: float
    removal: float = Field(description="cm³/min")
    life: float = Field(description="minutes in cut")
    source: str
    load: LoadView
    figures: list[FigureView]
    notes: list[str]


class ChainRuleView(BaseModel):
    """A rule as it stands in the file of rules, and its conditions in words."""

    row: dict[str, Any]
    conditions: list[str]


class ChainsView(BaseModel):
    rules: list[ChainRuleView]
    own: bool = Field(description="whether the shop changed what ships")
    steps: dict[str, list[str]] = Field(description="by the sort of feature, in their order")
    numbers: dict[str, dict[str, str]] = Field(
        description="by the sort of feature: conditions with a number, each with its words; {} stands for it"
    )
    facts: dict[str, list[str]] = Field(description="by the sort of feature: conditions that are true or false")
    materials: dict[str, str]


class ChainsBody(BaseModel):
    rules: list[dict[str, Any]]
