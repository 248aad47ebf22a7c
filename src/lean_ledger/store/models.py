"""Tables. Only decisions and files are truth; `analysis` is a cache that can be made again."""

from __future__ import annotations

from datetime import date, datetime

from sqlalchemy import Date, DateTime, ForeignKey, Index, LargeBinary, String, UniqueConstraint, text
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    pass


class FileRow(Base):
    """An uploaded file as it came, under the SHA-256 of its content."""

    __tablename__ = "file"

    hash: Mapped[str] = mapped_column(String(64), primary_key=True)
    name: Mapped[str]
    content: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    at: Mapped[datetime] = mapped_column(DateTime)
    made_from: Mapped[str | None] = mapped_column(ForeignKey("file.hash"))  # the drawing that a plate was made from


class AnalysisRow(Base):
    """What was read and recognised of one solid of a file: JSON, deflated."""

    __tablename__ = "analysis"

    file: Mapped[str] = mapped_column(ForeignKey("file.hash"), primary_key=True)
    solid: Mapped[int] = mapped_column(primary_key=True)
    version: Mapped[int]
    part: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    thumb: Mapped[str | None]  # a small picture, SVG; none where the row is from before


class JobRow(Base):
    __tablename__ = "job"

    id: Mapped[int] = mapped_column(primary_key=True)
    number: Mapped[str]
    name: Mapped[str]
    customer: Mapped[str]
    status: Mapped[str]
    due: Mapped[date | None] = mapped_column(Date)
    at: Mapped[datetime] = mapped_column(DateTime)
    ordered: Mapped[int | None]  # pieces


class RevisionRow(Base):
    """One revision of a job's part: one solid of one file. Letters in order: A, B, …"""

    __tablename__ = "revision"
    __table_args__ = (UniqueConstraint("job", "letter"), Index("revision_job", "job"))

    id: Mapped[int] = mapped_column(primary_key=True)
    job: Mapped[int] = mapped_column(ForeignKey("job.id"))
    letter: Mapped[str]
    file: Mapped[str] = mapped_column(ForeignKey("file.hash"))
    solid: Mapped[int]
    author: Mapped[str]
    at: Mapped[datetime] = mapped_column(DateTime)


class PlanRow(Base):
    """A plan: which of its versions is current. `edition` grows with every write, undo included.

    Of a job's plans one is chosen: the job is made by it.
    """

    __tablename__ = "plan"
    __table_args__ = (
        Index("plan_job", "job"),
        Index("plan_chosen", "job", unique=True, sqlite_where=text("chosen")),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    job: Mapped[int] = mapped_column(ForeignKey("job.id"))
    name: Mapped[str]
    edition: Mapped[int]
    current: Mapped[int]  # seq of a version
    chosen: Mapped[bool]
    put_away: Mapped[bool]  # out of sight, with all that it holds
    origin: Mapped[str]  # what it was forked from, in words; empty for a job's first
    chosen_by: Mapped[str] = mapped_column(default="")  # who, and when; empty where it was chosen from the first
    chosen_at: Mapped[datetime | None] = mapped_column(DateTime, default=None)


class VersionRow(Base):
    """One line of a plan's journal: the decisions after it, who made it, its words and its effect."""

    __tablename__ = "version"
    __table_args__ = (UniqueConstraint("plan", "seq"), Index("version_parent", "plan", "parent"))

    id: Mapped[int] = mapped_column(primary_key=True)
    plan: Mapped[int] = mapped_column(ForeignKey("plan.id"))
    seq: Mapped[int]
    parent: Mapped[int | None]
    decisions: Mapped[str]
    author: Mapped[str]
    words: Mapped[str]
    effect: Mapped[str]
    at: Mapped[datetime] = mapped_column(DateTime)


class SummaryRow(Base):
    """What the list of jobs shows of a version, kept so that no list computes; `made_by` is what it was computed with.

    A cache: what is missing or was made by something else is made again.
    """

    __tablename__ = "summary"

    plan: Mapped[int] = mapped_column(ForeignKey("plan.id"), primary_key=True)
    seq: Mapped[int] = mapped_column(primary_key=True)
    made_by: Mapped[str]
    material: Mapped[str]
    cycle: Mapped[float]
    each: Mapped[float]  # to sort by; the row has it to the cent
    errors: Mapped[int]
    warnings: Mapped[int]
    row: Mapped[str]  # JSON


class FollowedRow(Base):
    """What was found on a stock that was followed, JSON, deflated, under what it was computed from.

    A cache: the newest are kept, what is missing is followed again.
    """

    __tablename__ = "followed"

    key: Mapped[str] = mapped_column(String(64), primary_key=True)
    content: Mapped[bytes] = mapped_column(LargeBinary)
    at: Mapped[datetime] = mapped_column(DateTime)


class NoteRow(Base):
    """What the program notes for itself: how far a demo was loaded."""

    __tablename__ = "note"

    key: Mapped[str] = mapped_column(primary_key=True)
    value: Mapped[str]


class RunRow(Base):
    """A cycle that a machine ran, as it came back; `sections`: JSON of (tool, category, planned, actual), seconds."""

    __tablename__ = "run"
    __table_args__ = (Index("run_plan", "plan"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    plan: Mapped[int] = mapped_column(ForeignKey("plan.id"))
    seq: Mapped[int]  # of the version that it ran
    load: Mapped[str]
    machine: Mapped[str]
    program: Mapped[str]
    number: Mapped[int]  # of the program's runs
    sections: Mapped[str]
    at: Mapped[datetime] = mapped_column(DateTime)


class FloorRow(Base):
    """What was noted at a machine, under the token that its device gave it: it comes once, however often it is sent.

    `data`: JSON, with what the load was planned at then.
    """

    __tablename__ = "floor"
    __table_args__ = (Index("floor_plan", "plan", "load"),)

    token: Mapped[str] = mapped_column(String(64), primary_key=True)
    plan: Mapped[int] = mapped_column(ForeignKey("plan.id"))
    load: Mapped[str]
    kind: Mapped[str]
    data: Mapped[str]
    author: Mapped[str]
    at: Mapped[datetime] = mapped_column(DateTime)  # by the device
    received: Mapped[datetime] = mapped_column(DateTime)


class CustomerRow(Base):
    """Who quotes go to; `terms`: JSON of what is agreed."""

    __tablename__ = "customer"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(unique=True)
    terms: Mapped[str]
    at: Mapped[datetime] = mapped_column(DateTime)


class QuoteRow(Base):
    """A version of a quote. `asked`: JSON of what it is to offer, `issued` what it offered, with its PDF as a file."""

    __tablename__ = "quote"
    __table_args__ = (UniqueConstraint("number", "version"), Index("quote_customer", "customer"))

    id: Mapped[int] = mapped_column(primary_key=True)
    number: Mapped[str]
    version: Mapped[int]
    customer: Mapped[int] = mapped_column(ForeignKey("customer.id"))
    state: Mapped[str]
    asked: Mapped[str]
    issued: Mapped[str]
    pdf: Mapped[str | None] = mapped_column(ForeignKey("file.hash"))
    decided: Mapped[str]  # JSON: what was ordered, or why not
    author: Mapped[str]
    made: Mapped[datetime] = mapped_column(DateTime)
    at: Mapped[datetime] = mapped_column(DateTime)  # when its state was last another


class ShopRow(Base):
    """A row of the library that is the shop's own: a tool by its id, cutting data by family and material."""

    __tablename__ = "shop"

    what: Mapped[str] = mapped_column(primary_key=True)
    key: Mapped[str] = mapped_column(primary_key=True)
    row: Mapped[str]
    author: Mapped[str]
    at: Mapped[datetime] = mapped_column(DateTime)
