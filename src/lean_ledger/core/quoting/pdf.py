"""A quote as PDF, in the shop's name. The same offer gives the same bytes."""

from __future__ import annotations

from collections.abc import Sequence

from fpdf.enums import XPos, YPos

from lean_ledger.core.papers.page import MARGIN, WIDTH, Page
from lean_ledger.core.papers.pdf_view import INK, SOFT, draw_view
from lean_ledger.core.papers.projection import View
from lean_ledger.core.quoting.offer import Offer, OfferLine
from lean_ledger.library.business import ShopTerms

PICTURE = 46.0  # mm, of a part


def quote_pdf(offer: Offer, shop: ShopTerms, pictures: Sequence[View]) -> bytes:
    """`pictures`: one of each line's part."""
    pdf = _Quote(offer, shop)
    pdf.add_page()
    for line, picture in zip(offer.lines, pictures, strict=True):
        pdf.line_of(line, picture)
    pdf.terms()
    return bytes(pdf.output())


class _Quote(Page):
    def __init__(self, offer: Offer, shop: ShopTerms) -> None:
        super().__init__(f"Quote {offer.known_as}", offer.issued)
        self._offer, self._shop = offer, shop

    def header(self) -> None:
        offer, shop = self._offer, self._shop
        self.set_font("sans", "B", 13)
        self.cell(WIDTH * 0.6, 6, self.fitted(shop.name, WIDTH * 0.6), new_x=XPos.RIGHT, new_y=YPos.TOP)
        self.cell(0, 6, f"Quote {offer.known_as}", align="R", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        self.set_font("sans", "", 8.5)
        self.set_text_color(*SOFT)
        left = ", ".join((*shop.address, shop.contact))
        self.cell(WIDTH * 0.66, 5, self.fitted(left, WIDTH * 0.66), new_x=XPos.RIGHT, new_y=YPos.TOP)
        dates = f"{offer.issued} · valid until {offer.until}"
        self.cell(0, 5, dates, align="R", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        self.set_text_color(*INK)
        self.line(MARGIN, self.get_y() + 1, MARGIN + WIDTH, self.get_y() + 1)
        self.ln(4)
        if self.page_no() == 1:
            self._to()

    def footer(self) -> None:
        self.set_y(-13)
        self.set_font("sans", "", 8)
        self.set_text_color(*SOFT)
        self.cell(WIDTH * 0.8, 5, f"{self._shop.name} · quote {self._offer.known_as}", new_x=XPos.RIGHT, new_y=YPos.TOP)
        self.cell(0, 5, f"page {self.page_no()}", align="R")
        self.set_text_color(*INK)

    def _to(self) -> None:
        offer = self._offer
        self.set_font("sans", "B", 10)
        for k, text in enumerate((offer.customer, *offer.address, offer.contact)):
            if text:
                self.set_font("sans", "" if k else "B", 10)
                self.cell(WIDTH, 5, self.fitted(text, WIDTH), new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        self.ln(3)
        self._said(offer.words)

    def line_of(self, line: OfferLine, picture: View) -> None:
        """A part with its picture beside the quantities that it is offered at."""
        high = max(PICTURE * 0.75, 22 + 4.8 * len(line.breaks)) + 6
        if self.will_page_break(high):
            self.add_page()
        top = self.get_y()
        wide = WIDTH - PICTURE - 4
        self.set_font("sans", "B", 11)
        self.cell(wide, 6, self.fitted(line.title, wide), new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        self.set_font("sans", "", 8.5)
        self.set_text_color(*SOFT)
        about = f"revision {line.revision} · {line.material}"
        self.cell(wide, 5, self.fitted(about, wide), new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        self.set_text_color(*INK)
        code = self._offer.currency
        columns = (("From pieces", 26, "R"), (f"{code} each", 32, "R"), (f"{code} for the lot", 36, "R"),
                   ("ready", 36, "R"))  # fmt: skip
        rows = [
            (f"{one.quantity}", f"{one.each}", f"{one.lot}{' *' if one.raised else ''}", f"{one.ready}")
            for one in line.breaks
        ]
        self.table("", columns, rows)
        if any(one.raised for one in line.breaks):
            self._said("* the least that a lot is made for")
        for words in (line.note, *(f"Not in this price: {title}" for title in line.missing)):
            self._said(words)
        end, page = self.get_y(), self.page_no()
        draw_view(self, picture, (), (MARGIN + WIDTH - PICTURE, top, PICTURE, PICTURE * 0.75))
        assert self.page_no() == page
        self.set_y(max(end, top + PICTURE * 0.75) + 5)

    def terms(self) -> None:
        offer = self._offer
        if self.will_page_break(40):
            self.add_page()
        self.line(MARGIN, self.get_y(), MARGIN + WIDTH, self.get_y())
        self.ln(2)
        for what, words in (
            ("Payment", offer.payment), ("Delivery", offer.delivery),
            ("Ready", f"for an order on {offer.issued}, by the hours that machines have free then; each lot by itself"),
            ("Not included", "; ".join(offer.not_included)), ("Made by", offer.author),
        ):  # fmt: skip
            if words:
                self.set_font("sans", "", 8.5)
                self.set_text_color(*SOFT)
                self.cell(24, 4.8, what, new_x=XPos.RIGHT, new_y=YPos.TOP)
                self.set_text_color(*INK)
                self.multi_cell(WIDTH - 24, 4.8, words, align="L", new_x=XPos.LMARGIN, new_y=YPos.NEXT)

    def _said(self, words: str) -> None:
        if words:
            self.set_font("sans", "", 9)
            self.multi_cell(WIDTH - PICTURE - 4, 4.6, words, align="L", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
