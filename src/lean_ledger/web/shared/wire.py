"""What all answers are made of: money as text, places, seconds by category."""

from __future__ import annotations

from datetime import UTC
from decimal import Decimal
from typing import Annotated

from pydantic import AwareDatetime, BaseModel, BeforeValidator, Field, PlainSerializer

Money = Annotated[Decimal, PlainSerializer(lambda v: f"{v:f}", return_type=str)]
#: Kept without a zone, which is UTC; told with it (RFC 3339).
Moment = Annotated[AwareDatetime, BeforeValidator(lambda at: at if at.tzinfo else at.replace(tzinfo=UTC))]
Point = tuple[float, float]
Number = Annotated[int, Field(ge=1, le=2**31)]  # of a job, a plan, a line of the journal
Vec = tuple[float, float, float]


class SecondsView(BaseModel):
    category: str
    seconds: float
