"""What the pages of quotes and customers are told, and send."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from lean_ledger.web.shared.wire import Moment, Money, Number

Short = Annotated[str, Field(max_length=120)]
Long = Annotated[str, Field(max_length=600)]
Exact = Annotated[str, Field(pattern=r"^-?\d{1,9}(\.\d{1,9})?$", description="A decimal number")]


class QuotePath(BaseModel):
    quote_id: Number


class CustomerPath(BaseModel):
    customer_id: Number


class CustomerBody(BaseModel):
    name: Short
    address: list[Short] = Field([], max_length=6)
    contact: Short = ""
    currency: Short = ""
    payment: Short = ""
    delivery: Short = ""
    discount: Exact = "0"
    note: Long = ""


class CustomerView(BaseModel):
    id: int
    name: str
    address: list[str]
    contact: str
    currency: str
    payment: str
    delivery: str
    discount: Money
    note: str


class CustomersView(BaseModel):
    customers: list[CustomerView]


class AskedLineBody(BaseModel):
    plan: Number
    quantities: list[int] = Field(max_length=12)
    note: Long = ""


class NewQuote(BaseModel):
    """Of a customer by id, or by name: one that is not known is made."""

    customer: Number | None = None
    customer_name: Short = ""
    lines: list[AskedLineBody] = Field([], max_length=40)


class QuoteBody(BaseModel):
    """All of what a draft asks for; null and empty are the customer's own terms, else the shop's."""

    customer: Number
    lines: list[AskedLineBody] = Field(max_length=40)
    valid_days: int | None = None
    payment: Short = ""
    delivery: Short = ""
    not_included: list[Long] | None = Field(None, max_length=12)
    words: Annotated[str, Field(max_length=2000)] = ""


class OrderedBody(BaseModel):
    plan: Number
    quantity: int


class Decision(BaseModel):
    """What became of it: won with what was ordered, lost with a reason, or open again."""

    state: Literal["won", "lost", "open"]
    ordered: list[OrderedBody] = Field([], max_length=40)
    reason: Short = ""
    words: Long = ""


class BreakView(BaseModel):
    quantity: int
    each: Money
    lot: Money
    cost: Money
    margin: float = Field(description="share of the lot that is not its cost")
    ready: date
    weeks: int = Field(description="from the day of the quote, begun ones counted")
    raised: bool


class CheaperView(BaseModel):
    quantity: int
    than: int


class OfferLineView(BaseModel):
    plan: int
    plan_name: str
    version: int
    job: str
    name: str
    revision: str
    material: str
    breaks: list[BreakView]
    cheaper: list[CheaperView] = Field(description="from how many pieces on the next break costs less in all")
    note: str
    missing: list[str]


class OfferView(BaseModel):
    issued: date
    until: date
    currency: str
    rate: Money
    lines: list[OfferLineView]
    payment: str
    delivery: str
    not_included: list[str]
    words: str


class QuoteVersionView(BaseModel):
    id: int
    version: int
    state: str


class QuoteView(BaseModel):
    id: int
    number: str
    version: int
    state: str
    customer: CustomerView
    asked: QuoteBody
    offer: OfferView | None
    ordered: list[OrderedBody]
    reason: str
    reason_words: str
    changed: list[str]
    versions: list[QuoteVersionView]
    author: str
    made: Moment
    expired: bool
    mark: str = Field(description="another text whenever it offers something else")
    trouble: str = Field(description="why a draft cannot be priced")


class IssueBody(BaseModel):
    mark: Short = Field(description="of the offer as it was seen")


class QuoteRowView(BaseModel):
    id: int
    number: str
    version: int
    state: str
    customer: str
    parts: list[str]
    issued: date | None
    until: date | None
    currency: str
    expired: bool = Field(description="it waits for an answer, and is not valid any more")
    least: Money | None = Field(description="of its smallest lots together, in its currency")
    reason: str
    at: Moment


class TallyView(BaseModel):
    name: str
    won: int
    lost: int
    open: int
    rate: float | None
    ordered: Money
    margin: float | None


class ReasonView(BaseModel):
    reason: str
    count: int


class QuotesView(BaseModel):
    quotes: list[QuoteRowView]
    customers: list[TallyView]
    materials: list[TallyView]
    lost: list[ReasonView]
    reasons: list[str] = Field(description="that a quote can be lost for")
    currency: str


class QuoteFile(BaseModel):
    file: Literal["quotes.csv", "quotes.xlsx"]


class TermsBody(BaseModel):
    """The shop's own words on quotes."""

    name: Short
    address: list[Short] = Field(max_length=6)
    contact: Short
    currency: Short
    rates: list[tuple[Short, Exact]] = Field(max_length=30)
    step: Exact
    minimum_lot: Exact
    valid_days: int
    payment: Short
    delivery: Short
    not_included: list[Long] = Field(max_length=12)
