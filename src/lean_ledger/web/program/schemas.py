"""What the API says of programs and of the simulated machine. Seconds, millimetres."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field


class ProgramPath(BaseModel):
    plan_id: int = Field(ge=1, le=2**31)
    setup: str


class WhichQuery(BaseModel):
    which: int = Field(default=1, ge=1, le=24, description="of the programs of a setup, one for each carriage")


class PartQuery(WhichQuery):
    """What of a load is to be run; what is not named leaves nothing out."""

    setups: list[str] = Field(default=[], max_length=24)
    pieces: list[str] = Field(default=[], max_length=200)
    sides: list[float] = Field(default=[], max_length=24)
    positions: list[int] = Field(default=[], max_length=24, description="of a drum of spindles")


class MachineProgramPath(BaseModel):
    plan_id: int = Field(ge=1, le=2**31)
    machine: str


class CategoryView(BaseModel):
    category: str
    ledger: float
    machine: float
    apart: float


class TroubleView(BaseModel):
    code: str
    line: int
    operation: str
    title: str
    why: str


class ProgramOffsetView(BaseModel):
    word: str
    side: str
    at: tuple[float, float, float]


class ProgramToolView(BaseModel):
    number: int
    description: str


class CallView(BaseModel):
    """A subprogram, and the line that it begins at."""

    number: int
    operation: str
    name: str
    line: int


class RanView(BaseModel):
    """What the machine did one after the other, in columns of one length: `kind` as in program-time."""

    start: list[float]
    seconds: list[float]
    kind: list[str]
    tool: list[int | None]
    call: list[int]
    line: list[int]


class DialectView(BaseModel):
    id: str
    name: str


class PartProgramView(BaseModel):
    """What a part of a load takes: seconds on the simulated machine, and what it would stop at."""

    words: str
    files: list[str] = Field(description="one for each carriage that has something to run")
    total: float
    difference: float
    troubles: list[TroubleView]


class SetupProgramView(BaseModel):
    """Of a carriage of a machine that has several, run beside the others; `which` of the setup's it is, from 1."""

    id: str
    which: int
    carriage: str
    setup: str
    setups: list[str]
    machine: str
    dialect: str
    dialects: list[DialectView] = Field(description="that the machine reads, the usual one first")
    dialect_decided: bool
    file: str
    text: str
    total: float
    difference: float = Field(description="share of the ledger's cycle by which the machine takes longer")
    non_cutting: float
    seconds: list[CategoryView]
    cycle: CategoryView
    troubles: list[TroubleView]
    offsets: list[ProgramOffsetView]
    tools: list[ProgramToolView]
    calls: list[CallView]
    ran: RanView


class JoinedView(BaseModel):
    """All setups of a machine in one file; `refused` says why they cannot be."""

    machine: str
    name: str
    file: str
    setups: list[str]
    total: float
    troubles: list[TroubleView]
    refused: str


class ProgramsView(BaseModel):
    setups: list[SetupProgramView]
    issued_by: Literal["setup", "machine"] = Field(description="setup or machine: what has a file of its own")
    joined: list[JoinedView] = Field(description="of machines that make more than one setup")


class RunTimesView(BaseModel):
    setup: str
    program: str
    machine: str
    planned: float
    seconds: list[float]
    mean: float
    over: float = Field(description="share of the planned seconds that the mean lies over them")


class SendQuery(BaseModel):
    runs: int = Field(5, ge=1, le=200, description="cycles that are waited for")


class SentView(BaseModel):
    runs: list[RunTimesView]


class TrialPath(BaseModel):
    plan_id: int = Field(ge=1, le=2**31)
    setup: str
    which: str = Field(pattern="^(own|attached)$")


class TrialUseView(BaseModel):
    path: str = Field(description="the carriage whose program it is, where the machine has several")
    tool: int
    description: str
    line: int
    seconds: float
    removed: float = Field(description="mm³")


class TrialMetView(BaseModel):
    """What the program runs into; the place is in the axes of the setup, or of the part where it is cut into."""

    path: str
    line: int
    tool: int
    how: str
    what: str
    amount: float


class TrialView(BaseModel):
    setup: str
    which: str
    seconds: float
    uses: list[TrialUseView]
    removed: float
    planned: float = Field(description="mm³ that the plan's own operations of the setup take off")
    met: list[TrialMetView]
    troubles: list[TroubleView]
