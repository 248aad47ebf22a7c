"""Cutting data as CSV: a row for each family of tools and material, with where it comes from."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from functools import partial

from lean_ledger.core.basis.bounds import CUTTING_BOUNDS, read_decimal
from lean_ledger.core.basis.errors import ProblemError
from lean_ledger.core.basis.plain_text import check_name
from lean_ledger.core.files.csv_input import csv_cells, read_table
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
    writer.writerows(csv_cells(cutting_row(data)) for data in rows)
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


def check_cutting(data: CuttingData) -> None:
    """Raises ProblemError for a row that no file would have brought in; for rows that were kept before."""
    if len(data.fz) != len(FZ_COLUMNS):
        words = f"there are feeds for {len(data.fz)} diameters; {len(FZ_COLUMNS)} are needed"
        raise ProblemError("fz", words, f"{data.family} in {data.material}")
    row = cutting_row(data)
    for name in NUMBERS:
        if not _holds(name, float(row[name]), data.family):
            words = f"{name} is {row[name]}; it must be {CUTTING_BOUNDS[name].words}"
            raise ProblemError("out-of-range", words, f"{data.family} in {data.material}")
    if data.vc_most < data.vc:
        raise ProblemError("most", "VC_MOST is less than VC", f"{data.family} in {data.material}")


def _holds(name: str, value: float, family: str) -> bool:
    """Feeds of taps and thread inserts are the thread's pitch: 0 stands for them."""
    by_pitch = family in ("tap", "thread-insert") and name.startswith("FZ_")
    return CUTTING_BOUNDS[name].hold(value) or (by_pitch and value == 0)


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
        check_name(row[needed], f"{place}, {needed}")
    numbers = {}
    for name in NUMBERS:
        at = f"{place}, {name}"
        value = float(read_decimal(row[name], partial(_refused, at)))
        if not _holds(name, value, row["FAMILY"]):
            raise ProblemError("out-of-range", f"is {row[name]}; it must be {CUTTING_BOUNDS[name].words}", at)
        numbers[name] = value
    if numbers["VC_MOST"] < numbers["VC"]:
        raise ProblemError("most", "the most is less than the usual: VC_MOST from VC on", place)
    return CuttingData(
        row["FAMILY"], row["MATERIAL"], numbers["VC"],
        tuple((d, numbers[column.upper()]) for d, column in FZ_COLUMNS), numbers["LIFE_MINUTES"], row["SOURCE"],
        numbers["VC_MOST"], numbers["FZ_MOST"], numbers["LIFE_VC"], numbers["LIFE_FZ"],
    )  # fmt: skip


def _refused(place: str, code: str, words: str) -> ProblemError:
    return ProblemError(code, words, place)
