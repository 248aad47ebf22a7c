"""The change note for the customer: what became of each feature, what that does to the price, what is paid once.

It shows prices as they are offered, and none of the shop's seconds and costs.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from fractions import Fraction

from fpdf.enums import XPos, YPos

from lean_ledger.core.papers.page import MARGIN, WIDTH, Page
from lean_ledger.core.papers.pdf_view import INK, SOFT
from lean_ledger.core.pricing.price import cents
from lean_ledger.core.revised.priced import Priced
from lean_ledger.core.revisions.match import Became


@dataclass(frozen=True)
class NoteWords:
    number: str
    name: str
    customer: str
    plan_version: int
    date: date


@dataclass(frozen=True)
class ChangeNote:
    """`features`: (what, what became of it, measures); `prices`: (quantity, each before, each after, difference of the
    lot); all as it is shown.
    """

    words: NoteWords
    before: str
    after: str
    features: tuple[tuple[str, str, str], ...]
    same: int
    prices: tuple[tuple[str, str, str, str], ...]
    once: tuple[tuple[str, str], ...]


def change_note(found: Priced, words: NoteWords) -> ChangeNote:
    """What is paid once is offered with the margin of the price."""
    changed = [one for one in found.features if one.became != Became.SAME]
    margin = _margin(found)
    return ChangeNote(
        words, found.before, found.after,
        tuple((one.title, one.became.value, one.words.replace("→", "to")) for one in changed),
        len(found.features) - len(changed),
        tuple(
            (str(now.quantity), f"{was.each:.2f}", f"{now.each:.2f}", f"{now.price - was.price:+.2f}")
            for was, now in found.prices
        ),
        tuple((one.what, f"{cents(Fraction(one.amount) * margin):.2f}") for one in found.once),
    )  # fmt: skip


def _margin(found: Priced) -> Fraction:
    """What a price is more than its cost."""
    _, now = found.prices[0]
    return Fraction(now.price) / Fraction(now.cost) if now.cost > Decimal(0) else Fraction(1)


def note_pdf(note: ChangeNote) -> bytes:
    pdf = _Note(note)
    pdf.add_page()
    if note.features:
        pdf.table(
            "What changed on the part",
            (("Feature", 66, "L"), ("is", 24, "L"), ("", 96, "L")),
            note.features,
        )
    pdf.said(f"{note.same} feature{'s are' if note.same != 1 else ' is'} as before.")
    pdf.table(
        "Price of a piece",
        (("Pieces", 30, "R"), (f"revision {note.before}", 40, "R"), (f"revision {note.after}", 40, "R"),
         ("difference of the lot", 46, "R")),
        note.prices,
    )  # fmt: skip
    if note.once:
        pdf.table("Once, for the change", (("", 66, "L"), ("amount", 40, "R")), note.once)
    return bytes(pdf.output())


class _Note(Page):
    def __init__(self, note: ChangeNote) -> None:
        w = note.words
        super().__init__(f"Change note {w.number} {w.name}", w.date)
        self._note = note

    def header(self) -> None:
        note, w = self._note, self._note.words
        self.set_font("sans", "B", 15)
        title = f"{w.number}  {w.name}: revision {note.after} in place of {note.before}"
        self.cell(WIDTH, 7, self.fitted(title, WIDTH), new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        self.set_font("sans", "", 8.5)
        self.set_text_color(*SOFT)
        customer = f"for {w.customer} · " if w.customer else ""
        words = f"Change note · {customer}plan version {w.plan_version} · {w.date}"
        self.cell(WIDTH, 5, words, new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        self.set_text_color(*INK)
        self.line(MARGIN, self.get_y() + 1, MARGIN + WIDTH, self.get_y() + 1)
        self.ln(3)

    def said(self, words: str) -> None:
        self.set_font("sans", "", 9)
        self.cell(WIDTH, 6, words, new_x=XPos.LMARGIN, new_y=YPos.NEXT)
