"""What all answers are made of: money as text, places, seconds by category."""

from __future__ import annotations

from datetime import UTC
from decimal import Decimal
from typing import Annotated, Any

from pydantic import AwareDatetime, BaseModel, BeforeValidator, Field, PlainSerializer, WithJsonSchema

Money = Annotated[Decimal, PlainSerializer(lambda v: f"{v:f}", return_type=str)]
#: Kept without a zone, which is UTC; told with it (RFC 3339).
Moment = Annotated[AwareDatetime, BeforeValidator(lambda at: at if at.tzinfo else at.replace(tzinfo=UTC))]
Point = tuple[float, float]
Number = Annotated[int, Field(ge=1, le=2**31)]  # of a job, a plan, a line of the journal
Vec = tuple[float, float, float]
#: Titles of schemas that are made by core and described by another one: by its name in the document.
MEANT = {"Ready change": "ChangeBody", "Ready edit": "EditOperation"}
#: A change of the plan, ready to be sent: made by core, so that it is described and not checked again.
ReadyChange = Annotated[dict[str, Any], WithJsonSchema({"type": "object", "title": "Ready change"})]
ReadyEdit = Annotated[dict[str, Any], WithJsonSchema({"type": "object", "title": "Ready edit"})]


class SecondsView(BaseModel):
    category: str
    seconds: float
