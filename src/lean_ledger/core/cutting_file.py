"""Cutting data as CSV: a row for each family of tools and material, with where it comes from."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from decimal import Decimal, InvalidOperation

from lean_ledger.core.csv_input import read_table
from lean_ledger.core.errors import ProblemError
from lean_ledger.library.load import FZ_COLUMNS
from lean_ledger.library.types import CuttingData, Library

NUMBERS = ("VC", "FZ_3", "FZ_6", "FZ_10", "FZ_20", "LIFE_MINUTES", "VC_MOST", "FZ_MOST", "LIFE_VC", "LIFE_FZ")
COLUMNS = ("FAMILY", "MATERIAL", *NUMBERS, "SOURCE")


def cutting_row(data: CuttingData) -> dict[str, str]:
    numbers = (data.vc, *(f for _, f in data.fz), data.life_minutes, data.vc_most, data.fz_most, data.life_vc,
               data.life_fz)  # fmt: skip
    row = {"FAMILY": data.family, "MATERIAL": data.material, "SOURCE": data.source}
    return row | {name: f"{value:.10g}" for name, value in zip(NUMBERS, numbers, strict=True)}


def cutting_csv(rows: Sequence[CuttingData]) -> str:
    out = io.StringIO()
    writer = csv.DictWriter(out, COLUMNS, lineterminator="\n")
    writer.writeheader()
    writer.writerows(cutting_row(data) for data in rows)
    return out.getvalue()


def read_cutting(text: str, library: Library) -> tuple[CuttingData, ...]:
    """Raises ProblemError that names the line, the column and the reason; the file is taken whole or not at all."""
    found: dict[tuple[str, str], CuttingData] = {}
    for place, row in read_table(text, COLUMNS, COLUMNS):
        data = _data(place, row, library)
        key = (data.family, data.material)
        if key in found:
            raise ProblemError("twice", f"{data.family} in {data.material} stands here a second time", place)
        found[key] = data
    if not found:
        raise ProblemError("empty", "there is no row in it", "the file")
    return tuple(found.values())


def with_cutting(library: Library, rows: Sequence[CuttingData]) -> tuple[CuttingData, ...]:
    own = {(data.family, data.material): data for data in rows}
    kept = [own.pop((data.family, data.material), data) for data in library.cutting]
    return (*kept, *own.values())


def _data(place: str, row: dict[str, str], library: Library) -> CuttingData:
    materials = [m.id for m in library.materials]
    if row["MATERIAL"] not in materials:
        raise ProblemError("no-material", f"is {row['MATERIAL']!r}; the shop has {', '.join(materials)}",
                           f"{place}, MATERIAL")  # fmt: skip
    for needed, why in (
        ("FAMILY", "tools name their cutting data by it"),
        ("SOURCE", "say where the values come from"),
    ):
        if not row[needed]:
            raise ProblemError("missing", f"is empty; {why}", f"{place}, {needed}")
    by_pitch = row["FAMILY"] in ("tap", "thread-insert")  # their feed is the thread's pitch
    numbers = {}
    for name in NUMBERS:
        try:
            value = Decimal(row[name].replace(",", "."))
        except InvalidOperation:
            raise ProblemError("not-a-number", f"is {row[name]!r}; a number is needed", f"{place}, {name}") from None
        zero = name == "LIFE_FZ" or (by_pitch and name.startswith("FZ_"))
        if not value.is_finite() or value < 0 or (value == 0 and not zero):
            raise ProblemError("out-of-range", f"is {row[name]}; it must be above 0", f"{place}, {name}")
        numbers[name] = float(value)
    if numbers["VC_MOST"] < numbers["VC"] or numbers["FZ_MOST"] < 1:
        raise ProblemError("most", "the most is less than the usual: VC_MOST from VC on, FZ_MOST from 1", place)
    return CuttingData(
        row["FAMILY"], row["MATERIAL"], numbers["VC"],
        tuple((d, numbers[column.upper()]) for d, column in FZ_COLUMNS), numbers["LIFE_MINUTES"], row["SOURCE"],
        numbers["VC_MOST"], numbers["FZ_MOST"], numbers["LIFE_VC"], numbers["LIFE_FZ"],
    )  # fmt: skip
