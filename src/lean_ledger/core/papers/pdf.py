"""The setup sheet as PDF: a page or more for each setup. The same plan version gives the same bytes."""

from __future__ import annotations

from fpdf.enums import XPos, YPos

from lean_ledger.core.papers.code import QUIET, code_of
from lean_ledger.core.papers.page import MARGIN, WIDTH, Page
from lean_ledger.core.papers.pdf_view import INK, SOFT, draw_setup, draw_view
from lean_ledger.core.papers.projection import View
from lean_ledger.core.papers.sheet import SetupSheet, SheetSetup, clock, hours

STRUCK = (161, 55, 31)
CODE_SIZE = 25.0  # mm
LOAD_HEIGHT = 62.0  # mm of the drawing of a load


def sheet_pdf(sheet: SetupSheet) -> bytes:
    pdf = _Sheet(sheet)
    for setup in sheet.setups:
        pdf.setup_page(setup)
    return bytes(pdf.output())


class _Sheet(Page):
    def __init__(self, sheet: SetupSheet) -> None:
        super().__init__(f"Setup sheet {sheet.number} {sheet.name}", sheet.date)
        self._sheet = sheet
        self._setup: SheetSetup | None = None

    def header(self) -> None:
        s, setup = self._sheet, self._setup
        self.set_font("sans", "B", 15)
        self.cell(WIDTH * 0.7, 7, f"{s.number}  {s.name}", new_x=XPos.RIGHT, new_y=YPos.TOP)
        self.set_font("sans", "B", 11)
        title = f"Setup {setup.position} of {setup.of}" if setup else ""
        self.cell(0, 7, title, align="R", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        self.set_font("sans", "", 8.5)
        self.set_text_color(*SOFT)
        customer = f" · {s.customer}" if s.customer else ""
        lot = f"{s.quantity} piece{'s' if s.quantity > 1 else ''}"
        self.cell(
            WIDTH * 0.7, 5, f"revision {s.revision}{customer} · {s.material} · {lot}",
            new_x=XPos.RIGHT, new_y=YPos.TOP,
        )  # fmt: skip
        self.cell(0, 5, f"plan version {s.plan_version} · {s.date}", align="R", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        self.set_text_color(*INK)
        self.set_draw_color(*INK)
        self.line(MARGIN, self.get_y() + 1, MARGIN + WIDTH, self.get_y() + 1)
        self.ln(3)
        if s.superseded_by:
            self.set_font("sans", "B", 11)
            self.set_text_color(*STRUCK)
            words = f"SUPERSEDED: this sheet makes revision {s.revision}, and revision {s.superseded_by} was taken over"
            self.cell(WIDTH, 7, words, align="C", border=1, new_x=XPos.LMARGIN, new_y=YPos.NEXT)
            self.set_text_color(*INK)
            self.ln(2)

    def footer(self) -> None:
        s = self._sheet
        self.set_y(-13)
        self.set_font("sans", "", 8)
        self.set_text_color(*SOFT)
        note = f" · findings open: {s.findings}" if s.findings else ""
        self.cell(
            WIDTH * 0.8, 5,
            f"Piece: cycle {clock(s.cycle)}, with handling {clock(s.per_piece)} · "
            f"setting up {hours(s.setup_hours)} h{note}",
            new_x=XPos.RIGHT, new_y=YPos.TOP,
        )  # fmt: skip
        self.cell(0, 5, f"page {self.page_no()}", align="R")
        self.set_text_color(*INK)

    def setup_page(self, setup: SheetSetup) -> None:
        self._setup = setup
        self.add_page()
        top = self.get_y()
        self._facts(setup)
        self._drawings(setup, top)
        self._load(setup)
        self._tools(setup)
        self._operations(setup)

    def _facts(self, setup: SheetSetup) -> None:
        size = " × ".join(f"{v:.2f}" for v in setup.stock)
        rows = [
            ("machine", setup.machine),
            ("side up", setup.up),
            ("stock", f"{size} mm"),
            *((name, value) for name, value in setup.fixture),
            ("zero", f"{setup.offset}: {setup.zero}"),
        ]
        for name, value in rows:
            self.set_font("sans", "", 8.5)
            self.set_text_color(*SOFT)
            self.cell(19, 5, name, new_x=XPos.RIGHT, new_y=YPos.TOP)
            self.set_text_color(*INK)
            self.set_font("sans", "B", 9)
            self.multi_cell(48, 5, value, align="L", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        self.set_font("sans", "", 8.5)
        for line in (*setup.touch_off, *setup.by_hand):
            self.multi_cell(67, 4.2, line, align="L", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        address = self._sheet.page_of(setup.id)
        if address:
            self._code(address)

    def _code(self, address: str) -> None:
        """A code under the facts that leads a phone to the setup's page."""
        code = code_of(address)
        step, top = CODE_SIZE / code.size, self.get_y() + 1
        self.set_fill_color(*INK)
        for y, runs in enumerate(code.rows, start=QUIET):
            for begin, end in runs:
                self.rect(MARGIN + begin * step, top + y * step, (end - begin) * step, step, style="F")
        self.set_xy(MARGIN + CODE_SIZE + 1, top + 4)
        self.set_font("sans", "", 8)
        self.set_text_color(*SOFT)
        self.multi_cell(66 - CODE_SIZE, 4, "On the phone: steps, times, counts, notes of this setup", align="L")
        self.set_text_color(*INK)
        self.set_xy(MARGIN, top + CODE_SIZE)

    def _drawings(self, setup: SheetSetup, top: float) -> None:
        left, width, height = MARGIN + 70, WIDTH - 70, 78.0
        end = self.get_y()
        main, second = setup.views
        draw_setup(self, main, (left, top, width * 0.62, height - 4))
        beside = left + width * 0.65
        draw_view(self, setup.iso, (), (beside, top, width * 0.35, height * 0.42))
        draw_setup(self, second, (beside, top + height * 0.46, width * 0.35, height * 0.5))
        self.set_y(max(end, top + height) + 3)

    def _load(self, setup: SheetSetup) -> None:
        """All pieces of the cycle with their numbers, and where to touch each off."""
        drawn = setup.load_drawing
        if drawn is None:
            return
        self.set_font("sans", "B", 10.5)
        self.cell(WIDTH, 6, f"Load: {len(setup.pieces)} pieces", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        top, height = self.get_y(), LOAD_HEIGHT
        frame = (MARGIN, top, WIDTH, height)
        at = draw_view(self, View("top", (), ()), drawn.boxes, frame)
        self.set_font("sans", "B", 8)
        for x, y, words in drawn.numbers:
            px, py = at((x, y))
            wide = self.get_string_width(words) + 1.5
            self.set_fill_color(255, 255, 255)
            self.set_xy(px - wide / 2, py - 2)
            self.cell(wide, 4, words, align="C", fill=True)
        self.set_xy(MARGIN, top + height + 2)
        rows = [
            (p.number, p.where, p.offset, *(f"{v:.3f}" for v in p.zero), "can be skipped" if p.skipped else "")
            for p in setup.pieces
        ]
        columns = (("Piece", 14, "R"), ("In", 30, "L"), ("Offset", 30, "L"), ("Zero X", 26, "R"), ("Y", 26, "R"),
                   ("Z", 26, "R"), ("", 30, "L"))  # fmt: skip
        self.table("Where to touch off each, in machine coordinates as planned", columns, rows)

    def _tools(self, setup: SheetSetup) -> None:
        rows = [(str(t.number), t.description, t.where, f"{t.stick_out:g}", f"{t.minutes:.2f}") for t in setup.tools]
        columns = (("T", 10, "R"), ("Description", 74, "L"), ("", 26, "L"), ("Stick-out mm", 30, "R"),
                   ("Minutes in cut", 30, "R"))  # fmt: skip
        self.table("Tools", columns, rows)

    def _operations(self, setup: SheetSetup) -> None:
        rows = [
            (str(o.number), o.name, str(o.tool), f"{o.n:.0f}", f"{o.vf:.0f}", str(o.passes), f"{o.cutting:.1f}",
             f"{o.other:.1f}", f"{o.total:.1f}")
            for o in setup.operations
        ]  # fmt: skip
        columns = (
            ("Op", 10, "R"), ("Operation", 81, "L"), ("T", 9, "R"), ("rpm", 14, "R"), ("mm/min", 15, "R"),
            ("Passes", 13, "R"), ("Cut s", 14, "R"), ("Other s", 15, "R"), ("Total s", 15, "R"),
        )  # fmt: skip
        self.table("Operations", columns, rows)
        self.set_font("sans", "B", 9)
        words = f"Cycle {clock(setup.cycle)} · load {setup.load:.0f} s · setting up {hours(setup.setup_hours)} h"
        self.cell(WIDTH, 6, words, align="R", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
