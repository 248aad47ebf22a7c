"""The operation list and the tool list as CSV and XLSX."""

from __future__ import annotations

import csv
from collections.abc import Sequence
from datetime import date, datetime, time
from io import BytesIO, StringIO
from zipfile import ZIP_DEFLATED, ZipFile, ZipInfo

from openpyxl import Workbook
from openpyxl.cell.cell import ILLEGAL_CHARACTERS_RE
from openpyxl.styles import Font
from openpyxl.utils import get_column_letter

from lean_ledger.core.basis.plain_text import for_csv
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.ledger.offsets import offsets_of
from lean_ledger.core.papers.sheet import SetupSheet
from lean_ledger.core.part.model import Part
from lean_ledger.core.shop.shopping import Buy

Row = tuple[str | int | float, ...]

OPERATION_HEAD = (
    "setup", "operation", "name", "tool", "tool description", "n rpm", "vf mm/min", "ap mm", "passes", "cutting s",
    "other s", "total s",
)  # fmt: skip
ZERO_HEAD = (
    "setup", "piece", "in", "offset", "angle deg", "X mm", "Y mm", "Z mm", "shift X mm", "shift Y mm", "shift Z mm",
)  # fmt: skip
TOOL_HEAD = ("setup", "tool", "description", "stick-out mm", "minutes in cut", "where")


def operation_rows(sheet: SetupSheet) -> list[Row]:
    return [
        (
            s.id, o.number, o.name, o.tool, o.tool_description, round(o.n), round(o.vf), round(o.ap, 3), o.passes,
            round(o.cutting, 2), round(o.other, 2), round(o.total, 2),
        )
        for s in sheet.setups
        for o in s.operations
    ]  # fmt: skip


def tool_rows(sheet: SetupSheet) -> list[Row]:
    return [
        (s.id, t.number, t.description, t.stick_out, round(t.minutes, 3), t.where)
        for s in sheet.setups for t in s.tools
    ]  # fmt: skip


def zero_rows(ledger: Ledger, part: Part) -> list[Row]:
    """Each piece's zero, of each way that it is cut from, as planned, in the machine's coordinates; where pieces share
    an offset also how far each is off the zero that the control is told.
    """
    where = {(load.decision.id, one.place.id): one.lies for load in ledger.setups for one in load.placed}
    return [
        (
            o.setup, o.place, where[o.setup, o.place], o.word or "none left", round(o.angle, 3),
            *(round(v, 4) for v in o.machine), *(round(v, 4) for v in o.local),
        )
        for o in offsets_of(ledger, part)
    ]  # fmt: skip


def shopping_head(quantities: Sequence[int]) -> tuple[str, ...]:
    return ("what", "id", *(f"for {quantity}" for quantity in quantities), "price each")


def shopping_rows(buys: Sequence[Buy]) -> list[Row]:
    """A tool that is missing has neither id nor price: it is to be found first."""
    return [(b.words, b.id or "to be found", *b.needed, "" if b.price is None else f"{b.price:.2f}") for b in buys]


def as_csv(head: tuple[str, ...], rows: list[Row]) -> bytes:
    """UTF-8 with a byte order mark, so that spreadsheets read Ø and × as they are."""
    text = StringIO()
    writer = csv.writer(text, lineterminator="\r\n")
    writer.writerow(head)
    writer.writerows([for_csv(cell) for cell in row] for row in rows)
    return text.getvalue().encode("utf-8-sig")


def as_xlsx(title: str, head: tuple[str, ...], rows: list[Row], on: date) -> bytes:
    book = Workbook()
    page = book.active
    assert page is not None
    page.title = title
    page.append(head)
    for row in rows:
        page.append([ILLEGAL_CHARACTERS_RE.sub("", cell) if isinstance(cell, str) else cell for cell in row])
    for cells in page.iter_rows():
        for cell in cells:
            if cell.data_type == "f":  # text that begins with an equals sign is no formula
                cell.data_type = "s"
    for cell in page[1]:
        cell.font = Font(bold=True)
    for i, name in enumerate(head, start=1):
        widest = max([len(name), *(len(str(row[i - 1])) for row in rows)], default=8)
        page.column_dimensions[get_column_letter(i)].width = min(widest + 2, 60)
    page.freeze_panes = "A2"
    stamp = datetime.combine(on, time())
    book.properties.created = stamp
    book.properties.modified = stamp
    file = BytesIO()
    book.save(file)
    return _undated(file.getvalue(), stamp)


def _undated(content: bytes, stamp: datetime) -> bytes:
    """Pack the same entries with a fixed date: the same plan gives the same bytes."""
    packed = BytesIO()
    with ZipFile(BytesIO(content)) as old, ZipFile(packed, "w", ZIP_DEFLATED) as new:
        for name in old.namelist():
            data = old.read(name)
            if name == "docProps/core.xml":
                data = _fixed_modified(data, stamp)
            info = ZipInfo(name, (1980, 1, 1, 0, 0, 0))
            info.compress_type = ZIP_DEFLATED
            new.writestr(info, data)
    return packed.getvalue()


def _fixed_modified(data: bytes, stamp: datetime) -> bytes:
    import re

    fixed = stamp.strftime("%Y-%m-%dT%H:%M:%SZ").encode()
    return re.sub(rb"(<dcterms:modified[^>]*>)[^<]*", rb"\g<1>" + fixed, data)
