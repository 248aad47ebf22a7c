"""Reading a table that someone wrote: with commas, semicolons or tabs, its columns named in the first line."""

from __future__ import annotations

import csv
import io
from collections.abc import Mapping, Sequence

from lean_ledger.core.basis.errors import ProblemError
from lean_ledger.core.basis.plain_text import check_text, for_csv, from_csv

Rows = list[tuple[str, dict[str, str]]]  # the line that each row ends at, and its cells by column


def read_table(text: str, needed: Sequence[str], known: Sequence[str]) -> Rows:
    """Rows that have anything in them; columns in capitals. Raises ProblemError with the line and the reason."""
    text = text.lstrip("\ufeff")
    head = text.split("\n", 1)[0]
    reader = csv.DictReader(io.StringIO(text), delimiter=max(",;\t", key=head.count))
    try:
        names = [name.strip().upper() for name in reader.fieldnames or []]
        lacking = [name for name in needed if name not in names]
        if lacking:
            raise ProblemError(
                "no-column", f"there is no column {', '.join(lacking)}; {', '.join(known)} are read", "line 1"
            )
        rows: Rows = []
        for values in reader:
            place = f"line {reader.line_num}"
            if None in values:
                raise ProblemError("too-many-cells", f"there are more cells than the {len(names)} columns", place)
            row = dict(zip(names, (from_csv((value or "").strip()) for value in values.values()), strict=True))
            for name, cell in row.items():
                check_text(cell, f"{place}, {name}")
            if any(row.values()):
                rows.append((place, row))
    except csv.Error as error:
        raise ProblemError("not-a-table", f"{error}", f"line {reader.line_num + 1}") from None
    return rows


def csv_cells(row: Mapping[str, str]) -> dict[str, str]:
    """A row as it is written: no cell is a formula to a spreadsheet, and `read_table` reads it as it was."""
    return {name: str(for_csv(cell)) for name, cell in row.items()}
