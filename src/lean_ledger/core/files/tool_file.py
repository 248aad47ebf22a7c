"""Tools as CSV and JSON with the property names of ISO 13399: what the shop has, in and out.

One row is one tool: words of our own for what the standard leaves to the shop (ID, KIND, FAMILY, HOLDER …), the
standard's symbols for what can be measured (docs/formats.md has the list). Every refusal is a ProblemError that names
the row, the column and the reason; a file is taken whole or not at all.
"""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from lean_ledger.core.basis.bounds import TOOL_BOUNDS, read_decimal
from lean_ledger.core.basis.errors import ProblemError
from lean_ledger.core.basis.plain_text import check_name
from lean_ledger.core.files.csv_input import Rows, csv_cells, read_table
from lean_ledger.core.files.json_input import check_format, parse_json, read_list
from lean_ledger.library.types import Holder, Library, Tool, ToolKind

FORMAT = "lean-ledger/tools@1"
MOST_ROWS = 5000
OWN = ("ID", "NUMBER", "KIND", "DESCRIPTION", "FAMILY", "MATERIAL", "HOLDER", "PRICE")
MEASURES = (
    "DC",
    "DMIN",
    "DCN",
    "DCX",
    "CW",
    "ZEFP",
    "RE",
    "SIG",
    "EPSR",
    "PNA",
    "KAPR",
    "APMX",
    "LCF",
    "CDX",
    "LU",
    "DN",
    "LPR",
    "OAL",
    "TP",
)
COLUMNS = (*OWN[:6], *MEASURES, *OWN[6:])

_POINTED = (ToolKind.DRILL, ToolKind.SPOT_DRILL, ToolKind.COUNTERSINK, ToolKind.CHAMFER_MILL)
_FLUTED = (ToolKind.DRILL, ToolKind.SPOT_DRILL, ToolKind.TAP, ToolKind.REAMER)
_PLUNGING = (ToolKind.GROOVING, ToolKind.BORE_GROOVING, ToolKind.THREADING, ToolKind.PROFILING)
_FAMILIES = {
    ToolKind.FACE_MILL: "face-mill", ToolKind.DRILL: "drill", ToolKind.SPOT_DRILL: "spot-drill", ToolKind.TAP: "tap",
    ToolKind.THREAD_MILL: "thread-mill",
    ToolKind.REAMER: "reamer", ToolKind.BORING_HEAD: "boring-head",
    ToolKind.CHAMFER_MILL: "chamfer-mill", ToolKind.COUNTERSINK: "countersink",
    ToolKind.TURNING: "turning-insert", ToolKind.BORING_BAR: "boring-insert", ToolKind.GROOVING: "groove-insert",
    ToolKind.BALL_MILL: "ball-mill", ToolKind.T_SLOT_MILL: "t-slot-mill", ToolKind.DOVETAIL_MILL: "dovetail-mill",
    ToolKind.THREADING: "thread-insert", ToolKind.BORE_GROOVING: "groove-insert", ToolKind.PROBE: "probe",
    ToolKind.PROFILING: "turning-insert",
}  # fmt: skip
_OF_STEEL = (ToolKind.TAP, ToolKind.REAMER, ToolKind.COUNTERSINK)
_NOSE = 1.4  # × diameter: the least nose of a holder that the rule takes


def symbols(kind: ToolKind) -> dict[str, str]:
    """The ISO 13399 symbol of each of a tool's measures, as its kind calls it."""
    width = {
        ToolKind.BORING_HEAD: "DCN", ToolKind.BORING_BAR: "DMIN", ToolKind.BORE_GROOVING: "DMIN",
        ToolKind.GROOVING: "CW",
    }.get(kind, "DC")  # fmt: skip
    depth = "CDX" if kind in _PLUNGING else "LCF" if kind in _FLUTED else "APMX"
    found = {"flutes": "ZEFP", "cutting_length": depth, "reach": "LPR", "overall": "OAL", "corner_radius": "RE"}
    if kind not in (ToolKind.TURNING, ToolKind.THREADING, ToolKind.PROFILING):
        found["diameter"] = width
    if kind == ToolKind.BORE_GROOVING:
        found["width"] = "CW"
    if kind == ToolKind.BORING_HEAD:
        found |= {"widest": "DCX", "cutting_length": "LU"}
    if kind in (ToolKind.T_SLOT_MILL, ToolKind.DOVETAIL_MILL):
        found["neck"] = "DN"
    if kind == ToolKind.DOVETAIL_MILL:
        found["tip_angle"] = "KAPR"
    if kind == ToolKind.THREADING:
        found["tip_angle"] = "PNA"
    if kind in _POINTED:
        found["tip_angle"] = "SIG"
    if kind in (ToolKind.TURNING, ToolKind.PROFILING):
        found["tip_angle"] = "EPSR"
    if kind in (ToolKind.TAP, ToolKind.THREAD_MILL):
        found["pitch"] = "TP"
    return found


_LEFT_OUT = {"overall", "corner_radius"}  # measures that a file may leave out


@dataclass(frozen=True)
class Brought:
    """Tools of a file, and what was settled by the rule or not used, in words."""

    tools: tuple[Tool, ...]
    notes: tuple[str, ...]


def tool_row(tool: Tool) -> dict[str, str]:
    """A tool under the columns of the file; what its kind does not have is empty."""
    row = dict.fromkeys(COLUMNS, "")
    row |= {
        "ID": tool.id, "NUMBER": str(tool.number), "KIND": tool.kind.value, "DESCRIPTION": tool.description,
        "FAMILY": tool.family, "MATERIAL": tool.material, "HOLDER": tool.holder.id, "PRICE": str(tool.price),
    }  # fmt: skip
    for field, symbol in symbols(tool.kind).items():
        value = getattr(tool, field)
        if value or field not in _LEFT_OUT:
            row[symbol] = f"{value:.10g}"
    return row


def tools_csv(tools: Sequence[Tool]) -> str:
    out = io.StringIO()
    writer = csv.DictWriter(out, COLUMNS, lineterminator="\n")
    writer.writeheader()
    writer.writerows(csv_cells(tool_row(tool)) for tool in tools)
    return out.getvalue()


def tools_json(tools: Sequence[Tool]) -> str:
    """Measures as numbers, what a tool does not have left out."""
    rows = []
    for tool in tools:
        row: dict[str, Any] = {name: value for name, value in tool_row(tool).items() if value != ""}
        for name in (*MEASURES, "NUMBER"):
            if name in row:
                number = float(row[name])
                row[name] = int(number) if number == int(number) else number
        rows.append(row)
    return json.dumps({"format": FORMAT, "tools": rows}, indent=1, ensure_ascii=False) + "\n"


def read_tools(text: str, library: Library) -> Brought:
    """Tools from CSV or JSON text. Raises ProblemError for anything but whole and sound tools."""
    rows = _json_rows(text) if text.lstrip().startswith(("{", "[")) else read_table(text, ("ID", "KIND"), COLUMNS)
    if not rows:
        raise ProblemError("empty", "there is no tool in it", "the file")
    if len(rows) > MOST_ROWS:
        raise ProblemError("too-many", f"{len(rows)} tools; at most {MOST_ROWS} are read at once", "the file")
    notes: dict[str, None] = {}
    ignored = sorted({name for _, row in rows for name, value in row.items() if name not in COLUMNS and value != ""})
    if ignored:
        notes[f"not used: {', '.join(ignored)}"] = None
    given = {row.get("ID", "") for _, row in rows}
    taken = {tool.number: tool.id for tool in library.tools if tool.id not in given}
    found: dict[str, Tool] = {}
    for place, row in rows:
        tool = _tool(place, row, library, taken, notes)
        if tool.id in found:
            raise ProblemError("twice", f"{tool.id} stands here a second time", f"{place}, ID")
        found[tool.id], taken[tool.number] = tool, tool.id
    return Brought(tuple(found.values()), tuple(notes))


def check_tool(tool: Tool) -> None:
    """Raises ProblemError for a tool that no file would have brought in; for rows that were kept before."""
    for field, symbol in symbols(tool.kind).items():
        value = getattr(tool, field)
        if not TOOL_BOUNDS[symbol].hold(value) and not (value == 0 and field in _LEFT_OUT):
            raise ProblemError(
                "out-of-range", f"{symbol} is {value:g}; it must be {TOOL_BOUNDS[symbol].words}", tool.id
            )
    if not TOOL_BOUNDS["PRICE"].hold(tool.price):
        raise ProblemError("out-of-range", f"its price must be {TOOL_BOUNDS['PRICE'].words}", tool.id)


def with_tools(library: Library, tools: Sequence[Tool]) -> tuple[Tool, ...]:
    """The library's tools with others in place of those of the same id, new ones at the end."""
    own = {tool.id: tool for tool in tools}
    kept = [own.pop(tool.id, tool) for tool in library.tools]
    return (*kept, *own.values())


Row = Mapping[str, str]


def _json_rows(text: str) -> Rows:
    data = parse_json(text)
    check_format(data, FORMAT)
    rows: Rows = []
    for i, row in enumerate(read_list(data.get("tools"), "tools")):
        if not isinstance(row, dict):
            raise ProblemError("not-an-object", "an object is needed here", f"tools[{i}]")
        rows.append((f"tools[{i}]", {str(name).upper(): "" if v is None else str(v) for name, v in row.items()}))
    return rows


def _tool(place: str, row: Row, library: Library, taken: Mapping[int, str], notes: dict[str, None]) -> Tool:
    def cell(name: str) -> str:
        return row.get(name, "")

    def at(name: str) -> str:
        return f"{place}, {name}"

    id = cell("ID")
    if not id:
        raise ProblemError("missing", "a tool needs an id of its own", at("ID"))
    for name in ("ID", "DESCRIPTION"):
        check_name(cell(name), at(name))
    kinds = [kind.value for kind in ToolKind]
    if cell("KIND") not in kinds:
        raise ProblemError("kind", f"is {cell('KIND')!r}; it must be one of {', '.join(kinds)}", at("KIND"))
    kind = ToolKind(cell("KIND"))
    wanted = symbols(kind)
    values: dict[str, float] = {}
    for field, symbol in wanted.items():
        if not cell(symbol) and field in _LEFT_OUT:
            continue
        values[field] = float(_measure(cell(symbol), at(symbol), symbol, kind))
    _consistent(values, wanted, at)
    number = _free_number(cell("NUMBER"), at("NUMBER"), id, library, taken, notes)
    diameter = values.get("diameter", 0.0)
    return Tool(
        number=number,
        id=id,
        kind=kind,
        family=_family(cell("FAMILY"), at("FAMILY"), kind, int(values["flutes"]), library, notes),
        description=cell("DESCRIPTION") or f"{kind.value.replace('_', ' ').capitalize()} {diameter:g}",
        diameter=diameter,
        flutes=int(values["flutes"]),
        corner_radius=values.get("corner_radius", 0.0),
        tip_angle=values.get("tip_angle", 0.0),
        cutting_length=values["cutting_length"],
        reach=values["reach"],
        pitch=values.get("pitch", 0.0),
        holder=_holder(cell("HOLDER"), at("HOLDER"), kind, diameter, library, notes),
        price=_measure(cell("PRICE") or "0", at("PRICE"), "PRICE", kind),
        material=_material(cell("MATERIAL"), at("MATERIAL"), kind),  # type: ignore[arg-type]
        overall=values.get("overall", 0.0),
        neck=values.get("neck", 0.0),
        width=values.get("width", 0.0),
        widest=values.get("widest", 0.0),
    )  # fmt: skip


def _measure(text: str, place: str, symbol: str, of: ToolKind) -> Decimal:
    if not text:
        raise ProblemError("missing", f"is empty; every {of.value.replace('_', ' ')} has one", place)
    value = read_decimal(text, lambda code, words: ProblemError(code, words, place))
    bounds = TOOL_BOUNDS[symbol]
    if bounds.whole and value != int(value):
        raise ProblemError("not-whole", f"is {text}; edges are counted", place)
    if not bounds.hold(value):
        raise ProblemError("out-of-range", f"is {text}; it must be {bounds.words}", place)
    return value


def _consistent(values: Mapping[str, float], wanted: Mapping[str, str], at: Any) -> None:
    """What one measure says against another."""
    diameter, overall = values.get("diameter", 0.0), values.get("overall", 0.0)
    radius = values.get("corner_radius", 0.0)
    if diameter and radius > diameter / 2 + 1e-9:
        raise ProblemError(
            "radius", f"is {radius:g}; half of {wanted['diameter']} {diameter:g} is the most", at("RE")
        )  # fmt: skip
    if values.get("widest", diameter) < diameter:
        raise ProblemError("range", f"is {values['widest']:g}; it must not be below DCN {diameter:g}", at("DCX"))
    if values.get("tip_angle", 1.0) > 180:
        raise ProblemError("angle", f"is {values['tip_angle']:g}; 180 is flat", at(wanted["tip_angle"]))
    for field in ("cutting_length", "reach"):
        if overall and values[field] > overall + 1e-9:
            raise ProblemError(
                "too-long", f"is {values[field]:g}; the whole tool is {overall:g} long (OAL)", at(wanted[field])
            )  # fmt: skip


def _free_number(
    text: str, place: str, id: str, library: Library, taken: Mapping[int, str], notes: dict[str, None]
) -> int:
    if text:
        if not text.isdecimal() or not 0 < int(text) < 10_000:
            raise ProblemError("number", f"is {text!r}; a tool's number goes from 1 to 9999", place)
        if int(text) in taken:
            raise ProblemError("number-taken", f"{text} is {taken[int(text)]}'s number; leave it empty for a free one",
                               place)  # fmt: skip
        return int(text)
    before = library.tool(id)
    if before is not None and before.number not in taken:
        return before.number
    free = next(n for n in range(1, 10_000) if n not in taken)
    notes[f"{id}: the free number {free}"] = None
    return free


def _family(text: str, place: str, kind: ToolKind, flutes: int, library: Library, notes: dict[str, None]) -> str:
    known = sorted({data.family for data in library.cutting})
    if not text:
        text = _FAMILIES.get(kind, "end-mill-3" if flutes < 4 else "end-mill-4")
        notes[f"cutting data of {text} for each {kind.value.replace('_', ' ')} without FAMILY"] = None
    if text not in known and kind != ToolKind.PROBE:  # it cuts nothing
        raise ProblemError("no-family", f"is {text!r}; there is cutting data for {', '.join(known)}", place)
    return text


def _holder(
    text: str, place: str, kind: ToolKind, diameter: float, library: Library, notes: dict[str, None]
) -> Holder:  # fmt: skip
    if text:
        found = next((h for h in library.holders if h.id == text), None)
        if found is None:
            names = ", ".join(h.id for h in library.holders)
            raise ProblemError("no-holder", f"is {text!r}; the shop has {names}", place)
        return found
    usual = {t.holder.id: t.holder for t in library.tools if t.kind == kind}
    wide = [h for h in usual.values() if h.diameter >= _NOSE * diameter]
    best = min(wide, key=lambda h: h.diameter) if wide else max(usual.values(), key=lambda h: h.diameter)
    notes[f"{best.id} for a tool without HOLDER"] = None
    return best


def _material(text: str, place: str, kind: ToolKind) -> str:
    if text and text not in ("carbide", "hss"):
        raise ProblemError("material", f"is {text!r}; it must be carbide or hss", place)
    return text or ("hss" if kind in _OF_STEEL else "carbide")
