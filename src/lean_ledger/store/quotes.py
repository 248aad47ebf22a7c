"""Quotes and their customers: asked for, issued, changed, won or lost. What was issued is kept as it was."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime
from hashlib import sha256
from typing import TYPE_CHECKING, Any

from pydantic import TypeAdapter
from sqlalchemy import func, select, update
from sqlalchemy.orm import Session

from lean_ledger.core.basis.errors import LedgerError, PlanError
from lean_ledger.core.basis.plain_text import check_text
from lean_ledger.core.capacity.lots import Of, lot_of
from lean_ledger.core.papers.projection import View, view_of
from lean_ledger.core.quoting.asked import Asked, AskedLine, CustomerTerms, Priced, QuoteOf, line_of, offer_of
from lean_ledger.core.quoting.checked import check_asked, check_customer
from lean_ledger.core.quoting.offer import Offer, OfferLine, differences
from lean_ledger.core.quoting.pdf import quote_pdf
from lean_ledger.core.quoting.record import LOST, Decided, Ordered, Outcome, check_ordered
from lean_ledger.core.shop.summary import summary_of
from lean_ledger.store.alternatives import chosen_now
from lean_ledger.store.database import Database
from lean_ledger.store.models import CustomerRow, FileRow, JobRow, PlanRow, QuoteRow
from lean_ledger.store.rows import now, plan_row

if TYPE_CHECKING:
    from lean_ledger.library.business import ShopTerms
    from lean_ledger.store.desk import Desk

OFFERS: TypeAdapter[Offer] = TypeAdapter(Offer)
CUSTOMERS: TypeAdapter[CustomerTerms] = TypeAdapter(CustomerTerms)
DECIDED: TypeAdapter[Decided] = TypeAdapter(Decided)
ASKED: TypeAdapter[Asked] = TypeAdapter(Asked)


@dataclass(frozen=True)
class Customer:
    id: int
    name: str
    terms: CustomerTerms


@dataclass(frozen=True)
class Quote:
    """`offer`: of a draft as it would be issued now (None where it asks for nothing yet), else as it was issued.
    `changed`: what it says otherwise than the version before. `trouble`: why a draft cannot be priced.
    """

    id: int
    number: str
    version: int
    state: str
    customer: Customer
    asked: Asked
    offer: Offer | None
    decided: Decided
    changed: tuple[str, ...]
    versions: tuple[tuple[int, int, str], ...]  # id, version, state of each
    author: str
    made: datetime
    at: datetime
    trouble: str = ""

    @property
    def expired(self) -> bool:
        """It waits for an answer, and is not valid any more."""
        return self.state == "open" and self.offer is not None and self.offer.has_expired(now().date())

    @property
    def mark(self) -> str:
        """Another text whenever it offers something else."""
        return sha256(OFFERS.dump_json(self.offer)).hexdigest()[:16] if self.offer is not None else ""


class Quotes:
    """Safe to share between threads, as the desk that it belongs to."""

    def __init__(self, desk: Desk, database: Database) -> None:
        self._desk = desk
        self._database = database

    # ---- customers

    def customers(self) -> tuple[Customer, ...]:
        with self._database.reading() as session:
            return tuple(_customer(row) for row in session.scalars(select(CustomerRow).order_by(CustomerRow.name)))

    def keep_customer(self, name: str, terms: CustomerTerms, id: int | None = None) -> int:
        """A new customer, or one that is changed. Raises PlanError with what is wrong."""
        check_customer(name, terms, self._desk.business.terms())
        with self._database.writing() as session:
            other = session.scalar(select(CustomerRow).where(CustomerRow.name == name))
            if other is not None and other.id != id:
                raise PlanError("customer", f"there is a customer “{name}” already")
            row = session.get(CustomerRow, id) if id is not None else CustomerRow(name=name, terms="", at=now())
            if row is None:
                raise PlanError("no-such-customer", f"there is no customer {id}")
            row.name, row.terms = name, CUSTOMERS.dump_json(terms).decode()
            session.add(row)
            session.flush()
            return row.id

    def customer_named(self, name: str) -> int:
        """The customer of a name, made where there is none."""
        known = next((one.id for one in self.customers() if one.name == name), None)
        return known if known is not None else self.keep_customer(name, CustomerTerms())

    # ---- quotes

    def all(self) -> tuple[Quote, ...]:
        """The newest version of each, as they stand: drafts without prices, none with what it changed. The last changed
        first.
        """
        with self._database.reading() as session:
            rows = list(session.scalars(select(QuoteRow).order_by(QuoteRow.at.desc(), QuoteRow.id.desc())))
            last: dict[str, QuoteRow] = {}
            for row in rows:
                if row.number not in last or last[row.number].version < row.version:
                    last[row.number] = row
            return tuple(self._kept(session, row) for row in last.values())

    def outcomes(self) -> tuple[Outcome, ...]:
        """Issued quotes by what became of them; of one of several versions the last that was issued."""
        with self._database.reading() as session:
            rows = session.scalars(select(QuoteRow).where(QuoteRow.state.in_(("open", "won", "lost"))))
            return tuple(
                Outcome(OFFERS.validate_json(row.issued), row.state, DECIDED.validate_json(row.decided or "{}"))
                for row in rows
            )

    def get(self, id: int) -> Quote:
        """Raises PlanError no-such-quote."""
        with self._database.reading() as session:
            row = _row(session, id)
            found, before = self._kept(session, row), _issued_before(session, row)
        offer, trouble = found.offer, ""
        if found.state == "draft":
            try:
                offer = self._offered(found)
            except LedgerError as error:  # a plan that is broken, a currency without a rate: it can still be edited
                trouble = error.message
        changed = differences(before, offer) if before is not None and offer is not None else ()
        return replace(found, offer=offer, changed=changed, trouble=trouble)

    def begin(self, customer: int, lines: Sequence[AskedLine], author: str) -> int:
        """A draft; its number is its own from now on."""
        asked = Asked(tuple(lines))
        with self._database.writing() as session:
            if session.get(CustomerRow, customer) is None:
                raise PlanError("no-such-customer", f"there is no customer {customer}")
            self._check(session, asked)
            row = QuoteRow(
                number=_next_number(session), version=1, customer=customer, state="draft",
                asked=ASKED.dump_json(asked).decode(), issued="", pdf=None, decided="", author=author, made=now(),
                at=now(),
            )  # fmt: skip
            session.add(row)
            session.flush()
            return row.id

    def edit(self, id: int, customer: int, asked: Asked) -> None:
        """Another customer, other lines or terms of a draft. Raises PlanError not-a-draft for an issued one."""
        with self._database.writing() as session:
            row = _row(session, id)
            _must_be(row, "draft", "was issued and stays as it is; make a new version of it")
            if session.get(CustomerRow, customer) is None:
                raise PlanError("no-such-customer", f"there is no customer {customer}")
            self._check(session, asked)
            row.customer, row.asked, row.at = customer, ASKED.dump_json(asked).decode(), now()

    def drop(self, id: int) -> None:
        """A draft that is not issued; its number is not used again."""
        with self._database.writing() as session:
            row = _row(session, id)
            _must_be(row, "draft", "was issued; it can be lost, not dropped")
            row.state, row.at = "dropped", now()

    def issue(self, id: int, mark: str) -> None:
        """Freeze it as it was seen, with its PDF. Raises PlanError for one that offers nothing, or something else by
        now.
        """
        quote = self.get(id)
        if quote.state != "draft" or quote.offer is None:
            what = "is issued already" if quote.state != "draft" else quote.trouble or "offers nothing yet; add a part"
            raise PlanError("not-to-issue", f"{quote.number}: {what}")
        if mark != quote.mark:
            raise PlanError("not-as-seen", f"{quote.number} offers something else since you saw it; look at it again")
        pictures = [self._picture(line.plan) for line in quote.offer.lines]
        content = quote_pdf(quote.offer, self._desk.business.terms(), pictures)
        with self._database.writing() as session:
            row = _row(session, id)
            _must_be(row, "draft", "is issued already")
            won = session.scalar(select(QuoteRow).where(QuoteRow.number == row.number, QuoteRow.state == "won"))
            if won is not None:
                raise PlanError("not-to-issue", f"version {won.version} of {row.number} was won; begin another quote")
            row.issued, row.state, row.at = OFFERS.dump_json(quote.offer).decode(), "open", now()
            row.pdf = self._desk.files.keep_content(session, f"{quote.offer.known_as}.pdf", content)
            session.execute(
                update(QuoteRow)
                .where(QuoteRow.number == row.number, QuoteRow.id != id, QuoteRow.state.in_(("open", "lost")))
                .values(state="replaced")
            )

    def again(self, id: int, author: str) -> int:
        """A draft of the next version, which asks for the same. Raises PlanError where there is one already."""
        with self._database.writing() as session:
            row = _row(session, id)
            if row.state not in ("open", "lost"):
                words = f"{row.number} is {row.state}; a new version is made of one that is open or lost"
                raise PlanError("not-again", words)
            later = session.scalar(select(QuoteRow).where(QuoteRow.number == row.number, QuoteRow.state == "draft"))
            if later is not None:
                raise PlanError("not-again", f"version {later.version} of {row.number} is a draft already")
            last = session.scalar(select(func.max(QuoteRow.version)).where(QuoteRow.number == row.number)) or 1
            new = QuoteRow(
                number=row.number, version=last + 1, customer=row.customer, state="draft", asked=row.asked, issued="",
                pdf=None, decided="", author=author, made=now(), at=now(),
            )  # fmt: skip
            session.add(new)
            session.flush()
            return new.id

    def win(self, id: int, ordered: Sequence[Ordered], author: str) -> None:
        """Its parts are ordered: their jobs take hours from now on, and are made by the plans that were offered."""
        with self._database.writing() as session:
            row = _row(session, id)
            _must_be(row, "open", "is not open; only what was issued can be won")
            offer = OFFERS.validate_json(row.issued)
            check_ordered(offer, ordered)
            before: dict[str, Any] = {}
            for one in ordered:
                line = next(line for line in offer.lines if line.plan == one.plan)
                found = line.at(one.quantity)
                assert found is not None, "what was ordered was looked at"
                plan = plan_row(session, line.plan)
                job = session.get_one(JobRow, plan.job)
                due = job.due.isoformat() if job.due else None
                before[str(job.id)] = [job.status, job.ordered, due, _chosen(session, job.id), one.quantity]
                job.status, job.ordered, job.due = "ordered", one.quantity, job.due or found.ready
                chosen_now(session, plan.id, author)
            decided = DECIDED.dump_python(Decided(tuple(ordered)), mode="json") | {"before": before}
            row.state, row.decided, row.at = "won", json.dumps(decided), now()

    def lose(self, id: int, reason: str, words: str) -> None:
        if reason not in LOST:
            raise PlanError("reason", f"“{reason}” is no reason; there are {', '.join(LOST)}")
        check_text(words, "the words")
        with self._database.writing() as session:
            row = _row(session, id)
            _must_be(row, "open", "is not open; only what was issued can be lost")
            row.state, row.at = "lost", now()
            row.decided = DECIDED.dump_json(Decided(reason=reason, words=words)).decode()

    def reopen(self, id: int, author: str) -> None:
        """Neither won nor lost: jobs are as they were before, where nobody changed them since."""
        with self._database.writing() as session:
            row = _row(session, id)
            if row.state not in ("won", "lost"):
                raise PlanError("not-decided", f"{row.number} is {row.state}; there is nothing to take back")
            before = json.loads(row.decided).get("before", {})
            for job_id, (status, ordered, due, plan, quantity) in before.items():
                job = session.get(JobRow, int(job_id))
                if job is not None and (job.status, job.ordered) == ("ordered", quantity):
                    job.status, job.ordered = status, ordered
                    job.due = date.fromisoformat(due) if due else None
                    chosen_now(session, plan, author)
            row.state, row.decided, row.at = "open", "", now()

    def pdf(self, id: int) -> tuple[str, bytes]:
        """Name and content as issued; of a draft as it would be. Raises PlanError for one that offers nothing."""
        quote = self.get(id)
        name = f"{quote.number}-v{quote.version}.pdf"
        with self._database.reading() as session:
            row = _row(session, id)
            file = session.get(FileRow, row.pdf) if row.pdf else None
            if file is not None:
                return name, file.content
        if quote.offer is None:
            raise PlanError("not-to-issue", f"{quote.number} offers nothing yet; add a part")
        pictures = [self._picture(line.plan) for line in quote.offer.lines]
        return f"draft-{name}", quote_pdf(quote.offer, self._desk.business.terms(), pictures)

    # ---- inside

    def _kept(self, session: Session, row: QuoteRow) -> Quote:
        versions = session.execute(
            select(QuoteRow.id, QuoteRow.version, QuoteRow.state)
            .where(QuoteRow.number == row.number)
            .order_by(QuoteRow.version)
        ).all()
        offer = OFFERS.validate_json(row.issued) if row.issued else None
        return Quote(
            row.id, row.number, row.version, row.state, _customer(session.get_one(CustomerRow, row.customer)),
            ASKED.validate_json(row.asked), offer, DECIDED.validate_json(row.decided or "{}"),
            (), tuple((id, version, state) for id, version, state in versions),
            row.author, row.made, row.at,
        )  # fmt: skip

    def _offered(self, quote: Quote) -> Offer | None:
        """A draft as it would be issued now."""
        if not quote.asked.lines:
            return None
        customer, shop, today = quote.customer, self._desk.business.terms(), now().date()
        of = QuoteOf(quote.number, quote.version, customer.name, customer.terms, quote.author, today)
        lines = tuple(self._line(one, customer.terms, shop, today) for one in quote.asked.lines)
        return offer_of(quote.asked, of, lines, shop)

    def _line(self, asked: AskedLine, terms: CustomerTerms, shop: ShopTerms, today: date) -> OfferLine:
        opened = self._desk.recalled(asked.plan)
        job, summary = Of(opened.job.id, opened.job.number), summary_of(opened.ledger, opened.part)
        book = self._desk.business.book(today, but=job.id)
        by = Priced(job.number, opened.job.name, opened.name, opened.version.seq, opened.ledger)
        return line_of(asked, by, terms, shop, lambda pieces: book.tried(lot_of(job, summary, pieces)).ready)

    def _picture(self, plan_id: int) -> View:
        opened = self._desk.recalled(plan_id)
        return view_of(opened.part, opened.ledger.setups[0].built.hold.frame, "iso")

    def _check(self, session: Session, asked: Asked) -> None:
        check_asked(asked, [plan_row(session, one.plan).job for one in asked.lines])


def _customer(row: CustomerRow) -> Customer:
    return Customer(row.id, row.name, CUSTOMERS.validate_json(row.terms))


def _row(session: Session, id: int) -> QuoteRow:
    row = session.get(QuoteRow, id)
    if row is None:
        raise PlanError("no-such-quote", f"there is no quote {id}")
    return row


def _chosen(session: Session, job: int) -> int:
    """The plan that a job is made by."""
    return session.scalars(select(PlanRow.id).where(PlanRow.job == job, PlanRow.chosen)).one()


def _issued_before(session: Session, row: QuoteRow) -> Offer | None:
    """What the version before said."""
    before = session.scalar(
        select(QuoteRow)
        .where(QuoteRow.number == row.number, QuoteRow.version < row.version, QuoteRow.issued != "")
        .order_by(QuoteRow.version.desc())
    )
    return OFFERS.validate_json(before.issued) if before is not None else None


def _must_be(row: QuoteRow, state: str, words: str) -> None:
    if row.state != state:
        raise PlanError(f"not-{state}", f"{row.number} version {row.version} {words}")


def _next_number(session: Session) -> str:
    """Q, the year, and how many there were of it."""
    year = f"Q-{now():%Y}-"
    numbers = session.scalars(select(QuoteRow.number).where(QuoteRow.number.startswith(year)).distinct())
    return f"{year}{1 + max((int(one.removeprefix(year)) for one in numbers), default=0):03d}"
