"""What could hold a setup, as it goes over the wire."""

from __future__ import annotations

from pydantic import BaseModel


class GripView(BaseModel):
    """One fixture in one turn: what it touches, friction over the greatest cutting force, what stands against it."""

    fixture: str
    name: str
    turn: int
    touches: str
    safety: float | None
    load_seconds: float
    holds: bool
    reasons: list[str]
    current: bool


class GripsView(BaseModel):
    """The best first."""

    grips: list[GripView]
