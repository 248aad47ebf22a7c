"""A page of paper as PDF: its fonts, margins and tables. The same content gives the same bytes."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, date, datetime, time
from importlib.resources import files
from pathlib import Path

from fpdf import FPDF
from fpdf.enums import XPos, YPos

from lean_ledger.core.papers.pdf_view import INK, SOFT

MARGIN = 12.0
WIDTH = 210 - 2 * MARGIN
BANDED = (242, 244, 237)


class Page(FPDF):  # type: ignore[misc]
    """A4, mm."""

    def __init__(self, title: str, on: date) -> None:
        super().__init__(format="A4", unit="mm")
        folder = Path(str(files("lean_ledger.core.papers") / "fonts"))
        self.add_font("sans", "", folder / "sans-regular.ttf")
        self.add_font("sans", "B", folder / "sans-semibold.ttf")
        self.set_margins(MARGIN, MARGIN, MARGIN)
        self.set_auto_page_break(True, margin=16)
        self.set_creation_date(datetime.combine(on, time(), UTC))
        self.set_title(title)
        self.set_producer("Lean Ledger")
        self.set_text_color(*INK)
        self.set_draw_color(*INK)

    def table(self, title: str, columns: Sequence[tuple[str, float, str]], rows: Sequence[Sequence[str]]) -> None:
        self.ln(1)
        if title:
            self.set_font("sans", "B", 10.5)
            self.cell(WIDTH, 6, title, new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        self._table_head(columns)
        for i, row in enumerate(rows):
            if self.will_page_break(4.8):
                self.add_page()
                self._table_head(columns)
            self.set_font("sans", "", 8.5)
            self.set_fill_color(*BANDED)
            for (_, width, align), text in zip(columns, row, strict=True):
                self.cell(width, 4.8, self.fitted(text, width), align=align, fill=i % 2 == 1)
            self.ln(4.8)

    def _table_head(self, columns: Sequence[tuple[str, float, str]]) -> None:
        self.set_font("sans", "", 7.5)
        self.set_text_color(*SOFT)
        for name, width, align in columns:
            self.cell(width, 4.5, name, align=align, border="B")
        self.ln(4.5)
        self.set_text_color(*INK)

    def fitted(self, text: str, width: float) -> str:
        while self.get_string_width(text) > width - 2 and len(text) > 4:
            text = text[:-2] + "…"
        return text
