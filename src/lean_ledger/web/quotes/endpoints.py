"""Quotes, customers and the shop's terms."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

from flask import Response
from flask_openapi3 import Tag
from pydantic import BaseModel

from lean_ledger.core.papers.lists import as_csv, as_xlsx
from lean_ledger.core.quoting.asked import Asked, AskedLine, CustomerTerms
from lean_ledger.core.quoting.record import Ordered
from lean_ledger.library.business import ShopTerms
from lean_ledger.store.rows import now
from lean_ledger.web.plans.endpoints import PDF, XLSX, file_answer
from lean_ledger.web.plans.schemas import Problem
from lean_ledger.web.quotes import schemas as s
from lean_ledger.web.quotes.views import HEAD, customer_view, list_rows, quote_view, quotes_view
from lean_ledger.web.shared.described import Described
from lean_ledger.web.shared.requests import author, desk

blueprint = Described("quotes", __name__, url_prefix="/api", abp_tags=[Tag(name="quotes")])

REFUSES: dict[Any, Any] = {404: Problem, 422: Problem}
PAPER: dict[Any, Any] = {200: {"description": "the quote", "content": {PDF: {"schema": {"type": "string"}}}}, **REFUSES}
LIST: dict[Any, Any] = {
    200: {
        "description": "each quantity that was offered",
        "content": {kind: {"schema": {"type": "string"}} for kind in ("text/csv", XLSX)},
    },
    **REFUSES,
}


@blueprint.get("/quotes", responses={200: s.QuotesView})
def quotes() -> Response:
    """All quotes, each in its last version, and what became of them by customer and material."""
    asked = desk()
    return _json(quotes_view(asked.quotes.all(), asked.quotes.outcomes(), asked.business.terms()))


@blueprint.get("/quotes/files/<file>", responses=LIST)
def quote_list(path: s.QuoteFile) -> Response:
    """All quotes as CSV or XLSX."""
    rows = list_rows(desk().quotes.all())
    if path.file.endswith(".csv"):
        return file_answer(as_csv(HEAD, rows), "text/csv; charset=utf-8", path.file, "attachment")
    return file_answer(as_xlsx("quotes", HEAD, rows, now().date()), XLSX, path.file, "attachment")


@blueprint.post("/quotes", responses={201: s.QuoteView, **REFUSES})
def begin(body: s.NewQuote) -> Response:
    """A draft; its number is its own from now on."""
    found = desk().quotes
    customer = body.customer if body.customer is not None else found.customer_named(body.customer_name.strip())
    id = found.begin(customer, [_line(one) for one in body.lines], author())
    return Response(quote_view(found.get(id)).model_dump_json(), 201, mimetype="application/json")


@blueprint.get("/quotes/<int:quote_id>", responses={200: s.QuoteView, **REFUSES})
def quote(path: s.QuotePath) -> Response:
    """As it was issued; a draft as it would be now."""
    return _told(path.quote_id)


@blueprint.put("/quotes/<int:quote_id>", responses={200: s.QuoteView, **REFUSES})
def edit(path: s.QuotePath, body: s.QuoteBody) -> Response:
    """All of what a draft asks for."""
    asked = Asked(
        tuple(_line(one) for one in body.lines), body.valid_days, body.payment.strip(), body.delivery.strip(),
        tuple(body.not_included) if body.not_included is not None else None, body.words.strip(),
    )  # fmt: skip
    desk().quotes.edit(path.quote_id, body.customer, asked)
    return _told(path.quote_id)


@blueprint.delete("/quotes/<int:quote_id>", responses={200: s.QuoteView, **REFUSES})
def drop(path: s.QuotePath) -> Response:
    """A draft that is not issued."""
    desk().quotes.drop(path.quote_id)
    return _told(path.quote_id)


@blueprint.post("/quotes/<int:quote_id>/issue", responses={200: s.QuoteView, **REFUSES})
def issue(path: s.QuotePath, body: s.IssueBody) -> Response:
    """Freeze it as it was seen, with its PDF; the version before is replaced."""
    desk().quotes.issue(path.quote_id, body.mark)
    return _told(path.quote_id)


@blueprint.post("/quotes/<int:quote_id>/again", responses={201: s.QuoteView, **REFUSES})
def again(path: s.QuotePath) -> Response:
    """A draft of its next version."""
    id = desk().quotes.again(path.quote_id, author())
    return Response(quote_view(desk().quotes.get(id)).model_dump_json(), 201, mimetype="application/json")


@blueprint.post("/quotes/<int:quote_id>/decision", responses={200: s.QuoteView, **REFUSES})
def decide(path: s.QuotePath, body: s.Decision) -> Response:
    """Won, lost, or open again."""
    found = desk().quotes
    if body.state == "won":
        found.win(path.quote_id, [Ordered(one.plan, one.quantity) for one in body.ordered], author())
    elif body.state == "lost":
        found.lose(path.quote_id, body.reason, body.words.strip())
    else:
        found.reopen(path.quote_id, author())
    return _told(path.quote_id)


@blueprint.get("/quotes/<int:quote_id>/pdf", responses=PAPER)
def paper(path: s.QuotePath) -> Response:
    """As it was issued, to the byte; of a draft as it would be."""
    name, content = desk().quotes.pdf(path.quote_id)
    return file_answer(content, PDF, name, "inline")


@blueprint.get("/customers", responses={200: s.CustomersView})
def customers() -> Response:
    return _customers()


@blueprint.post("/customers", responses={200: s.CustomersView, **REFUSES})
def add_customer(body: s.CustomerBody) -> Response:
    desk().quotes.keep_customer(body.name.strip(), _terms(body))
    return _customers()


@blueprint.put("/customers/<int:customer_id>", responses={200: s.CustomersView, **REFUSES})
def change_customer(path: s.CustomerPath, body: s.CustomerBody) -> Response:
    """What is agreed with a customer: quotes that were issued stay as they are."""
    desk().quotes.keep_customer(body.name.strip(), _terms(body), path.customer_id)
    return _customers()


@blueprint.get("/shop/terms", responses={200: s.TermsBody})
def terms() -> Response:
    """What the shop says of itself on quotes, and how it rounds."""
    return _shop_terms()


@blueprint.put("/shop/terms", responses={200: s.TermsBody, **REFUSES})
def change_terms(body: s.TermsBody) -> Response:
    found = ShopTerms(
        body.name.strip(), tuple(one.strip() for one in body.address if one.strip()), body.contact.strip(),
        body.currency.strip(), tuple((code.strip(), Decimal(rate)) for code, rate in body.rates), Decimal(body.step),
        Decimal(body.minimum_lot), body.valid_days, body.payment.strip(), body.delivery.strip(),
        tuple(one.strip() for one in body.not_included if one.strip()),
    )  # fmt: skip
    desk().business.take_terms(found, author())
    return _shop_terms()


def _shop_terms() -> Response:
    t = desk().business.terms()
    return _json(s.TermsBody(
        name=t.name, address=list(t.address), contact=t.contact, currency=t.currency,
        rates=[(code, f"{rate:f}") for code, rate in t.rates], step=f"{t.step:f}", minimum_lot=f"{t.minimum_lot:f}",
        valid_days=t.valid_days, payment=t.payment, delivery=t.delivery, not_included=list(t.not_included),
    ))  # fmt: skip


def _line(one: s.AskedLineBody) -> AskedLine:
    return AskedLine(one.plan, tuple(one.quantities), one.note.strip())


def _terms(body: s.CustomerBody) -> CustomerTerms:
    return CustomerTerms(
        tuple(one.strip() for one in body.address if one.strip()), body.contact.strip(), body.currency.strip(),
        body.payment.strip(), body.delivery.strip(), Decimal(body.discount), body.note.strip(),
    )  # fmt: skip


def _customers() -> Response:
    return _json(s.CustomersView(customers=[customer_view(one) for one in desk().quotes.customers()]))


def _told(id: int) -> Response:
    return _json(quote_view(desk().quotes.get(id)))


def _json(view: BaseModel) -> Response:
    return Response(view.model_dump_json(), mimetype="application/json")
