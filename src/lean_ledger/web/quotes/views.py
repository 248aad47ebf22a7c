"""Core's values of quotes as the pages are told them."""

from __future__ import annotations

from collections.abc import Iterable

from lean_ledger.core.capacity.booked import weeks_to
from lean_ledger.core.papers.lists import Row
from lean_ledger.core.quoting.asked import Asked
from lean_ledger.core.quoting.offer import Offer, OfferLine, cheaper_from
from lean_ledger.core.quoting.record import LOST, Outcome, Tally, by_customer, by_material, by_reason, margin_of
from lean_ledger.library.business import ShopTerms
from lean_ledger.store.quotes import Customer, Quote
from lean_ledger.web.quotes import schemas as s

HEAD = (
    "quote", "version", "state", "customer", "issued", "valid until", "job", "part", "revision", "material",
    "plan version", "pieces", "currency", "each", "lot", "cost", "ready", "ordered", "reason",
)  # fmt: skip


def customer_view(one: Customer) -> s.CustomerView:
    t = one.terms
    return s.CustomerView(id=one.id, name=one.name, address=list(t.address), contact=t.contact, currency=t.currency,
                          payment=t.payment, delivery=t.delivery, discount=t.discount, note=t.note)  # fmt: skip


def quote_view(one: Quote) -> s.QuoteView:
    return s.QuoteView(
        id=one.id, number=one.number, version=one.version, state=one.state, customer=customer_view(one.customer),
        asked=_asked(one.customer.id, one.asked), offer=_offer(one.offer) if one.offer else None,
        ordered=[s.OrderedBody(plan=o.plan, quantity=o.quantity) for o in one.decided.ordered],
        reason=one.decided.reason, reason_words=one.decided.words, changed=list(one.changed),
        versions=[s.QuoteVersionView(id=id, version=version, state=state) for id, version, state in one.versions],
        author=one.author, made=one.made, mark=one.mark, trouble=one.trouble, expired=one.expired,
    )  # fmt: skip


def quotes_view(found: Iterable[Quote], outcomes: tuple[Outcome, ...], terms: ShopTerms) -> s.QuotesView:
    return s.QuotesView(
        quotes=[_row(one) for one in found if one.state != "dropped"],
        customers=[_tally(one) for one in by_customer(outcomes)],
        materials=[_tally(one) for one in by_material(outcomes)],
        lost=[s.ReasonView(reason=reason, count=count) for reason, count in by_reason(outcomes)],
        reasons=list(LOST), currency=terms.currency,
    )  # fmt: skip


def list_rows(found: Iterable[Quote]) -> list[Row]:
    """One for each quantity that was offered."""
    rows: list[Row] = []
    for one in found:
        ordered = {o.plan: o.quantity for o in one.decided.ordered}
        for line in one.offer.lines if one.offer else ():
            for brk in line.breaks:
                sold = ordered.get(line.plan) if line.at(ordered.get(line.plan, 0)) == brk else None
                offer = one.offer
                assert offer is not None
                rows.append((
                    one.number, one.version, one.state, offer.customer, str(offer.issued), str(offer.until), line.job,
                    line.name, line.revision, line.material, line.version, brk.quantity, offer.currency, str(brk.each),
                    str(brk.lot), str(brk.cost), str(brk.ready), sold or "", one.decided.reason,
                ))  # fmt: skip
    return rows


def _asked(customer: int, asked: Asked) -> s.QuoteBody:
    return s.QuoteBody(
        customer=customer,
        lines=[s.AskedLineBody(plan=o.plan, quantities=list(o.quantities), note=o.note) for o in asked.lines],
        valid_days=asked.valid_days, payment=asked.payment, delivery=asked.delivery,
        not_included=list(asked.not_included) if asked.not_included is not None else None, words=asked.words,
    )  # fmt: skip


def _offer(offer: Offer) -> s.OfferView:
    return s.OfferView(
        issued=offer.issued, until=offer.until, currency=offer.currency, rate=offer.rate,
        lines=[_line(line, offer) for line in offer.lines], payment=offer.payment, delivery=offer.delivery,
        not_included=list(offer.not_included), words=offer.words,
    )  # fmt: skip


def _line(line: OfferLine, offer: Offer) -> s.OfferLineView:
    return s.OfferLineView(
        plan=line.plan, plan_name=line.plan_name, version=line.version, job=line.job, name=line.name,
        revision=line.revision, material=line.material, note=line.note, missing=list(line.missing),
        breaks=[
            s.BreakView(quantity=b.quantity, each=b.each, lot=b.lot, cost=b.cost, margin=margin_of(b, offer.rate),
                        ready=b.ready, weeks=weeks_to(b.ready, offer.issued), raised=b.raised)
            for b in line.breaks
        ],
        cheaper=[s.CheaperView(quantity=quantity, than=than) for quantity, than in cheaper_from(line.breaks)],
    )  # fmt: skip


def _row(one: Quote) -> s.QuoteRowView:
    offer = one.offer
    return s.QuoteRowView(
        id=one.id, number=one.number, version=one.version, state=one.state, customer=one.customer.name,
        parts=[line.title for line in offer.lines] if offer else [],
        issued=offer.issued if offer else None, until=offer.until if offer else None,
        currency=offer.currency if offer else "", least=offer.least if offer else None, expired=one.expired,
        reason=one.decided.reason, at=one.at,
    )  # fmt: skip


def _tally(one: Tally) -> s.TallyView:
    return s.TallyView(name=one.name, won=one.won, lost=one.lost, open=one.open, rate=one.rate, ordered=one.ordered,
                       margin=one.margin)  # fmt: skip
